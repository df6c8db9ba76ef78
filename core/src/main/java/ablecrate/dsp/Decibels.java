package ablecrate.dsp;

import java.util.OptionalDouble;

/// Between factors of amplitude and decibels.
public final class Decibels {
    private Decibels() {}

    public static double toFactor(double db) { return Math.pow(10, db / 20); }

    /// −∞ for 0.
    public static double ofFactor(double factor) { return 20 * Math.log10(factor); }

    /// Empty for 0.
    static OptionalDouble known(double factor) { return factor > 0 ? OptionalDouble.of(ofFactor(factor)) : OptionalDouble.empty(); }
}
