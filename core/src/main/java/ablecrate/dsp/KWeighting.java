package ablecrate.dsp;

/// The two filters through which loudness is measured, one after the other, for one channel; at any rate.
///
/// The recommendation prints coefficients for 48 kHz only; these are the analogue prototypes behind them, mapped by the bilinear
/// transform, and give the printed coefficients at 48 kHz (a test holds it).
///
/// Sources: ITU-R BS.1770-5, annex 1 (the 48 kHz coefficients); B. De Man, *Evaluation of implementations of the EBU R128 loudness
/// measurement*, AES 145, 2018 (the prototypes; from memory).
final class KWeighting {
    private final double s0, s1, s2, sa1, sa2, ha1, ha2;
    private double shelf1, shelf2, pass1, pass2;

    KWeighting(int rateHz) {
        double k = Math.tan(Math.PI * 1681.974450955533 / rateHz), q = 0.7071752369554196;
        double high = Math.pow(10, 3.999843853973347 / 20), band = Math.pow(high, 0.4996667741545416);
        double a0 = 1 + k / q + k * k;
        s0 = (high + band * k / q + k * k) / a0;
        s1 = 2 * (k * k - high) / a0;
        s2 = (high - band * k / q + k * k) / a0;
        sa1 = 2 * (k * k - 1) / a0;
        sa2 = (1 - k / q + k * k) / a0;
        double kh = Math.tan(Math.PI * 38.13547087602444 / rateHz), qh = 0.5003270373238773;
        double h0 = 1 + kh / qh + kh * kh;
        ha1 = 2 * (kh * kh - 1) / h0;
        ha2 = (1 - kh / qh + kh * kh) / h0;
    }

    /// The coefficients `b0 b1 b2 a1 a2` of the shelf, then of the high-pass, as the recommendation prints them.
    double[][] coefficients() { return new double[][]{{s0, s1, s2, sa1, sa2}, {1, -2, 1, ha1, ha2}}; }

    /// The sum of the squares of what comes out for the next `count` samples.
    double energy(double[] x, int from, int count) {
        double z1 = shelf1, z2 = shelf2, y1 = pass1, y2 = pass2, sum = 0;
        for (int i = from; i < from + count; i++) {
            // Transposed direct form II: the state is the filter's memory, two numbers a stage.
            double in = x[i], shelf = s0 * in + z1;
            z1 = s1 * in - sa1 * shelf + z2;
            z2 = s2 * in - sa2 * shelf;
            double out = shelf + y1;
            y1 = -2 * shelf - ha1 * out + y2;
            y2 = shelf - ha2 * out;
            sum += out * out;
        }
        // Numbers that fade away below anything audible would become slow to compute with.
        shelf1 = settled(z1);
        shelf2 = settled(z2);
        pass1 = settled(y1);
        pass2 = settled(y2);
        return sum;
    }

    private static double settled(double state) { return Math.abs(state) < 1e-30 ? 0 : state; }
}
