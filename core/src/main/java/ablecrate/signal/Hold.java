package ablecrate.signal;

/// What a limiter holds.
public sealed interface Hold {
    /// No true peak goes beyond a ceiling.
    record TruePeaks(double ceilingDbtp) implements Hold {}

    /// No sample goes beyond full scale, where an integer would cut it off; the rest stays as it is.
    record Samples() implements Hold {}

    default double ceilingDb() {
        return switch (this) {
            case TruePeaks(double ceiling) -> ceiling;
            case Samples() -> 0;
        };
    }
}
