package ablecrate.option;

import java.util.List;

/// What is made of a sound besides what is in it: looked for by listening, or cut from it.
/// @param loops whether a sound without a loop gets one
/// @param chop into which slices it is cut
/// @param parts what of it is packed; empty for all
public record Finds(boolean loops, Chop chop, List<ClipPart> parts) {
    public static final Finds NONE = new Finds(false, Chop.NONE, List.of());
    private static final int MOST_PARTS = Chop.MOST_PARTS;

    public Finds {
        parts = List.copyOf(parts);
        if (!parts.isEmpty() && chop.by() != Chop.By.NONE) throw new IllegalArgumentException("a clip is cut into slices or into parts, not both");
        if (parts.size() > MOST_PARTS) throw new IllegalArgumentException("a clip has at most " + MOST_PARTS + " parts");
    }

    public Finds withLoops(boolean l) { return new Finds(l, chop, parts); }

    public Finds withChop(Chop c) { return new Finds(loops, c, parts); }

    public Finds withParts(List<ClipPart> p) { return new Finds(loops, chop, p); }

    /// Whether it says places in bars or on a grid.
    public boolean needsTempo() { return chop.by() == Chop.By.GRID || parts.stream().anyMatch(ClipPart::isInBars); }
}
