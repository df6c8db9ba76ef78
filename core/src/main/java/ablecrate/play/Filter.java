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
    private double b0, b1, b2, a1, a2;

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
        b1 = x1 / a0;
        b2 = x2 / a0;
        a1 = -2 * cos / a0;
        a2 = (1 - alpha) / a0;
    }

    /// @param x samples of one channel, replaced by what the filter makes of them
    void process(double[] x, int count) {
        double s0 = state[0][0], s1 = state[0][1];
        for (int i = 0; i < count; i++) {
            double in = x[i], y = b0 * in + s0;
            s0 = b1 * in + s1 - a1 * y;
            s1 = b2 * in - a2 * y;
            x[i] = y;
        }
        keep(0, s0, s1);
    }

    /// Two channels side by side: each waits for its own last frame, and meanwhile the other one goes on.
    void process(double[] left, double[] right, int count) {
        double l0 = state[0][0], l1 = state[0][1], r0 = state[1][0], r1 = state[1][1];
        for (int i = 0; i < count; i++) {
            double in = left[i], y = b0 * in + l0;
            l0 = b1 * in + l1 - a1 * y;
            l1 = b2 * in - a2 * y;
            left[i] = y;
            in = right[i];
            y = b0 * in + r0;
            r0 = b1 * in + r1 - a1 * y;
            r1 = b2 * in - a2 * y;
            right[i] = y;
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
