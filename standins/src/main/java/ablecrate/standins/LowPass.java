package ablecrate.standins;

/// A resonant low-pass of two poles, for one channel of one voice; all passes where the shape says so.
/// Source of the coefficients: R. Bristow-Johnson, *Cookbook formulae for audio equalizer biquad filter coefficients*, W3C note, 2021; from memory.
final class LowPass {
    private static final double HIGHEST = 0.45;

    private final boolean isOpen;
    private double b0, b1, a1, a2, x1, x2, y1, y2;

    LowPass(Preset.Shape shape, int rateHz) {
        isOpen = shape.cutoffHz() == 0 || shape.cutoffHz() > HIGHEST * rateHz;
        if (isOpen) return;
        double w = 2 * Math.PI * shape.cutoffHz() / rateHz, q = Math.pow(10, shape.resonanceDb() / 20) * Math.sqrt(0.5), alpha = Math.sin(w) / (2 * q),
                a0 = 1 + alpha;
        b0 = (1 - Math.cos(w)) / 2 / a0;
        b1 = 2 * b0;
        a1 = -2 * Math.cos(w) / a0;
        a2 = (1 - alpha) / a0;
    }

    double pass(double x) {
        if (isOpen) return x;
        double y = b0 * (x + x2) + b1 * x1 - a1 * y1 - a2 * y2;
        x2 = x1;
        x1 = x;
        y2 = y1;
        y1 = y;
        return y;
    }
}
