package ablecrate.fit;

import java.util.function.BooleanSupplier;

/// Thrown where somebody does not want to know any more.
final class Stopped extends RuntimeException {
    private Stopped() { super(null, null, false, false); }

    static void check(BooleanSupplier stopped) {
        if (stopped.getAsBoolean()) throw new Stopped();
    }
}
