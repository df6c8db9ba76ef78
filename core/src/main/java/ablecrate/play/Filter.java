package ablecrate.play;

import ablecrate.instrument.FilterKind;

/// A filter of second order.
/// Source: R. Bristow-Johnson, *Cookbook formulae for audio equalizer biquad filter coefficients*, 2005.
final class Filter {
    private static final double SILENT = 1e-30;

    private final FilterKind kind;
    private final int rateHz;
    private final double[][] state;
    private final double q;
    /// Of the transposed form, with its output put into its states: these then wait for each other half as long.
    private double b0, toFirst, toSecond, a1, a2;

    Filter(FilterKind kind, int rateHz, int channels, double resonanceDb) {
        this.kind = kind;
        this.rateHz = rateHz;
        state = new double[channels][2];
        q = Math.pow(10, resonanceDb / 20) * Math.sqrt(0.5);
    }

    void tune(double hertz) {
        double w = 2 * Math.PI * Math.clamp(hertz, 5, 0.49 * rateHz) / rateHz, cos = Math.cos(w), alpha = Math.sin(w) / (2 * q), a0 = 1 + alpha;
        switch (kind) {
            case HIGH_PASS -> coefficients((1 + cos) / 2, -(1 + cos), (1 + cos) / 2, a0, cos, alpha);
            case BAND_PASS -> coefficients(alpha, 0, -alpha, a0, cos, alpha);
            default -> coefficients((1 - cos) / 2, 1 - cos, (1 - cos) / 2, a0, cos, alpha);
        }
    }

    private void coefficients(double x0, double x1, double x2, double a0, double cos, double alpha) {
        b0 = x0 / a0;
        a1 = -2 * cos / a0;
        a2 = (1 - alpha) / a0;
        toFirst = x1 / a0 - a1 * b0;
        toSecond = x2 / a0 - a2 * b0;
    }

    /// @param x samples of one channel, replaced by what the filter makes of them
    void process(double[] x, int count) {
        double s0 = state[0][0], s1 = state[0][1];
        for (int i = 0; i < count; i++) {
            double in = x[i], before = s0;
            x[i] = b0 * in + before;
            s0 = Math.fma(-a1, before, toFirst * in + s1);
            s1 = Math.fma(-a2, before, toSecond * in);
        }
        keep(0, s0, s1);
    }

    /// Two channels side by side: each waits for its own last frame, and meanwhile the other one goes on.
    void process(double[] left, double[] right, int count) {
        double l0 = state[0][0], l1 = state[0][1], r0 = state[1][0], r1 = state[1][1];
        for (int i = 0; i < count; i++) {
            double in = left[i], before = l0;
            left[i] = b0 * in + before;
            l0 = Math.fma(-a1, before, toFirst * in + l1);
            l1 = Math.fma(-a2, before, toSecond * in);
            in = right[i];
            before = r0;
            right[i] = b0 * in + before;
            r0 = Math.fma(-a1, before, toFirst * in + r1);
            r1 = Math.fma(-a2, before, toSecond * in);
        }
        keep(0, l0, l1);
        keep(1, r0, r1);
    }

    /// What has died away would go on in numbers that processors take their time with.
    private void keep(int channel, double s0, double s1) {
        state[channel][0] = Math.abs(s0) < SILENT ? 0 : s0;
        state[channel][1] = Math.abs(s1) < SILENT ? 0 : s1;
    }
}
