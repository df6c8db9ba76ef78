package ablecrate.option;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/// How a clip is cut into slices.
/// @param parts how many, for [By#PARTS]
/// @param step part of a whole note from slice to slice, for [By#GRID]: 0.25 is a beat of 4/4
/// @param frames of the clip at which slices begin, upwards, for [By#AT]
/// @param beats how those of the clip lie
/// @param sensitivity to onsets: 1 as usual, more finds more
public record Chop(By by, int parts, double step, List<Long> frames, Beats beats, double sensitivity) {
    /// What decides where slices begin.
    public enum By { NONE, ONSETS, GRID, CUES, GAPS, PARTS, AT }

    public static final Chop NONE = new Chop(By.NONE, 0, 0, List.of(), Beats.UNKNOWN, 1);
    public static final int MOST_PARTS = 1000;
    private static final double LEAST_SENSITIVITY = 0.2, MOST_SENSITIVITY = 5;

    public Chop {
        frames = frames.stream().sorted().distinct().toList();
        if (by == By.AT && (frames.isEmpty() || frames.size() > MOST_PARTS || frames.getFirst() < 0))
            throw new IllegalArgumentException("a clip is cut at 1 to " + MOST_PARTS + " of its frames, not at " + frames.size());
        if (by == By.PARTS && (parts < 2 || parts > MOST_PARTS))
            throw new IllegalArgumentException("a clip is cut into 2 to " + MOST_PARTS + " parts, not " + parts);
        if (by == By.GRID) new NoteValue(step);
        Bounds.require(sensitivity >= LEAST_SENSITIVITY && sensitivity <= MOST_SENSITIVITY, "a sensitivity is 0.2 to 5, not", sensitivity);
    }

    public static Chop by(By by) { return new Chop(by, 0, 0, List.of(), Beats.UNKNOWN, 1); }

    /// At places that were set by hand.
    public static Chop at(List<Long> frames) { return new Chop(By.AT, 0, 0, frames, Beats.UNKNOWN, 1); }

    public Optional<Double> bpm() { return beats.bpm(); }

    public Chop withBpm(Optional<Double> b) { return new Chop(by, parts, step, frames, new Beats(b, beats.downbeatSeconds()), sensitivity); }

    public Chop withDownbeat(Optional<Double> seconds) { return new Chop(by, parts, step, frames, new Beats(beats.bpm(), seconds), sensitivity); }

    public Chop withSensitivity(double s) { return new Chop(by, parts, step, frames, beats, s); }

    /// With the places of another, with the beats and the sensitivity of this one.
    public Chop withPlaces(Chop other) { return new Chop(other.by, other.parts, other.step, other.frames, beats, sensitivity); }

    /// `grid:1/16`, `8`, `at:0,22050`; empty if the text is none of them.
    static Optional<Chop> read(String text) {
        if (text.matches("at:\\d{1,15}(,\\d{1,15})*")) return Optional.of(at(Stream.of(text.substring(3).split(",")).map(Long::valueOf).toList()));
        if (text.matches("\\d{1,6}")) return Optional.of(new Chop(By.PARTS, Integer.parseInt(text), 0, List.of(), Beats.UNKNOWN, 1));
        return text.startsWith("grid:")
                ? NoteValue.read(text.substring(5)).map(step -> new Chop(By.GRID, 0, step.wholeNotes(), List.of(), Beats.UNKNOWN, 1))
                : Optional.empty();
    }

    String id() {
        return switch (by) {
            case PARTS -> Integer.toString(parts);
            case GRID -> "grid:" + new NoteValue(step).id();
            case AT -> "at:" + frames.stream().map(Object::toString).collect(Collectors.joining(","));
            default -> by.name().toLowerCase(Locale.ROOT);
        };
    }

    String label() {
        return switch (by) {
            case NONE -> "whole";
            case ONSETS -> "at onsets";
            case GRID -> "on a grid of " + new NoteValue(step).id();
            case CUES -> "at cue points";
            case GAPS -> "at silences";
            case PARTS -> "into " + parts + " parts";
            case AT -> frames.size() == 1 ? "at 1 place by hand" : "at " + frames.size() + " places by hand";
        };
    }
}
