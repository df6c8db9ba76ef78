package ablecrate.option;

/// Which loops are looked for.
/// @param missing whether a sound without a loop gets one
/// @param bumping whether a loop that is heard is replaced by a better one
/// @param levelled whether a decay within a loop that is found may be made up for
public record LoopFinds(boolean missing, boolean bumping, boolean levelled) {
    static final LoopFinds NONE = new LoopFinds(false, false, false);

    public LoopFinds withMissing(boolean m) { return new LoopFinds(m, bumping, levelled); }

    public LoopFinds withBumping(boolean b) { return new LoopFinds(missing, b, levelled); }

    public LoopFinds withLevelled(boolean l) { return new LoopFinds(missing, bumping, l); }
}
