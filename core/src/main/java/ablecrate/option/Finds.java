package ablecrate.option;

import java.util.List;

/// What is made of a sound besides what is in it: looked for by listening, or cut from it.
/// @param loops which are looked for
/// @param chop into which slices it is cut
/// @param pieces what slices become
/// @param parts what of it is packed; empty for all
/// @param rhythm which MIDI files play the pieces
public record Finds(LoopFinds loops, Chop chop, Pieces pieces, List<ClipPart> parts, Rhythm rhythm) {
    public static final Finds NONE = new Finds(LoopFinds.NONE, Chop.NONE, Pieces.USUAL, List.of(), Rhythm.NONE);
    private static final int MOST_PARTS = Chop.MOST_PARTS;

    public Finds {
        parts = List.copyOf(parts);
        if (!parts.isEmpty() && chop.by() != Chop.By.NONE) throw new IllegalArgumentException("a clip is cut into slices or into parts, not both");
        if (parts.size() > MOST_PARTS) throw new IllegalArgumentException("a clip has at most " + MOST_PARTS + " parts");
    }

    public Finds withLoops(LoopFinds l) { return new Finds(l, chop, pieces, parts, rhythm); }

    public Finds withChop(Chop c) { return new Finds(loops, c, pieces, parts, rhythm); }

    public Finds withParts(List<ClipPart> p) { return new Finds(loops, chop, pieces, p, rhythm); }

    public Finds withPieces(Pieces p) { return new Finds(loops, chop, p, parts, rhythm); }

    public Finds withRhythm(Rhythm r) { return new Finds(loops, chop, pieces, parts, r); }

    /// Whether clips become pieces, slices or parts.
    public boolean cuts() { return chop.by() != Chop.By.NONE && !pieces.asCues() || parts.size() > 1 || parts.stream().anyMatch(ClipPart::isSeveral); }

    /// Whether it says places in bars or on a grid.
    public boolean needsTempo() { return chop.by() == Chop.By.GRID || cuts() && rhythm.as() != Rhythm.As.NONE || parts.stream().anyMatch(ClipPart::isInBars); }
}
