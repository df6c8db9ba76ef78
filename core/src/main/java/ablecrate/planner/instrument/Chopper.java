package ablecrate.planner.instrument;

import ablecrate.audio.FrameRange;
import ablecrate.codec.Problem;
import ablecrate.codec.SoundFile;
import ablecrate.instrument.Cue;
import ablecrate.instrument.Loop;
import ablecrate.library.Gathered;
import ablecrate.option.Chop;
import ablecrate.option.ClipPart;
import ablecrate.option.Finds;
import ablecrate.option.ItemEdit;
import ablecrate.option.PackOptions;
import ablecrate.planner.sound.Accepted;
import ablecrate.signal.Measurement;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Function;
import java.util.stream.LongStream;

/// Clips in slices or in parts: an instrument of each, one piece a key. Of a single part the clip stays a sound, of which the rest goes.
///
/// A slice starts with a pre-roll of 1 ms in front of its place, over which it fades in, and ends where the next one's pre-roll starts, with a fade of 3 ms; so laid
/// back at their places slices are the clip again, but for the fades. Parts are cut where they were asked for, to the frame. What is known only by listening is asked
/// for, and the clip stays whole until then.
public final class Chopper {
    private static final double PRE_ROLL_SECONDS = 0.001, FADE_OUT_SECONDS = 0.003, SHORTEST_SECONDS = 0.005;

    private final PackOptions options;
    private final boolean isMapped;
    private final Map<Path, ItemEdit> edits;
    private final Function<Measurement.Request, Optional<Measurement>> measured;
    private final Map<Path, Measurement.Request> wanted = new ConcurrentHashMap<>();
    private final Map<Path, ItemEdit> cut = new ConcurrentHashMap<>();
    private final Map<Path, List<Cue>> marked = new ConcurrentHashMap<>();

    public Chopper(Accepted accepted, Map<Path, ItemEdit> edits, Function<Measurement.Request, Optional<Measurement>> measured) {
        options = accepted.options();
        // Sounds alone play as they do anyway.
        isMapped = accepted.instruments(ClipPieces.ID).isPresent();
        this.edits = edits;
        this.measured = measured;
    }

    /// What has to be listened to first, by the path of the clip.
    public Optional<Measurement.Request> wanted(Path clip) { return Optional.ofNullable(wanted.get(clip)); }

    /// What is wanted otherwise for a clip, the one part that is left of it among that.
    public ItemEdit edit(Path clip) { return cut.getOrDefault(clip, edits.getOrDefault(clip, ItemEdit.NONE)); }

    /// The cue points of a clip whose slices become some.
    public Optional<List<Cue>> cues(Path clip) { return Optional.ofNullable(marked.get(clip)); }

    /// The clip in slices or parts, or as it is where it is not cut.
    public Gathered chopped(Gathered clip) {
        ItemEdit edit = edits.getOrDefault(clip.path(), ItemEdit.NONE);
        Finds finds = edit.treatment(options.treatment()).finds();
        if (clip.sound().filter(f -> f.frames() > 0).isEmpty()) return clip;
        SoundFile sound = clip.sound().get();
        if (!finds.parts().isEmpty()) return parts(clip, sound, finds, edit);
        if (finds.chop().by() == Chop.By.NONE) return clip;
        FrameRange part = edit.part().filter(p -> p.end() <= sound.frames()).orElse(new FrameRange(0, sound.frames()));
        List<Long> places = places(finds.chop(), sound, part, clip);
        if (finds.pieces().asCues()) {
            if (!places.isEmpty()) marked.put(clip.path(), withCues(clip, sound, places));
            return clip;
        }
        List<FrameRange> slices = slices(places, sound, part);
        int in = (int) Math.round(PRE_ROLL_SECONDS * sound.rateHz()), out = (int) Math.round(FADE_OUT_SECONDS * sound.rateHz());
        List<ClipPieces.Piece> pieces = new ArrayList<>();
        for (FrameRange s : slices)
            pieces.add(new ClipPieces.Piece(Optional.empty(), s, s.start() == 0 ? 0 : in, s.end() == sound.frames() ? 0 : (int) Math.min(s.length() / 2, out)));
        if (finds.pieces().withWhole()) pieces.add(new ClipPieces.Piece(Optional.of(clip.stem() + " whole"), part, 0, 0));
        return slices.size() < 2 ? clip : new ClipPieces("slice", options.instruments().kit(), isMapped).of(clip, sound, pieces, List.of());
    }

    /// Those that the clip has stay, first and with their numbers; where one of them is, there is no other.
    private static List<Cue> withCues(Gathered clip, SoundFile sound, List<Long> places) {
        List<Cue> cues = new ArrayList<>(sound.metadata().cues());
        long id = cues.stream().mapToLong(Cue::id).max().orElse(0), near = Math.round(PRE_ROLL_SECONDS * sound.rateHz());
        String digits = " %0" + Math.max(2, Integer.toString(places.size()).length()) + "d";
        for (int i = 0; i < places.size(); i++) {
            long place = places.get(i);
            if (sound.metadata().cues().stream().noneMatch(c -> Math.abs(c.frame() - place) <= near))
                cues.add(new Cue(++id, place, 0, Optional.of(clip.stem() + String.format(Locale.ROOT, digits, i + 1)), Optional.empty()));
        }
        return cues;
    }

