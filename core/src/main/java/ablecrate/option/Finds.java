package ablecrate.option;

import java.util.List;
import java.util.Optional;

/// What is made of a sound besides what is in it: looked for by listening, or cut from it.
/// @param loops which are looked for
/// @param chop into which slices it is cut
/// @param pieces what slices become
/// @param parts what of it is packed; empty for all
/// @param rhythm which MIDI files play the pieces
/// @param toTempo that clips are brought to by speed
public record Finds(LoopFinds loops, Chop chop, Pieces pieces, List<ClipPart> parts, Rhythm rhythm, Optional<TempoTarget> toTempo) {
    public static final Finds NONE = new Finds(LoopFinds.NONE, Chop.NONE, Pieces.USUAL, List.of(), Rhythm.NONE, Optional.empty());
    private static final int MOST_PARTS = Chop.MOST_PARTS;

    public Finds {
        parts = List.copyOf(parts);
        if (!parts.isEmpty() && chop.by() != Chop.By.NONE) throw new IllegalArgumentException("a clip is cut into slices or into parts, not both");
        if (parts.size() > MOST_PARTS) throw new IllegalArgumentException("a clip has at most " + MOST_PARTS + " parts");
    }

    public Finds withLoops(LoopFinds l) { return new Finds(l, chop, pieces, parts, rhythm, toTempo); }

    public Finds withChop(Chop c) { return new Finds(loops, c, pieces, parts, rhythm, toTempo); }

    public Finds withParts(List<ClipPart> p) { return new Finds(loops, chop, pieces, p, rhythm, toTempo); }

    public Finds withPieces(Pieces p) { return new Finds(loops, chop, p, parts, rhythm, toTempo); }

    public Finds withRhythm(Rhythm r) { return new Finds(loops, chop, pieces, parts, r, toTempo); }

    public Finds withTempo(Optional<TempoTarget> t) { return new Finds(loops, chop, pieces, parts, rhythm, t); }

    /// Whether clips become pieces, slices or parts.
    public boolean cuts() { return chop.by() != Chop.By.NONE && !pieces.asCues() || parts.size() > 1 || parts.stream().anyMatch(ClipPart::isSeveral); }

    /// Whether it says places in bars or on a grid, or brings clips to a tempo.
    public boolean needsTempo() {
        return chop.by() == Chop.By.GRID || toTempo.isPresent() || cuts() && rhythm.as() != Rhythm.As.NONE || parts.stream().anyMatch(ClipPart::isInBars);
    }
}
