package ablecrate.detect;

/// How well a loop can be heard, as it is played, crossfade included.
/// @param bump change of third-octave levels across the seam, over what the sound itself changes from place to place (90th percentile); 1 is as in the
///     sound
/// @param clickDb energy of the second difference at the seam, over that of the sound itself, in dB; 0 and less is none
/// @param levelDb what the seam adds to the level, in dB
/// @param centsOff how far the loop is from a whole number of periods, as pitch; 0 where the sound has none
public record LoopQuality(double bump, double clickDb, double levelDb, double centsOff) {
    private static final double HEARD_CLICK_DB = 6, HEARD_LEVEL_DB = 1.5, HEARD_CENTS = 5;

    /// Whether nothing of it stands out.
    public boolean isUnheard() {
        return bump <= 1 && clickDb <= HEARD_CLICK_DB && Math.abs(levelDb) <= HEARD_LEVEL_DB && Math.abs(centsOff) <= HEARD_CENTS;
    }

    /// One number for all of it; less is better, 1 is where a loop begins to be heard.
    public double cost() {
        return Math.max(bump, Math.max(Math.max(0, clickDb) / HEARD_CLICK_DB, Math.max(Math.abs(levelDb) / HEARD_LEVEL_DB, Math.abs(centsOff) / HEARD_CENTS)));
    }
}
