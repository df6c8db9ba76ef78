package ablecrate.format.sf2;

/// Units of the specification's section 8.1.1 and what they are in the model.
final class Sf2Units {
    static final double CENTS_ZERO_HZ = 8.176;
    /// Times of a millisecond and less are none.
    private static final int NO_TIME = -12_000, LONGEST = 8000;
    static final int OPEN_FILTER = 13_500;

    private Sf2Units() {}

    static double seconds(int timecents) { return timecents <= NO_TIME ? 0 : Math.pow(2, Math.min(timecents, LONGEST) / 1200.0); }

    static int timecents(double seconds) {
        return seconds <= 0 ? NO_TIME : (int) Math.clamp(Math.rint(1200 * Math.log(seconds) / Math.log(2)), NO_TIME, LONGEST);
    }

    static double hertz(int absoluteCents) { return CENTS_ZERO_HZ * Math.pow(2, absoluteCents / 1200.0); }

    static int absoluteCents(double hertz) { return (int) Math.rint(1200 * Math.log(hertz / CENTS_ZERO_HZ) / Math.log(2)); }
}
