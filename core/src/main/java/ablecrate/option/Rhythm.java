package ablecrate.option;

import java.util.Locale;

/// Which MIDI files lie beside a clip's slices and play them.
/// @param grid that the notes of a quantised one go to
/// @param strength percent of the way there
/// @param swing where the second of two steps lies between the first and the next pair, in percent: 50 is straight, 67 a triplet (common practice)
public record Rhythm(As as, NoteValue grid, double strength, double swing) {
    public static final Rhythm NONE = new Rhythm(As.NONE, NoteValue.SIXTEENTH, 100, 50);

    /// When notes begin.
    public enum As {
        NONE("no file"), PLAYED("as played"), QUANTISED("on the grid"), BOTH("one of each");

        private final String label;

        As(String label) { this.label = label; }

        public String id() { return name().toLowerCase(Locale.ROOT); }

        /// For people.
        public String label() { return label; }
    }

    public Rhythm {
        Bounds.require(strength >= 0 && strength <= 100, "a strength is 0 to 100 %, not", strength);
        Bounds.require(swing >= 50 && swing <= 75, "a swing is 50 to 75 %, not", swing);
    }

    public boolean isPlayed() { return as == As.PLAYED || as == As.BOTH; }

    public boolean isQuantised() { return as == As.QUANTISED || as == As.BOTH; }

    public Rhythm withAs(As a) { return new Rhythm(a, grid, strength, swing); }

    public Rhythm withGrid(NoteValue g) { return new Rhythm(as, g, strength, swing); }

    public Rhythm withStrength(double percent) { return new Rhythm(as, grid, percent, swing); }

    public Rhythm withSwing(double percent) { return new Rhythm(as, grid, strength, percent); }

    /// Where a note belongs that begins at a time, in seconds from the start of a bar.
    public double quantised(double seconds, double bpm) {
        double step = grid.seconds(bpm), nearest = nearest(seconds / step) * step;
        return seconds + strength / 100 * (nearest - seconds);
    }

    /// The nearest place of the grid, in steps; every other lies later by the swing.
    private double nearest(double steps) {
        double late = (swing - 50) / 50, best = Double.MAX_VALUE, place = 0;
        for (long k = (long) Math.floor(steps) - 1; k <= (long) Math.floor(steps) + 1; k++) {
            double at = k + (Math.floorMod(k, 2L) == 1 ? late : 0);
            if (k >= 0 && Math.abs(at - steps) < best) {
                best = Math.abs(at - steps);
                place = at;
            }
        }
        return place;
    }
}
