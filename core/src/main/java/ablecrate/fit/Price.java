package ablecrate.fit;

import java.util.function.BooleanSupplier;
import java.util.function.DoublePredicate;

/// What a byte of memory may cost, in harm.
final class Price {
    private static final double MOST = 1e4, LEAST = 1e-12;
    private static final int SEARCH_STEPS = 40;

    private Price() {}

    /// The lowest price at which something holds; bytes fall as it rises.
    static double lowest(DoublePredicate holds, BooleanSupplier stopped) {
        if (holds.test(LEAST)) return LEAST;
        double low = LEAST, high = MOST;
        for (int i = 0; i < SEARCH_STEPS; i++) {
            Stopped.check(stopped);
            double middle = Math.sqrt(low * high);
            if (holds.test(middle))
                high = middle;
            else
                low = middle;
        }
        return high;
    }

    /// From the highest price, at a share of 0, to the lowest, at 1.
    static double at(double share) { return LEAST * Math.pow(MOST / LEAST, 1 - share); }
}
