package ablecrate.change;

import java.util.Locale;

/// What happens to an item, or to one property of it; from best to worst.
public enum Verdict {
    /// Bit for bit.
    KEPT("M7 1A6 6 0 1 0 7 13A6 6 0 1 0 7 1ZM7 3A4 4 0 1 1 7 11A4 4 0 1 1 7 3Z"),
    /// The same content in another shape.
    CONVERTED("M7 1A6 6 0 1 0 7 13A6 6 0 1 0 7 1ZM7 2.6A4.4 4.4 0 1 1 7 11.4A4.4 4.4 0 1 1 7 2.6ZM0 6.2H8.2V3.9L12 7L8.2 10.1V7.8H0Z"),
    /// Moved to the nearest the destination can hold, by a stated amount.
    ADJUSTED("M7 0L14 7L7 14L0 7ZM7 2.8L2.8 7L7 11.2L11.2 7Z"),
    /// Something is lost, named and counted.
    REDUCED("M1 1H13V13H1ZM7 2.7V11.3H11.3V2.7Z"),
    /// Cannot go; with the reason and the ways out.
    BLOCKED("M1 1H13V13H1ZM3 6V8H11V6Z");

    private final String stamp;

    Verdict(String stamp) { this.stamp = stamp; }

    /// Its mark, told apart by shape before colour: an SVG path in a square of 14, filled by the even-odd rule. An open ring; a ring with an arrow through it; a
    /// tilted square; a half-filled square; a solid square with a bar.
    public String stamp() { return stamp; }

    public String id() { return name().toLowerCase(Locale.ROOT); }

    public Verdict worse(Verdict other) { return compareTo(other) >= 0 ? this : other; }
}
