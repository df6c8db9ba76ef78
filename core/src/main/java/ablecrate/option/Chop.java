package ablecrate.option;

import java.util.Locale;
import java.util.Optional;

/// How a clip is cut into slices.
/// @param parts how many, for [By#PARTS]
/// @param step part of a whole note from slice to slice, for [By#GRID]: 0.25 is a beat of 4/4
/// @param bpm beats a minute; absent for what is heard
/// @param sensitivity to onsets: 1 as usual, more finds more
public record Chop(By by, int parts, double step, Optional<Double> bpm, double sensitivity) {
    /// What decides where slices begin.
    public enum By { NONE, ONSETS, GRID, CUES, GAPS, PARTS }

    public static final Chop NONE = new Chop(By.NONE, 0, 0, Optional.empty(), 1);
    public static final int MOST_PARTS = 1000;
    private static final double LOWEST_BPM = 20, HIGHEST_BPM = 999, LEAST_SENSITIVITY = 0.2, MOST_SENSITIVITY = 5;

    public Chop {
        if (by == By.PARTS && (parts < 2 || parts > MOST_PARTS))
            throw new IllegalArgumentException("a clip is cut into 2 to " + MOST_PARTS + " parts, not " + parts);
        if (by == By.GRID && !(step > 0 && step <= 16)) throw new IllegalArgumentException("a step of the grid is a part of a whole note, as 1/16");
        Bounds.require(sensitivity >= LEAST_SENSITIVITY && sensitivity <= MOST_SENSITIVITY, "a sensitivity is 0.2 to 5, not", sensitivity);
        bpm.ifPresent(b -> Bounds.require(b >= LOWEST_BPM && b <= HIGHEST_BPM, "a tempo is 20 to 999 beats a minute, not", b));
    }

    public static Chop by(By by) { return new Chop(by, 0, 0, Optional.empty(), 1); }

    public Chop withBpm(Optional<Double> b) { return new Chop(by, parts, step, b, sensitivity); }

    public Chop withSensitivity(double s) { return new Chop(by, parts, step, bpm, s); }

    /// With the places of another, at the tempo and with the sensitivity of this one.
    public Chop withPlaces(Chop other) { return new Chop(other.by, other.parts, other.step, bpm, sensitivity); }

    /// `grid:1/16`, `8`; empty if the text is neither.
    static Optional<Chop> read(String text) {
        if (text.matches("\\d{1,6}")) return Optional.of(new Chop(By.PARTS, Integer.parseInt(text), 0, Optional.empty(), 1));
        if (!text.startsWith("grid:") || !text.substring(5).matches("\\d{1,3}/\\d{1,3}")) return Optional.empty();
        int slash = text.indexOf('/');
        int above = Integer.parseInt(text.substring(5, slash)), below = Integer.parseInt(text.substring(slash + 1));
        return below == 0 ? Optional.empty() : Optional.of(new Chop(By.GRID, 0, (double) above / below, Optional.empty(), 1));
    }

    String id() {
        return switch (by) {
            case PARTS -> Integer.toString(parts);
            case GRID -> "grid:" + fraction();
            default -> by.name().toLowerCase(Locale.ROOT);
        };
    }

    private String fraction() {
        for (int below = 1; below <= 192; below++)
            if (Math.abs(step * below - Math.rint(step * below)) < 1e-9) return Math.round(step * below) + "/" + below;
        return Double.toString(step);
    }

    String label() {
        return switch (by) {
            case NONE -> "whole";
            case ONSETS -> "at onsets";
            case GRID -> "on a grid of " + fraction();
            case CUES -> "at cue points";
            case GAPS -> "at silences";
            case PARTS -> "into " + parts + " parts";
        };
    }
}
