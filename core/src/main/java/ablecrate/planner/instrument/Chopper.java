package ablecrate.planner.instrument;

import ablecrate.audio.FrameRange;
import ablecrate.change.Told;
import ablecrate.codec.AudioPlace;
import ablecrate.codec.Problem;
import ablecrate.codec.SoundFile;
import ablecrate.detect.NamedTempo;
import ablecrate.detect.TempoDetector;
import ablecrate.format.InstrumentFile;
import ablecrate.format.Sample;
import ablecrate.instrument.About;
import ablecrate.instrument.Cue;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.Span;
import ablecrate.instrument.TextField;
import ablecrate.instrument.Zone;
import ablecrate.instrument.ZoneGroup;
import ablecrate.library.Gathered;
import ablecrate.option.Chop;
import ablecrate.option.ItemEdit;
import ablecrate.option.KitLayout;
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

/// Clips in slices: an instrument of each, one slice a key.
///
/// A slice starts with a pre-roll of 1 ms in front of its place, over which it fades in, and ends where the next one's pre-roll starts, with a fade of 3 ms; so laid
/// back at their places slices are the clip again, but for the fades. What is known only by listening is asked for, and the clip stays whole until then.
public final class Chopper {
    private static final double PRE_ROLL_SECONDS = 0.001, FADE_OUT_SECONDS = 0.003, SHORTEST_SECONDS = 0.005;
    static final String ID = "slices";

    private final PackOptions options;
    private final boolean isMapped;
    private final Map<Path, ItemEdit> edits;
    private final Function<Measurement.Request, Optional<Measurement>> measured;
    private final Map<Path, Measurement.Request> wanted = new ConcurrentHashMap<>();

    public Chopper(Accepted accepted, Map<Path, ItemEdit> edits, Function<Measurement.Request, Optional<Measurement>> measured) {
        options = accepted.options();
        // Sounds alone play as they do anyway.
        isMapped = accepted.instruments(ID).isPresent();
        this.edits = edits;
        this.measured = measured;
    }

    /// What has to be listened to first, by the path of the clip.
    public Optional<Measurement.Request> wanted(Path clip) { return Optional.ofNullable(wanted.get(clip)); }

    /// The clip in slices, or as it is where it is not cut.
    public Gathered chopped(Gathered clip) {
        ItemEdit edit = edits.getOrDefault(clip.path(), ItemEdit.NONE);
        Chop chop = edit.treatment().orElse(options.treatment()).finds().chop();
        if (chop.by() == Chop.By.NONE || clip.sound().filter(f -> f.frames() > 0).isEmpty()) return clip;
        SoundFile sound = clip.sound().get();
        FrameRange part = edit.part().filter(p -> p.end() <= sound.frames()).orElse(new FrameRange(0, sound.frames()));
        List<FrameRange> slices = slices(chop, sound, part, clip.path());
        return slices.size() < 2 ? clip : new Gathered(clip.path(), clip.relative(), new Gathered.Content.Instruments(instrument(clip, sound, slices)));
    }

    private <T extends Measurement> Optional<T> heard(Measurement.Request request, Class<T> kind, Path clip) {
        Optional<Measurement> found = measured.apply(request);
        if (found.isEmpty()) wanted.put(clip, request);
        return found.filter(kind::isInstance).map(kind::cast);
    }

