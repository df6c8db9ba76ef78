package ablecrate.plan;

/// An option that a user may leave to the destination, ask to be as the source, or set.
public sealed interface Choice<T> {
    /// As the destination prefers.
    record AsDestination<T>() implements Choice<T> {}

    /// As the source, wherever the destination accepts that.
    record Keep<T>() implements Choice<T> {}

    record Of<T>(T value) implements Choice<T> {}

    static <T> Choice<T> asDestination() { return new AsDestination<>(); }

    static <T> Choice<T> keep() { return new Keep<>(); }

    static <T> Choice<T> of(T value) { return new Of<>(value); }
}
