package ablecrate.planner.instrument;

import ablecrate.change.Told;
import ablecrate.codec.AudioPlace;
import ablecrate.codec.Problem;
import ablecrate.codec.SoundFile;
import ablecrate.dsp.PitchDetector;
import ablecrate.format.InstrumentFile;
import ablecrate.format.InstrumentFormat;
import ablecrate.format.OwnMaps;
import ablecrate.format.Sample;
import ablecrate.format.names.NameFacts;
import ablecrate.format.names.NamePart;
import ablecrate.format.names.NameReader;
import ablecrate.format.names.NameReading;
import ablecrate.instrument.About;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Loop;
import ablecrate.instrument.NoteName;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Turn;
import ablecrate.instrument.Zone;
import ablecrate.instrument.ZoneGroup;
import ablecrate.library.Gathered;
import ablecrate.library.NaturalOrder;
import ablecrate.option.Banks;
import ablecrate.option.InstrumentOptions;
import ablecrate.option.ItemEdit;
import ablecrate.option.KitLayout;
import ablecrate.option.MapBy;
import ablecrate.planner.sound.SoundTask;
import ablecrate.signal.Measurement;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;

/// Makes instruments of loose sounds, a folder an instrument, where the user asks for a format of instruments; and one bank of many.
///
/// By their chunks, where each sound has a mapping. By their names, where these tell keys; then detected pitch settles which octave is meant by a
/// name, and gives the key to sounds whose names say none. Else a kit: one sound a key.
public final class Assembler {
    /// Not a format of files: a folder of sounds.
    static final String FOLDER_ID = "folder";
    private static final String PAIR_ID = "pair";
    /// So many of the sounds have to have a key in their name, or a pitch, for the set to be mapped by it.
    private static final double MOST = 0.8;

    private final InstrumentOptions options;
    private final int kitSounds;
    private final Map<Path, ItemEdit> edits;
    private final Function<Measurement.Request, Optional<Measurement>> measured;
    private final List<Measurement.Request> wanted = new ArrayList<>();

    /// @param kitSounds of a kit at most; 0 is no limit
    public Assembler(InstrumentOptions options, int kitSounds, Map<Path, ItemEdit> edits, Function<Measurement.Request, Optional<Measurement>> measured) {
        this.options = options;
        this.kitSounds = kitSounds;
        this.edits = edits;
        this.measured = measured;
    }

    /// What has to be listened to before the maps are known.
    public List<Measurement.Request> wanted() { return wanted; }

    public List<Gathered> assemble(List<Gathered> gathered, InstrumentFormat format) {
        Map<Path, List<Gathered>> folders = new LinkedHashMap<>();
        List<Gathered> out = new ArrayList<>();
        List<Gathered> loose = gathered.stream().filter(g -> g.sound().filter(f -> f.frames() > 0).isPresent()).toList();
        // All of them make one kit only where they are asked to be a kit.
        boolean isOneKit = options.mapBy() == MapBy.KIT && options.kit().isOfAll() && loose.size() > 1;
        Path around = isOneKit ? common(loose.stream().map(Gathered::path).toList()) : Path.of("");
        for (Gathered g : gathered) {
            if (g.sound().filter(f -> f.frames() > 0).isEmpty()) {
                out.add(g);
                continue;
            }
            Path folder = isOneKit ? around : g.path().getParent();
            // The instrument stands where its first sound stood.
            if (!folders.containsKey(folder)) out.add(new Gathered(folder, isOneKit ? name(folder) : folderOf(g), new Gathered.Content.Unread()));
            folders.computeIfAbsent(folder, _ -> new ArrayList<>()).add(g);
        }
        List<Gathered> made = out.stream().map(g -> folders.containsKey(g.path())
                ? new Gathered(g.path(), g.relative(), new Gathered.Content.Instruments(
                        instrument(g.path(), folders.get(g.path()))))
                : g).toList();
        return options.banks() == Banks.ONE && format.capabilities().manyInstruments() ? oneBank(made) : made;
    }

