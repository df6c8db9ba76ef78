package ablecrate.option;

/// What the slices of a clip become.
/// @param asCues whether they become cue points of the clip, which stays whole; otherwise an instrument, or sounds
/// @param withWhole whether the whole clip has a key too, behind those of the slices
public record Pieces(boolean asCues, boolean withWhole) {
    public static final Pieces USUAL = new Pieces(false, false);

    public Pieces withAsCues(boolean c) { return new Pieces(c, withWhole); }

    public Pieces withWhole(boolean w) { return new Pieces(asCues, w); }
}
