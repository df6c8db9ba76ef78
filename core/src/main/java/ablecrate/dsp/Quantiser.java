package ablecrate.dsp;

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
    private static final double[] SECOND_DIFFERENCE = {2, -1};

    private final Dither dither;
    private final double step;
    private final double[] shape;
    private final long[] random;
    /// `[channel][age]`, the latest errors in steps.
    private final double[][] errors;

    /// @param bits of the integers to come
    public Quantiser(Dither dither, int bits, int rateHz, int channels) {
        this.dither = dither;
        this.step = Math.scalb(1.0, 1 - bits);
        this.shape = rateHz < 60_000 ? FIVE : SECOND_DIFFERENCE;
        this.random = new long[channels];
        for (int channel = 0; channel < channels; channel++)
            random[channel] = 0x5DEECE66DL * (channel + 1);
        this.errors = new double[channels][shape.length];
    }

    /// Works in place on frames `[0, frames)`; what comes out is to be rounded to the nearest step.
    public void process(double[][] planes, int frames) {
        for (int channel = 0; channel < planes.length; channel++)
            switch (dither) {
            case NONE -> {}
            case TPDF -> triangular(planes[channel], frames, channel);
            case SHAPED -> shaped(planes[channel], frames, channel);
            }
    }

    private void triangular(double[] plane, int frames, int channel) {
        long state = random[channel];
        for (int i = 0; i < frames; i++) {
            state += GAMMA;
            plane[i] += triangle(state) * step;
        }
        random[channel] = state;
    }

    private void shaped(double[] plane, int frames, int channel) {
        double[] past = errors[channel];
        long state = random[channel];
        for (int i = 0; i < frames; i++) {
            double wanted = plane[i] / step;
            for (int k = 0; k < past.length; k++)
                wanted -= shape[k] * past[k];
            state += GAMMA;
            double rounded = Math.rint(wanted + triangle(state));
            System.arraycopy(past, 0, past, 1, past.length - 1);
            past[0] = rounded - wanted;
            plane[i] = rounded * step;
        }
        random[channel] = state;
    }

    private static final long GAMMA = 0x9E3779B97F4A7C15L;

    /// The sum of two uniform numbers of ±½, out of one mixed state.
    /// Mixer: G. L. Steele, D. Lea, C. H. Flood, *Fast splittable pseudorandom number generators*, OOPSLA 2014.
    private static double triangle(long state) {
        long z = state;
        z = (z ^ z >>> 30) * 0xBF58476D1CE4E5B9L;
        z = (z ^ z >>> 27) * 0x94D049BB133111EBL;
        z ^= z >>> 31;
        return ((int) (z >>> 32) + (double) (int) z) * 0x1p-32;
    }
}
