package ablecrate.option;

/// What options refuse, in the same words wherever they come from: command line, window, presets, jobs.
final class Bounds {
    private Bounds() {}

    /// @param holds false as well for what is no number
    /// @throws IllegalArgumentException with the message and the value
    static void require(boolean holds, String message, double value) {
        if (!holds) throw new IllegalArgumentException(message + " " + (value == Math.rint(value) ? Long.toString((long) value) : Double.toString(value)));
    }
}
