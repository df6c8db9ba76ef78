package ablecrate.instrument;

/// A range of keys or velocities, both ends included as the trade says them: keys 0…127, velocities 1…127.
public record Span(int low, int high) {
    public Span {
        if (low < 0 || high > 127 || low > high) throw new IllegalArgumentException("span " + low + "…" + high);
    }

    /// Keys or velocities as a file has them; a reversed or impossible pair is brought in order and into bounds.
    public static Span lenient(int low, int high) {
        int a = Math.clamp(low, 0, 127), b = Math.clamp(high, 0, 127);
        return new Span(Math.min(a, b), Math.max(a, b));
    }

    public boolean contains(int value) { return value >= low && value <= high; }

    public boolean contains(Span other) { return other.low >= low && other.high <= high; }

    public boolean overlaps(Span other) { return low <= other.high && other.low <= high; }

    public int size() { return high - low + 1; }
}
