package ablecrate.option;

/// Which loops are looked for.
/// @param missing whether a sound without a loop gets one
/// @param bumping whether a loop that is heard is replaced by a better one
public record LoopFinds(boolean missing, boolean bumping) {
    static final LoopFinds NONE = new LoopFinds(false, false);

    public LoopFinds withMissing(boolean m) { return new LoopFinds(m, bumping); }

    public LoopFinds withBumping(boolean b) { return new LoopFinds(missing, b); }
}
