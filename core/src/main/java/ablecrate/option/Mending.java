package ablecrate.option;

/// What the user wants looked for and put right in sounds that are not as they should be.
/// @param looksForDamage whether each sound is listened to for clicks, dropouts and the like
/// @param mendsClicks whether short clicks are filled in on packing; they are looked for then
/// @param takesLikelyDelay whether the encoder's delay is taken off as it likely is, where a compressed file does not say it
/// @param damageFails whether damage that was found and stays counts as a failure, so that a script sees it
public record Mending(boolean looksForDamage, boolean mendsClicks, boolean takesLikelyDelay, boolean damageFails) {
    public static final Mending NONE = new Mending(false, false, false, true);

    public Mending withLooking(boolean looks) { return new Mending(looks, mendsClicks, takesLikelyDelay, damageFails); }

    public Mending withMending(boolean mends) { return new Mending(looksForDamage, mends, takesLikelyDelay, damageFails); }

    public Mending withLikelyDelay(boolean takes) { return new Mending(looksForDamage, mendsClicks, takes, damageFails); }

    public Mending withDamageFailing(boolean fails) { return new Mending(looksForDamage, mendsClicks, takesLikelyDelay, fails); }

    public boolean listens() { return looksForDamage || mendsClicks; }
}
