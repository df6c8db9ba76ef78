package ablecrate.dsp;

/// A low-pass: a sinc under a Kaiser window, linear phase.
///
/// For rate conversion ([#forRatio]): passband to [#PASSBAND] of the lower Nyquist frequency, everything from that Nyquist frequency
/// on at least [#ATTENUATION_DB] dB down. The length follows from these by Kaiser's formula; window and formula:
/// J. F. Kaiser, *Nonrecursive digital filter design using the I0-sinh window function*, 1974;
/// A. V. Oppenheim, R. W. Schafer, *Discrete-Time Signal Processing*, section 7.5 (from memory).
final class KaiserSinc {
    /// Of the lower Nyquist frequency: 20.9 kHz at 44.1 kHz.
    static final double PASSBAND = 0.95;
    static final double ATTENUATION_DB = 180;

    /// Of the input rate: where the response is half.
    private final double cutoff;
    private final double halfWidth, beta, middle;

    /// All frequencies in cycles per input frame.
    /// @param passband up to which everything passes
    /// @param stopband from which on everything is `attenuationDb` down, 50 at least
    KaiserSinc(double passband, double stopband, double attenuationDb) {
        cutoff = (passband + stopband) / 2;
        halfWidth = (attenuationDb - 7.95) / (14.36 * (stopband - passband)) / 2;
        beta = 0.1102 * (attenuationDb - 8.7);
        middle = besselI0(beta);
    }

    /// @param outputPerInput the ratio of the rates; going down, Nyquist of the output rules
    static KaiserSinc forRatio(double outputPerInput) {
        double nyquist = 0.5 * Math.min(1, outputPerInput);
        return new KaiserSinc(PASSBAND * nyquist, nyquist, ATTENUATION_DB);
    }

    /// Input frames on each side of an output frame that take part in it.
    int reach() { return (int) Math.ceil(halfWidth); }

    /// @param t distance from the output frame, in input frames
    double at(double t) {
        double u = t / halfWidth;
        if (Math.abs(u) >= 1) return 0;
        double x = 2 * Math.PI * cutoff * t;
        double sinc = Math.abs(x) < 1e-9 ? 1 : Math.sin(x) / x;
        return 2 * cutoff * sinc * besselI0(beta * Math.sqrt(1 - u * u)) / middle;
    }

    /// The Kaiser window alone, 1 in the middle.
    /// @param u −1…1 from edge to edge
    static double window(double u, double shape) { return besselI0(shape * Math.sqrt(Math.max(0, 1 - u * u))) / besselI0(shape); }

    /// Modified Bessel function of the first kind, order 0, by its power series. Exact to the last bits for 0 ≤ x ≤ 30.
    private static double besselI0(double x) {
        double sum = 1, term = 1, quarter = x * x / 4;
        for (int k = 1; term > sum * 1e-18; k++) {
            term *= quarter / ((double) k * k);
            sum += term;
        }
        return sum;
    }
}