    /// Sounds that lie on the same keys and velocities with the same root would sound all at once: they take turns, in the order that their names say.
    private static List<Zone> inTurns(List<Zone> zones, List<NameFacts> names) {
        Map<List<Object>, List<Integer>> places = new LinkedHashMap<>();
        for (int i = 0; i < zones.size(); i++) {
            Zone z = zones.get(i);
            places.computeIfAbsent(List.of(z.get(Parameter.KEYS), z.get(Parameter.VELOCITIES), z.get(Parameter.ROOT_KEY)), _ -> new ArrayList<>()).add(i);
        }
        List<Zone> out = new ArrayList<>(zones);
        for (List<Integer> same : places.values()) {
            if (same.size() == 1 || same.size() > Turn.MOST) continue;
            same.sort(Comparator.comparingInt(i -> names.get(i).turn().orElse(Integer.MAX_VALUE)));
            for (int turn = 0; turn < same.size(); turn++)
                out.set(same.get(turn), zones.get(same.get(turn)).with(Parameter.TURN, new Turn(turn + 1, same.size())));
        }
        return out;
    }

    /// With the loops that the user wants.
    private List<Zone> looped(List<Zone> zones, List<Sample> samples) {
        return zones.stream().map(z -> samples.get(z.sample()) instanceof Sample.Found(_, SoundFile file)
                ? edits.getOrDefault(file.path(), ItemEdit.NONE).loop().loops().map(_ -> z.with(Parameter.LOOPS,
                        SoundTask.edited(file, edits.get(file.path())).metadata().loops())).orElse(z)
                : z).toList();
    }

    private static Path name(Path folder) { return folder.getFileName() == null ? Path.of("kit") : folder.getFileName(); }

    private static Path folderOf(Gathered g) { return g.relative().getParent() == null ? g.path().getParent().getFileName() : g.relative().getParent(); }

