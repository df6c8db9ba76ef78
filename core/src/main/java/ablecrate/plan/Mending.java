package ablecrate.plan;

/// What the user wants looked for and put right in sounds that are not as they should be.
/// @param looksForDamage whether each sound is listened to for clicks, dropouts and the like
/// @param mendsClicks whether short clicks are filled in on packing; they are looked for then
/// @param takesLikelyDelay whether the encoder's delay is taken off as it likely is, where a compressed file does not say it
public record Mending(boolean looksForDamage, boolean mendsClicks, boolean takesLikelyDelay) {
    public static final Mending NONE = new Mending(false, false, false);

    public Mending withLooking(boolean looks) { return new Mending(looks, mendsClicks, takesLikelyDelay); }

    public Mending withMending(boolean mends) { return new Mending(looksForDamage, mends, takesLikelyDelay); }

    public Mending withLikelyDelay(boolean takes) { return new Mending(looksForDamage, mendsClicks, takes); }

    boolean listens() { return looksForDamage || mendsClicks; }
}
