package ablecrate.detect;

/// What a loop does to the sound where it goes back, as it is played, crossfade included.
/// @param bump change of third-octave levels across the seam, over what the sound itself changes from place to place (90th percentile); 1 is as in the
///     sound
/// @param clickDb energy of the second difference at the seam, over that of the sound itself, in dB; 0 and less is none
/// @param levelDb what the seam adds to the level, in dB
/// @param centsOff how far the loop is from a whole number of periods, as pitch; 0 where the sound has none
public record LoopQuality(double bump, double clickDb, double levelDb, double centsOff) {
    private static final double MOST_CLICK_DB = 6, MOST_LEVEL_DB = 1.5, MOST_CENTS = 5;

    /// Whether none of it is more than it may be.
    public boolean passes() {
        return bump <= 1 && clickDb <= MOST_CLICK_DB && Math.abs(levelDb) <= MOST_LEVEL_DB && Math.abs(centsOff) <= MOST_CENTS;
    }

    /// One number for all of it; less is better, 1 is the most with which a loop passes.
    public double cost() {
        return Math.max(bump, Math.max(Math.max(0, clickDb) / MOST_CLICK_DB, Math.max(Math.abs(levelDb) / MOST_LEVEL_DB, Math.abs(centsOff) / MOST_CENTS)));
    }
}
