package ablecrate.dsp;

import java.util.Arrays;

/// Prepares samples for rounding to an integer depth: adds the dither, shapes the noise. One per stream; not for two threads.
///
/// The noise is the same in every run, so that the same input gives the same bytes; each channel has its own.
///
/// Sources: S. P. Lipshitz, R. A. Wannamaker, J. Vanderkooy, *Quantization and dither: a theoretical survey*, JAES 40(5), 1992
/// (triangular, 2 steps wide); S. P. Lipshitz, J. Vanderkooy, R. A. Wannamaker, *Minimally audible noise shaping*,
/// JAES 39(11), 1991 (five coefficients, for 44.1 kHz; from memory).
public final class Quantiser {
    private static final double[] FIVE = {2.033, -2.165, 1.959, -1.590, 0.6149};
    /// Where there is room above the audible band a plain second difference moves the noise there.
    private static final double[] SECOND_DIFFERENCE = {2, -1, 0, 0, 0};

    private final Dither dither;
    private final double step;
    private final double[] shape;
    private final TriangularNoise[] noise;
    /// `[channel][age]`, the latest errors in steps.
    private final double[][] errors;

    /// @param bits of the integers to come
    public Quantiser(Dither dither, int bits, int rateHz, int channels) {
        this.dither = dither;
        this.step = Math.scalb(1.0, 1 - bits);
        this.shape = rateHz < 60_000 ? FIVE : SECOND_DIFFERENCE;
        this.noise = new TriangularNoise[channels];
        for (int channel = 0; channel < channels; channel++)
            noise[channel] = new TriangularNoise(channel);
        this.errors = new double[channels][shape.length];
    }

    /// How far, in steps, rounding takes a sample at most from what it was: half a step by itself, one more by triangular noise, and shaped the errors before it as
    /// well.
    public int reachSteps() {
        double error = dither == Dither.NONE ? 0.5 : 1.5;
        return (int) Math.ceil(dither == Dither.SHAPED ? error * (1 + Arrays.stream(shape).map(Math::abs).sum()) : error);
    }

    /// Works in place on frames `[0, frames)`; what comes out is to be rounded to the nearest step.
    public void process(double[][] planes, int frames) {
        for (int channel = 0; channel < planes.length; channel++)
            switch (dither) {
            case NONE -> {}
            case TPDF -> noise[channel].addTo(planes[channel], frames, step);
            case SHAPED -> shaped(planes[channel], frames, noise[channel], errors[channel]);
            }
    }

    private void shaped(double[] plane, int frames, TriangularNoise noise, double[] past) {
        double s0 = shape[0], s1 = shape[1], s2 = shape[2], s3 = shape[3], s4 = shape[4];
        double e0 = past[0], e1 = past[1], e2 = past[2], e3 = past[3], e4 = past[4];
        for (int i = 0; i < frames; i++) {
            double wanted = plane[i] / step - s4 * e4 - s3 * e3 - s2 * e2 - s1 * e1 - s0 * e0, rounded = Math.rint(wanted + noise.next());
            e4 = e3;
            e3 = e2;
            e2 = e1;
            e1 = e0;
            e0 = rounded - wanted;
            plane[i] = rounded * step;
        }
        past[0] = e0;
        past[1] = e1;
        past[2] = e2;
        past[3] = e3;
        past[4] = e4;
    }
}
