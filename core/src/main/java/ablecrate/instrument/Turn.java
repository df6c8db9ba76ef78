package ablecrate.instrument;

/// A zone's turn in a round robin: it sounds with every `length`th note, first with note `position`.
/// @param position 1…length
public record Turn(int position, int length) {
    /// No round robin: its turn is always.
    public static final Turn EVERY = new Turn(1, 1);
    public static final int MOST = 1000;

    public Turn {
        if (length < 1 || length > MOST || position < 1 || position > length) throw new IllegalArgumentException("turn " + position + " of " + length);
    }

    /// @param presses how often the key was struck before
    public boolean isDueAfter(int presses) { return presses % length + 1 == position; }

    @Override public String toString() { return length == 1 ? "every note" : position + " of " + length; }
}