    private Gathered parts(Gathered clip, SoundFile sound, Finds finds, ItemEdit edit) {
        Optional<Double> bpm = finds.parts().stream().anyMatch(ClipPart::isInBars) ? tempo(finds.chop(), sound, clip) : Optional.of(1.0);
        if (wanted.containsKey(clip.path())) return clip;
        PlacedParts placed = bpm.map(b -> PlacedParts.of(finds.parts(), sound, b, finds.chop().beats().downbeatSeconds().orElse(0.0)))
                .orElseGet(() -> new PlacedParts(List.of(), List.of("a part is told in bars, and no tempo is heard; say one (--bpm)")));
        if (placed.pieces().isEmpty())
            return new Gathered(clip.path(), clip.relative(),
                    new Gathered.Content.Refused(sound.formatId(), sound.container(), String.join("; ", placed.missing())));
        if (finds.cuts())
            return new ClipPieces("part", options.instruments().kit(), isMapped).of(clip, sound, placed.pieces(),
                    placed.missing().stream().map(m -> Problem.lost(m, "")).toList());
        // What was marked off for this sound alone goes before a part that was said for all.
        FrameRange part = placed.pieces().getFirst().frames();
        if (edit.part().filter(p -> !p.equals(part)).isPresent()) return clip;
        cut.put(clip.path(), cut(edit, sound, part));
        return clip;
    }

    /// Loops that do not lie in the part go with the rest; otherwise the part would grow to hold them.
    private static ItemEdit cut(ItemEdit edit, SoundFile sound, FrameRange part) {
        List<Loop> all = edit.loop().loops().orElse(sound.metadata().loops()),
                inside = all.stream().filter(l -> l.frames().start() >= part.start() && l.frames().end() <= part.end()).toList();
        ItemEdit cut = edit.withPart(Optional.of(part));
        return inside.size() == all.size() ? cut : cut.withLoops(Optional.of(inside));
    }

    private Optional<Double> tempo(Chop chop, SoundFile sound, Gathered clip) {
        ClipTempo tempo = ClipTempo.of(chop.bpm(), clip, sound, measured);
        tempo.wanted().ifPresent(w -> wanted.put(clip.path(), w));
        return tempo.bpm();
    }

    private <T extends Measurement> Optional<T> heard(Measurement.Request request, Class<T> kind, Path clip) {
        Optional<Measurement> found = measured.apply(request);
        if (found.isEmpty()) wanted.put(clip, request);
        return found.filter(kind::isInstance).map(kind::cast);
    }

    /// @param part of the clip that is used
    private List<Long> places(Chop chop, SoundFile sound, FrameRange part, Gathered clip) {
        List<Long> places = switch (chop.by()) {
            case NONE -> List.of();
            case PARTS -> LongStream.range(0, chop.parts()).mapToObj(i -> part.start() + Math.round((double) i * part.length() / chop.parts())).toList();
            case AT -> chop.frames();
            case CUES -> sound.metadata().cues().stream().map(Cue::frame).sorted().distinct().toList();
            case ONSETS -> heard(new Measurement.OfOnsets(sound, chop.sensitivity()), Measurement.Onsets.class, clip.path()).map(Measurement.Onsets::frames)
                    .orElse(List.of());
            case GAPS -> heard(new Measurement.OfGaps(sound), Measurement.Sounding.class, clip.path())
                    .map(s -> s.parts().stream().map(FrameRange::start).toList()).orElse(List.of());
            case GRID ->
                tempo(chop, sound, clip).map(bpm -> grid(240.0 * sound.rateHz() * chop.step() / bpm, downbeat(chop, sound, part), part)).orElse(List.of());
        };
        return places.stream().filter(p -> p >= part.start() && p < part.end()).limit(Chop.MOST_PARTS).toList();
    }

    private static List<FrameRange> slices(List<Long> places, SoundFile sound, FrameRange part) {
        long preRoll = Math.round(PRE_ROLL_SECONDS * sound.rateHz()), shortest = Math.round(SHORTEST_SECONDS * sound.rateHz());
        List<FrameRange> out = new ArrayList<>();
        for (int i = 0; i < places.size(); i++) {
            long start = Math.max(part.start(), places.get(i) - preRoll),
                    end = i + 1 < places.size() ? Math.max(part.start(), places.get(i + 1) - preRoll) : part.end();
            if (end - start >= shortest) out.add(new FrameRange(start, end));
        }
        return out;
    }

    private static double downbeat(Chop chop, SoundFile sound, FrameRange part) {
        return chop.beats().downbeatSeconds().map(s -> s * sound.rateHz()).orElse((double) part.start());
    }

    /// What lies before the first line of the grid is a slice too.
    private static List<Long> grid(double step, double downbeat, FrameRange part) {
        List<Long> out = new ArrayList<>();
        double first = downbeat - Math.floor((downbeat - part.start()) / step + 1e-9) * step;
        if (Math.round(first) > part.start()) out.add(part.start());
        for (int i = 0; first + i * step < part.end() - step / 4 && i <= Chop.MOST_PARTS; i++)
            out.add(Math.round(first + i * step));
        return out;
    }
}