    private InstrumentFile instrument(Path folder, List<Gathered> found) {
        List<Gathered> gathered = options.kit().isOfAll() && options.mapBy() == MapBy.KIT
                ? found.stream().sorted(Comparator.comparing(Gathered::stem, NaturalOrder.INSTANCE)).toList()
                : found;
        List<SoundFile> sounds = gathered.stream().map(g -> g.sound().orElseThrow()).toList();
        NameReading reading = edits.getOrDefault(folder, ItemEdit.NONE).names().orElse(options.names());
        List<Problem> problems = new ArrayList<>();
        List<NameFacts> names = names(gathered, reading, problems);
        String how;
        List<Sample> samples = new ArrayList<>();
        List<ZoneGroup> groups;
        int most = Integer.MAX_VALUE;
        boolean haveChunks = sounds.stream().allMatch(s -> s.metadata().mapping().rootKey().isPresent());
        long named = names.stream().filter(n -> n.key().isPresent()).count();
        // Names whose numbers are no keys leave it to what is heard.
        if (named == 0 && !problems.isEmpty()) named = sounds.stream().filter(s -> clearPitch(s).isPresent()).count();
        MapBy by = options.mapBy() != MapBy.AUTO
                ? options.mapBy()
                : haveChunks && sounds.size() > 1 && areDifferent(sounds) ? MapBy.CHUNKS : named >= MOST * names.size() ? MapBy.NAMES : MapBy.KIT;
        switch (by) {
            case CHUNKS -> {
                how = "mapped by the chunks of its sounds";
                List<Zone> zones = new ArrayList<>();
                for (int i = 0; i < sounds.size(); i++) {
                    samples.add(new Sample.Found(gathered.get(i).stem(), sounds.get(i)));
                    zones.add(OwnMaps.zone(i, sounds.get(i).metadata()));
                }
                boolean haveRanges = sounds.stream().allMatch(s -> s.metadata().mapping().keys().isPresent());
                groups = List.of(new ZoneGroup("", inTurns(haveRanges ? zones : KeySpread.spread(zones, options.gaps()), names)));
            }
            case NAMES -> {
                MapFromNames map = new MapFromNames(gathered, names, reading.shiftKeys(), this::pitch, options.gaps());
                how = map.how();
                samples.addAll(map.samples());
                groups = map.groups();
                problems.addAll(map.problems());
            }
            default -> {
                KitLayout kit = options.kit();
                how = "a kit from key " + NoteName.of(kit.startKey()) + " upwards" + (kit.stepKeys() == 1 ? "" : ", a sound every " + kit.stepKeys() + " keys");
                List<Zone> zones = new ArrayList<>();
                most = kitSounds > 0 ? kitSounds : sounds.size();
                for (int i = 0; i < sounds.size(); i++) {
                    samples.add(new Sample.Found(gathered.get(i).stem(), sounds.get(i)));
                    int key = kit.startKey() + i % most * kit.stepKeys();
                    if (key > 127) {
                        problems.add(Problem.lost("a kit from key " + kit.startKey() + " has room for " + i + " sounds; " + (sounds.size() - i)
                                + " are left out", ""));
                        break;
                    }
                    Zone zone = Zone.of(i).with(Parameter.KEYS, new Span(key, key)).with(Parameter.ROOT_KEY, key);
                    List<Loop> loops = sounds.get(i).metadata().loops();
                    zones.add(loops.isEmpty() ? zone.with(Parameter.ONE_SHOT, true) : zone.with(Parameter.LOOPS, loops));
                }
                groups = List.of(new ZoneGroup("", zones));
            }
        }
        problems.add(Problem.note(how, ""));
        About about = About.named(folder.getFileName() == null ? "instrument" : folder.getFileName().toString());
        return new InstrumentFile(folder, sounds.stream().mapToLong(SoundFile::fileBytes).sum(), FOLDER_ID,
                Told.count(sounds.size(), "sound") + ", " + how, about,
                apart(about, groups.stream().map(g -> g.withZones(looped(g.zones(), samples))).toList(), most), samples,
                by == MapBy.NAMES ? names : List.of(),
                problems);
    }

    /// Kits that have more sounds than there is room for go in several, numbered.
    private static List<Instrument> apart(About about, List<ZoneGroup> groups, int most) {
        List<Zone> zones = groups.size() == 1 ? groups.getFirst().zones() : List.of();
        if (zones.size() <= most) return List.of(new Instrument(about, Optional.empty(), groups));
        List<Instrument> kits = new ArrayList<>();
        for (int from = 0; from < zones.size(); from += most)
            kits.add(new Instrument(About.named(about.name() + " " + (kits.size() + 1)), Optional.empty(),
                    List.of(groups.getFirst().withZones(zones.subList(from, Math.min(zones.size(), from + most))))));
        return kits;
    }

    /// Mappings that are all the same are what some program leaves in every file.
    private static boolean areDifferent(List<SoundFile> sounds) {
        return sounds.stream().map(s -> List.of(s.metadata().mapping().rootKey(), s.metadata().mapping().velocities())).distinct().count() > 1;
    }

    /// What the names say; where numbers in them cannot be the keys that they look like, that is told, and they are none.
    private List<NameFacts> names(List<Gathered> gathered, NameReading reading, List<Problem> problems) {
        List<NameFacts> names = NameReader.read(gathered.stream().map(Gathered::stem).toList(), reading);
        boolean isSaid = reading.parts().containsValue(NamePart.KEY);
        if (isSaid || options.mapBy() == MapBy.KIT || options.mapBy() == MapBy.CHUNKS || names.stream().noneMatch(NameFacts::isKeyANumber)) return names;
        List<Optional<PitchDetector.Pitch>> pitches = gathered.stream().map(g -> clearPitch(g.sound().orElseThrow())).toList();
        if (!MapFromNames.areNoKeys(names, pitches)) return names;
        problems.add(Problem.doubt("the numbers in the names are no keys: the sounds are heard elsewhere; if they are, say so of that part of the name", ""));
        return names.stream().map(NameFacts::withoutKey).toList();
    }

