package ablecrate.option;

import java.util.Optional;

/// An option that a user may leave to the destination, ask to be as the source, or set.
public sealed interface Choice<T> {
    /// What is chosen, if it is said.
    /// @param preferred by the destination
    Optional<T> or(Optional<T> preferred);

    /// As the destination prefers.
    record AsDestination<T>() implements Choice<T> {
        @Override public Optional<T> or(Optional<T> preferred) { return preferred; }
    }

    /// As the source, wherever the destination accepts that.
    record Keep<T>() implements Choice<T> {
        @Override public Optional<T> or(Optional<T> preferred) { return Optional.empty(); }
    }

    record Of<T>(T value) implements Choice<T> {
        @Override public Optional<T> or(Optional<T> preferred) { return Optional.of(value); }
    }

    static <T> Choice<T> asDestination() { return new AsDestination<>(); }

    static <T> Choice<T> keep() { return new Keep<>(); }

    static <T> Choice<T> of(T value) { return new Of<>(value); }
}
