package ablecrate.format;

import java.util.function.UnaryOperator;

/// How a format carries a parameter: exactly, or on steps of its own.
/// @param how for people: `exact`, `whole cents`
/// @param step the value that comes back when this one is written and read
public record Precision<T>(String how, UnaryOperator<T> step) {
    public static <T> Precision<T> exactly() { return new Precision<>("yes", v -> v); }

    public static <T> Precision<T> as(String how, UnaryOperator<T> step) { return new Precision<>(how, step); }

    // Adding 0 makes minus zero zero.

    /// Numbers in whole steps, between two bounds.
    public static Precision<Double> steps(String how, double step, double lowest, double highest) {
        return new Precision<>(how, v -> Math.rint(Math.clamp(v, lowest, highest) / step) * step + 0.0);
    }

    /// Numbers in whole `parts` of one, between two bounds. The division makes the number that a decimal text of it is read as.
    public static Precision<Double> parts(String how, double parts, double lowest, double highest) {
        return new Precision<>(how, v -> Math.rint(Math.clamp(v, lowest, highest) * parts) / parts + 0.0);
    }
}
