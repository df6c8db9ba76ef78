package ablecrate.audio;

/// Puts samples on the steps that a depth holds, within its full scale, and tells what lay beyond. One per stream; not for two threads.
///
/// What comes out is to the bit what a lossless file of that depth gives back, so that whatever is measured on it is true of the file.
public final class Rounding {
    private final Depth depth;
    private final int reachSteps;
    private final double scale;
    private long clippedSamples;
    private double highest;

    /// @param reachSteps beyond full scale that rounding and dither reach by themselves, where the sound does not
    public Rounding(Depth depth, int reachSteps) {
        this.depth = depth;
        this.reachSteps = reachSteps;
        this.scale = Math.scalb(1.0, depth.bits() - 1);
    }

    /// Works in place.
    /// @param planes `[channel][frame]`, frames `[0, frames)`; 1 is full scale
    public void round(double[][] planes, int frames) {
        switch (depth) {
            case FLOAT_64 -> {}
            case FLOAT_32 -> {
                for (double[] plane : planes)
                    toFloat(plane, frames);
            }
            default -> {
                for (double[] plane : planes)
                    // What overflows the integer has the highest of its bits set as well, but for 32 of them.
                    if (depth.bits() == 32 || toSteps(plane, frames, scale, 1 / scale) >>> depth.bits() - 1 != 0) clip(plane, frames);
            }
        }
    }

    private static void toFloat(double[] plane, int frames) {
        for (int i = 0; i < frames; i++)
            plane[i] = (float) plane[i];
    }

    /// @return all bits that are set in one of the amounts
    private static int toSteps(double[] plane, int frames, double scale, double step) {
        int bits = 0;
        for (int i = 0; i < frames; i++) {
            double rounded = Math.rint(plane[i] * scale);
            int value = (int) rounded;
            plane[i] = rounded * step;
            bits |= value ^ value >> 31;
        }
        return bits;
    }

    private void clip(double[] plane, int frames) {
        double most = scale - 1, least = -scale;
        for (int i = 0; i < frames; i++) {
            double steps = Math.rint(plane[i] * scale);
            double beyond = Math.max(steps - most, least - steps);
            if (beyond > reachSteps) {
                clippedSamples++;
                highest = Math.max(highest, Math.abs(steps) / scale);
            }
            plane[i] = Math.clamp(steps, least, most) / scale;
        }
    }

    /// Samples that lay beyond full scale so far, by more than rounding does by itself. Floats have no full scale.
    public long clippedSamples() { return clippedSamples; }

    /// The farthest of them, full scale is 1; 0 where there were none.
    public double highest() { return highest; }
}