    /// @param part of the clip that is used
    private List<FrameRange> slices(Chop chop, SoundFile sound, FrameRange part, Path clip) {
        List<Long> places = switch (chop.by()) {
            case NONE -> List.of();
            case PARTS -> LongStream.range(0, chop.parts()).mapToObj(i -> part.start() + Math.round((double) i * part.length() / chop.parts())).toList();
            case CUES -> sound.metadata().cues().stream().map(Cue::frame).sorted().distinct().toList();
            case ONSETS -> heard(new Measurement.OfOnsets(sound), Measurement.Onsets.class, clip).map(Measurement.Onsets::frames).orElse(List.of());
            case GAPS -> heard(new Measurement.OfGaps(sound), Measurement.Sounding.class, clip)
                    .map(s -> s.parts().stream().map(FrameRange::start).toList()).orElse(List.of());
            case GRID -> chop.bpm().or(() -> NamedTempo.of(clip.getFileName().toString()))
                    .or(() -> heard(new Measurement.OfOnsets(sound), Measurement.Onsets.class, clip).flatMap(Measurement.Onsets::tempo)
                            .map(TempoDetector.Tempo::bpm))
                    .map(bpm -> grid(240.0 * sound.rateHz() * chop.step() / bpm, part)).orElse(List.of());
        };
        places = places.stream().filter(p -> p >= part.start() && p < part.end()).toList();
        long preRoll = Math.round(PRE_ROLL_SECONDS * sound.rateHz()), shortest = Math.round(SHORTEST_SECONDS * sound.rateHz());
        List<FrameRange> out = new ArrayList<>();
        for (int i = 0; i < places.size() && i < Chop.MOST_PARTS; i++) {
            long start = Math.max(part.start(), places.get(i) - preRoll),
                    end = i + 1 < places.size() ? Math.max(part.start(), places.get(i + 1) - preRoll) : part.end();
            if (end - start >= shortest) out.add(new FrameRange(start, end));
        }
        return out;
    }

    private static List<Long> grid(double step, FrameRange part) {
        List<Long> out = new ArrayList<>();
        for (int i = 0; i * step < part.length() - step / 4 && i <= Chop.MOST_PARTS; i++)
            out.add(part.start() + Math.round(i * step));
        return out;
    }

    private InstrumentFile instrument(Gathered clip, SoundFile sound, List<FrameRange> slices) {
        KitLayout layout = options.instruments().kit();
        List<Sample> samples = new ArrayList<>();
        List<Zone> zones = new ArrayList<>();
        List<Problem> problems = new ArrayList<>();
        String digits = "%0" + Math.max(2, Integer.toString(slices.size()).length()) + "d";
        for (int i = 0; i < slices.size(); i++) {
            String name = clip.stem() + " " + String.format(Locale.ROOT, digits, i + 1);
            samples.add(new Sample.Found(name, slice(sound, slices.get(i), name)));
            int key = layout.startKey() + i * layout.stepKeys();
            Zone zone = Zone.of(i).with(Parameter.KEYS, new Span(Math.min(127, key), Math.min(127, key))).with(Parameter.ROOT_KEY, Math.min(127, key));
            if (key <= 127 || !isMapped)
                zones.add(isMapped ? zone.with(Parameter.ONE_SHOT, true) : zone);
            else
                if (zones.size() == i)
                    problems.add(Problem
                            .lost("from key " + layout.startKey() + " on there is room for " + i + " slices; " + (slices.size() - i) + " are left out", ""));
        }
        About about = About.named(clip.stem());
        return new InstrumentFile(clip.path(), sound.fileBytes(), ID, Told.count(slices.size(), "slice") + " of " + sound.container(), about,
                List.of(new Instrument(about, Optional.empty(), List.of(new ZoneGroup("", zones)))), samples, List.of(), problems);
    }

    /// With the cues and loops that lie in it.
    private static SoundFile slice(SoundFile whole, FrameRange range, String name) {
        int in = range.start() == 0 ? 0 : (int) Math.round(PRE_ROLL_SECONDS * whole.rateHz()),
                out = range.end() == whole.frames() ? 0 : (int) Math.min(range.length() / 2, Math.round(FADE_OUT_SECONDS * whole.rateHz()));
        SoundMetadata metadata = SoundMetadata.NONE.withTexts(Map.of(TextField.NAME, name))
                .withLoops(whole.metadata().loops().stream().filter(l -> l.frames().start() >= range.start() && l.frames().end() <= range.end())
                        .map(l -> l.withFrames(l.frames().movedBy(-range.start()))).toList());
        return new SoundFile(whole.path(), whole.fileBytes(), ID, whole.container(), whole.codec(), whole.encoding(), whole.rateHz(), whole.channels(),
                range.length(),
                new AudioPlace.Slice(whole, range, in, out), metadata, List.of(), List.of());
    }
}