    private Optional<PitchDetector.Pitch> clearPitch(SoundFile file) { return pitch(file).filter(p -> p.clarity() >= MapFromNames.CLEAR); }

    private Optional<PitchDetector.Pitch> pitch(SoundFile file) {
        Measurement.Request request = new Measurement.OfPitch(file);
        Optional<Measurement> found = measured.apply(request);
        if (found.isEmpty()) wanted.add(request);
        return found.filter(Measurement.Pitched.class::isInstance).flatMap(m -> ((Measurement.Pitched) m).pitch());
    }

    /// Left and right of a pair as one sound.
    static SoundFile pair(SoundFile left, SoundFile right) {
        return new SoundFile(left.path(), left.fileBytes() + right.fileBytes(), PAIR_ID, "pair of mono files", left.codec(), left.encoding(), left.rateHz(), 2,
                Math.max(left.frames(), right.frames()), new AudioPlace.Sides(left, right), left.metadata(), List.of(), List.of());
    }

    /// All instruments in one, with the samples of each behind those of the ones before.
    private static List<Gathered> oneBank(List<Gathered> gathered) {
        List<Gathered> with = gathered.stream().filter(g -> g.instruments().isPresent()).toList();
        if (with.size() < 2) return gathered;
        List<Instrument> instruments = new ArrayList<>();
        List<Sample> samples = new ArrayList<>();
        List<Problem> problems = new ArrayList<>();
        Map<Object, Integer> placeOf = new HashMap<>();
        for (Gathered g : with) {
            InstrumentFile file = g.instruments().get();
            // What several of them play lies in the bank once.
            List<Integer> places = file.samples().stream().map(s -> placeOf.computeIfAbsent(same(s), _ -> {
                samples.add(s);
                return samples.size() - 1;
            })).toList();
            problems.addAll(file.problems().stream().map(p -> new Problem(p.effect(), p.text(), g.fileName() + (p.place().isEmpty() ? "" : ", " + p.place())))
                    .toList());
            for (Instrument i : file.instruments())
                instruments.add(i.mapZones(z -> List.of(z.withSample(places.get(z.sample())))));
        }
        Path folder = common(with.stream().map(Gathered::path).toList());
        Path relative = common(with.stream().map(Gathered::relative).toList());
        String name = folder.getFileName() == null ? "bank" : folder.getFileName().toString();
        InstrumentFile bank = new InstrumentFile(folder, with.stream().mapToLong(g -> g.instruments().get().fileBytes()).sum(), FOLDER_ID,
                Told.count(instruments.size(), "instrument"), About.named(name), inOrder(instruments), samples, List.of(), problems);
        List<Gathered> out = new ArrayList<>(gathered.stream().filter(g -> g.instruments().isEmpty()).toList());
        out.addFirst(new Gathered(folder, relative.toString().isEmpty() ? folder.getFileName() : relative, new Gathered.Content.Instruments(bank)));
        return out;
    }

    /// Samples with the same one are the same sound.
    private static Object same(Sample sample) {
        return sample instanceof Sample.Found(_, SoundFile sound) ? List.of(sound.path(), sound.audio()) : sample;
    }

    /// Those that were in one bank come back in the order of their numbers; others as they were found, each with a number that no other has.
    private static List<Instrument> inOrder(List<Instrument> instruments) {
        long different = instruments.stream().flatMap(i -> i.program().stream()).distinct().count();
        return different < instruments.size()
                ? Programs.apart(instruments)
                : instruments.stream().sorted(Comparator.comparing(i -> i.program().orElseThrow(), Instrument.Program.ORDER)).toList();
    }

    private static Path common(List<Path> paths) {
        Path common = paths.getFirst().getParent();
        while (common != null) {
            Path at = common;
            if (paths.stream().allMatch(p -> p.startsWith(at))) return common;
            common = common.getParent();
        }
        return Path.of("");
    }
}
