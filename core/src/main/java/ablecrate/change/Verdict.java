package ablecrate.change;

import java.util.Locale;

/// What happens to an item, or to one property of it; from best to worst.
public enum Verdict {
    /// Bit for bit.
    KEPT,
    /// The same content in another shape.
    CONVERTED,
    /// Moved to the nearest the destination can hold, by a stated amount.
    ADJUSTED,
    /// Something is lost, named and counted.
    REDUCED,
    /// Cannot go; with the reason and the ways out.
    BLOCKED;

    public String id() { return name().toLowerCase(Locale.ROOT); }

    public Verdict worse(Verdict other) { return compareTo(other) >= 0 ? this : other; }
}
