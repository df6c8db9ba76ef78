package ablecrate.option;

import ablecrate.audio.FrameRange;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/// A part of a clip that is to be a sound of its own: from a place to another (`0:12.5-0:20`, `bar5-bar9`, `44100f-end`), or what a cue point names (`cue:NAME`),
/// with a name in front where it is to have one of its own (`chorus=bar5-bar9`).
/// @param name of the result; absent where it is called as the clip
public record ClipPart(Optional<String> name, Where where) {
    private static final String SAID = "0:12.5-0:20, bar5-bar9, 44100f-88200f (each also with 'end'), cue:NAME or cues, with NAME= in front where it is to have a name";
    private static final Pattern PLACE = Pattern.compile("(?:(\\d{1,4}):)?(?:(\\d{1,3}):)?(\\d{1,9}(?:\\.\\d{1,9})?)"),
            BAR = Pattern.compile("bar(\\d{1,6})(?:\\.([1-4]))?"), FRAME = Pattern.compile("(\\d{1,15})f");

    /// Where it lies.
    public sealed interface Where {
        record Between(Place from, Place to) implements Where {}

        /// The stretches of all cue points that have one; where none has, from each to the next.
        record EachCue() implements Where {}

        /// A cue point's stretch; from it to the next, or to the end, where it is a point alone.
        record OfCue(String name) implements Where {}
    }

    /// A place in a clip.
    public sealed interface Place {
        record Seconds(double seconds) implements Place {}

        record Frame(long frame) implements Place {}

        /// @param bar from 1 on
        /// @param beat from 1 on
        record Bar(int bar, int beat) implements Place {}

        record End() implements Place {}
    }

    public static ClipPart of(FrameRange frames) {
        return new ClipPart(Optional.empty(), new Where.Between(new Place.Frame(frames.start()), new Place.Frame(frames.end())));
    }

    /// Whether it may be several.
    public boolean isSeveral() { return where instanceof Where.EachCue; }

    public ClipPart withName(String n) { return new ClipPart(Optional.of(n), where); }

    /// Whether a tempo must be known.
    public boolean isInBars() { return where instanceof Where.Between(Place from, Place to) && (from instanceof Place.Bar || to instanceof Place.Bar); }

    /// @throws IllegalArgumentException if it is none
    static ClipPart read(String text) {
        int equals = text.indexOf('=');
        String name = equals > 0 ? text.substring(0, equals).strip() : "", where = text.substring(equals + 1).strip();
        if (where.startsWith("cue:") && where.length() > 4)
            return new ClipPart(Optional.of(name.isEmpty() ? where.substring(4) : name), new Where.OfCue(where.substring(4)));
        if (where.equals("cues") && name.isEmpty()) return new ClipPart(Optional.empty(), new Where.EachCue());
        List<Place> places = List.of(where.split("-", -1)).stream().map(p -> place(p.strip().toLowerCase(Locale.ROOT))).flatMap(Optional::stream).toList();
        if (equals == 0 || places.size() != 2 || where.split("-", -1).length != 2)
            throw new IllegalArgumentException("'" + text + "' is no part of a clip, as " + SAID);
        return new ClipPart(name.isEmpty() ? Optional.empty() : Optional.of(name), new Where.Between(places.getFirst(), places.getLast()));
    }

    private static Optional<Place> place(String text) {
        if (text.equals("end")) return Optional.of(new Place.End());
        Matcher bar = BAR.matcher(text), frame = FRAME.matcher(text), time = PLACE.matcher(text);
        if (bar.matches() && Integer.parseInt(bar.group(1)) > 0)
            return Optional.of(new Place.Bar(Integer.parseInt(bar.group(1)), bar.group(2) == null ? 1 : Integer.parseInt(bar.group(2))));
        if (frame.matches()) return Optional.of(new Place.Frame(Long.parseLong(frame.group(1))));
        if (!time.matches()) return Optional.empty();
        double seconds = Double.parseDouble(time.group(3));
        if (time.group(2) != null)
            return Optional.of(new Place.Seconds(Integer.parseInt(time.group(1)) * 3600 + Integer.parseInt(time.group(2)) * 60 + seconds));
        return Optional.of(new Place.Seconds(time.group(1) == null ? seconds : Integer.parseInt(time.group(1)) * 60 + seconds));
    }

    /// What [#read] takes.
    String id() { return name.filter(n -> !where.equals(new Where.OfCue(n))).map(n -> n + "=").orElse("") + whereText(); }

    /// Where it lies, as it is said.
    public String whereText() {
        return switch (where) {
            case Where.Between(Place from, Place to) -> text(from) + "-" + text(to);
            case Where.OfCue(String cue) -> "cue:" + cue;
            case Where.EachCue() -> "cues";
        };
    }

    private static String text(Place place) {
        return switch (place) {
            case Place.Seconds(double s) -> (long) (s / 60) + ":" + OptionKinds.number(Math.round(s % 60 * 1e9) / 1e9);
            case Place.Frame(long frame) -> frame + "f";
            case Place.Bar(int bar, int beat) -> "bar" + bar + (beat == 1 ? "" : "." + beat);
            case Place.End() -> "end";
        };
    }

    /// Its frame, which may lie behind the end.
    /// @param frames of the clip
    /// @param bpm of its bars; not looked at where [#isInBars] is false
    /// @param downbeatSeconds where bar 1 begins
    public static long frame(Place place, long frames, int rateHz, double bpm, double downbeatSeconds) {
        return switch (place) {
            case Place.Seconds(double seconds) -> Math.round(seconds * rateHz);
            case Place.Frame(long frame) -> frame;
            case Place.Bar(int bar, int beat) -> Math.round((downbeatSeconds + ((bar - 1) * Beats.OF_BAR + beat - 1) * 60.0 / bpm) * rateHz);
            case Place.End() -> frames;
        };
    }
}
