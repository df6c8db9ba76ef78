package ablecrate.plan;

import ablecrate.codec.Problem;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormats;
import ablecrate.destination.DestinationSheet;
import ablecrate.dsp.PitchDetector;
import ablecrate.format.BankFormat;
import ablecrate.format.InstrumentCapabilities;
import ablecrate.format.InstrumentFile;
import ablecrate.format.InstrumentFormat;
import ablecrate.format.OwnMaps;
import ablecrate.format.Sample;
import ablecrate.instrument.About;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Loop;
import ablecrate.instrument.Mapping;
import ablecrate.instrument.NoteName;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.SoundFacts;
import ablecrate.instrument.Zone;
import ablecrate.instrument.ZoneGroup;
import ablecrate.library.Gathered;
import ablecrate.signal.Front;
import ablecrate.signal.Measurement;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Function;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/// The way of instruments into the packing list: a plan for each sound that their zones use, then the zones as the target can carry them.
///
/// Three targets: a map beside its sounds, a bank that holds them, or the sounds alone, each with its own mapping.
final class InstrumentPlan {
    /// A sound as zones use it: zones that loop it differently need it differently where its rate changes.
    private record Use(int sample, List<Loop> loops) {}

    private final Gathered gathered;
    private final InstrumentFile file;
    private final boolean isEdited;
    private final Optional<InstrumentFormat> format;
    private final InstrumentCapabilities capabilities;
    private final PackOptions options;
    private final List<Instrument> instruments;
    private final Function<Measurement.Request, Optional<Measurement>> measured;
    private final List<Change> changes = new ArrayList<>();
    private final List<Measurement.Request> wanted = new ArrayList<>();
    private final List<SoundPlan> sounds = new ArrayList<>();
    /// Which sound each zone plays, in the order of instruments and zones; negative where its sample is missing.
    private final List<Integer> plays = new ArrayList<>();
    private final List<Use> uses = new ArrayList<>();

    /// @param inJob sounds that an edited map may use beside the file's own
    InstrumentPlan(Gathered gathered, InstrumentFile file, Accepted accepted, DestinationSheet sheet, PackOptions options, Map<Path, ItemEdit> edits,
            Map<Path, SoundFile> inJob, Function<Measurement.Request, Optional<Measurement>> measured) {
        this.gathered = gathered;
        this.measured = measured;
        ItemEdit edit = edits.getOrDefault(gathered.path(), ItemEdit.NONE);
        InstrumentFile full = withAdded(file, edit.added(), inJob);
        // A map made for a file that has other samples by now is none.
        this.file = edit.map().filter(m -> fits(m, full)).map(full::withInstruments).orElse(file);
        this.options = options;
        isEdited = this.file != file;
        format = accepted.instruments(file.formatId());
        capabilities = format.map(InstrumentFormat::capabilities).orElseGet(() -> OwnMaps.capabilities(accepted.container("wav")));
        // Sounds that go without a map go all: what does not belong to one note may still be wanted.
        PlainZones plain = new PlainZones(format.map(InstrumentFormat::name).orElse(""), capabilities, i -> this.file.samples().get(i).name());
        Articulations articulations = new Articulations(format.map(InstrumentFormat::name).orElse(""));
        instruments = isLoose()
                ? chosen()
                : numbered((capabilities.carries(Parameter.SWITCH) ? chosen().stream() : chosen().stream().flatMap(i -> articulations.of(i).stream()))
                        .map(plain::of).toList());
        articulations.addTo(changes);
        plain.addTo(changes);
        for (Instrument instrument : instruments)
            for (Zone zone : instrument.zones())
                plays.add(use(zone));
        for (int i = 0; i < uses.size(); i++) {
            Gathered sound = sound(i);
            SoundFile source = sound.sound().orElseThrow();
            SoundTarget target = switch (format.orElse(null)) {
                case BankFormat bank -> SoundTarget.pooled(bank);
                case null -> SoundTarget.file(accepted.container(source.formatId()), sheet.keeps(), options.facts().written());
                default -> SoundTarget.mapped(accepted.container(source.formatId()), options.facts().written());
            };
            ItemEdit own = edits.getOrDefault(sound.path(), ItemEdit.NONE);
            sounds.add(new SoundPlan(sound, source, Optional.of(facts(i, source)), target, accepted, sheet, options,
                    own.withTreatment(own.treatment().or(edit::treatment)), measured));
        }
    }

    /// With the sounds that the user put on keys beside the file's own.
    private static InstrumentFile withAdded(InstrumentFile file, List<Path> added, Map<Path, SoundFile> inJob) {
        if (added.isEmpty()) return file;
        List<Sample> all = new ArrayList<>(file.samples());
        for (Path path : added) {
            String name = path.getFileName().toString();
            all.add(inJob.containsKey(path) ? new Sample.Found(name, inJob.get(path)) : new Sample.Missing(name, "it is not in the job any more"));
        }
        return file.withSamples(all);
    }

    private static boolean fits(List<Instrument> map, InstrumentFile file) {
        return map.stream().flatMap(i -> i.zones().stream()).allMatch(z -> z.sample() < file.samples().size());
    }

    private List<Instrument> chosen() {
        List<String> only = options.instruments().only();
        return only.isEmpty() ? file.instruments() : file.instruments().stream().filter(i -> only.stream().anyMatch(i.name()::equalsIgnoreCase)).toList();
    }

    /// Numbers as the target has them, each once where they stand in one bank.
    private List<Instrument> numbered(List<Instrument> chosen) {
        List<Instrument> fitted = chosen.stream().map(i -> i.withProgram(i.program().map(format.orElseThrow()::fit))).toList();
        List<Instrument> apart = isBank() && fitted.stream().anyMatch(i -> i.program().isPresent()) ? Programs.apart(fitted) : fitted;
        List<Integer> moved = IntStream.range(0, chosen.size()).boxed()
                .filter(i -> chosen.get(i).program().isPresent() && !chosen.get(i).program().equals(apart.get(i).program())).toList();
        if (!moved.isEmpty()) {
            List<String> told = moved.stream()
                    .map(i -> "'" + chosen.get(i).name() + "' from " + chosen.get(i).program().orElseThrow() + " to " + apart.get(i).program().orElseThrow())
                    .toList();
            changes.add(new Change(Property.ABOUT, "program numbers", "moved", Verdict.ADJUSTED, "numbers of " + Told.count(told.size(), "instrument")
                    + " moved, as another has them or the target counts otherwise: " + Told.some(told)).each(told));
        }
        return apart;
    }

    private boolean isLoose() { return format.isEmpty(); }

    private boolean isBank() { return format.isPresent() && format.get() instanceof BankFormat; }

    List<SoundPlan> sounds() { return sounds; }

    private int use(Zone zone) {
        if (file.sound(zone.sample()).filter(s -> s.frames() > 0).isEmpty()) return -1;
        // Each zone a file of its own where the file has to say how the zone plays.
        if (isLoose()) return add(new Use(zone.sample(), zone.get(Parameter.LOOPS)));
        List<Loop> loops = zone.get(Parameter.LOOPS);
        for (int i = 0; i < uses.size(); i++) {
            Use use = uses.get(i);
            if (use.sample() != zone.sample()) continue;
            if (use.loops().equals(loops) || loops.isEmpty()) return i;
            if (use.loops().isEmpty()) {
                uses.set(i, new Use(use.sample(), loops));
                return i;
            }
        }
        return add(new Use(zone.sample(), loops));
    }

    private int add(Use use) {
        uses.add(use);
        return uses.size() - 1;
    }

    private Zone firstZone(int sound) { return allZones().get(plays.indexOf(sound)); }

    private List<Zone> allZones() { return instruments.stream().flatMap(i -> i.zones().stream()).toList(); }

    private Gathered sound(int place) {
        Sample.Found sample = (Sample.Found) file.samples().get(uses.get(place).sample());
        SoundFile source = sample.file();
        Path path = isOfBank(source) ? source.path().resolve(plainName(sample.name())) : source.path();
        Path relative = gathered.relative().resolveSibling(plainName(instrumentOf(place).name())).resolve(path.getFileName());
        return new Gathered(path, relative, new Gathered.Content.Sound(source));
    }

    private static boolean isOfBank(SoundFile source) { return SoundFormats.byId(source.formatId()).isEmpty(); }

    /// What the instrument says of a sound that it plays.
    private SoundFacts facts(int place, SoundFile source) {
        List<Loop> loops = uses.get(place).loops();
        if (options.facts().leavesFiles() && !isOfBank(source)) return source.facts();
        if (isLoose()) return OwnMaps.facts(firstZone(place), source.facts());
        if (isOfBank(source))
            return source.facts().withMapping(Mapping.NONE.withRootKey(firstZone(place).said(Parameter.ROOT_KEY))).withLoops(loops);
        return loops.isEmpty() ? source.facts() : source.facts().withLoops(loops);
    }

    private Instrument instrumentOf(int sound) {
        int zone = plays.indexOf(sound);
        for (Instrument instrument : instruments) {
            if (zone < instrument.zones().size()) return instrument;
            zone -= instrument.zones().size();
        }
        throw new IllegalStateException("sound " + sound + " is played by no zone");
    }

    private static String plainName(String name) {
        String plain = name.replaceAll("[/\\\\\\x00-\\x1f]", "_").strip();
        return plain.isEmpty() || plain.matches("\\.+") ? "sound" : plain;
    }

    PackingItem item(Leveling leveling) {
        List<PackingItem> parts = sounds.stream().map(s -> s.item(leveling)).toList();
        if (instruments.isEmpty()) return blocked(parts, "no instrument in it has one of the names asked for");
        List<List<Integer>> outputsOf = new ArrayList<>();
        int count = 0;
        for (PackingItem part : parts) {
            List<Integer> places = new ArrayList<>();
            for (int i = 0; i < part.outputs().size(); i++)
                places.add(count++);
            outputsOf.add(places);
        }
        if (count == 0) return blocked(parts, plays.stream().allMatch(p -> p < 0) ? "none of its samples can be used" : parts.getFirst().reason());
        if (isBank()) limit(parts);
        if (isEdited) changes.add(new Change(Property.ZONES, "as the source", "as edited", Verdict.CONVERTED, "zones as edited here"));
        problems();
        missing(parts);
        new PartChanges(parts).addTo(changes);
        if (options.mending().looksForDamage()) roots();
        boolean isSame = isVerbatim(parts);
        List<Instrument> carried = carried(parts, outputsOf, isSame);
        if (isSame) changes.clear();
        if (!isSame && format.isPresent() && !format.get().id().equals(file.formatId()))
            changes.add(new Change(Property.KIND, file.container(), format.get().name(), Verdict.CONVERTED, ""));
        if (!isSame && format.isPresent() && format.get().id().equals(file.formatId()))
            changes.add(new Change(Property.KIND, file.container(), format.get().name(), Verdict.CONVERTED, "written anew, tidy"));
        List<PlannedMap> maps = maps(carried, isSame ? Optional.of(file.path()) : Optional.empty());
        if (isBank() && !isSame) count(maps, parts);
        PackingItem item = PackingItem.of(gathered, changes, parts, maps);
        return wanted.isEmpty() ? item : item.wanting(wanted);
    }

    private PackingItem blocked(List<PackingItem> parts, String reason) {
        return PackingItem.of(gathered, List.of(new Change(Property.KIND, file.container(), "–", Verdict.BLOCKED, reason)), parts, List.of());
    }

    private List<PlannedMap> maps(List<Instrument> carried, Optional<Path> verbatim) {
        if (isLoose()) return List.of();
        String id = format.get().id();
        if (isBank() && !isSplit()) return List.of(new PlannedMap("", id, capabilities.fit(file.about()), carried, verbatim));
        return carried.stream().map(i -> new PlannedMap("", id, i.about(), List.of(i), Optional.empty())).toList();
    }

    private void limit(List<PackingItem> parts) {
        BankFormat bank = (BankFormat) format.orElseThrow();
        long bytes = isSplit()
                ? instruments.stream().mapToLong(i -> bytes(parts, uses(i))).max().orElse(0)
                : bytes(parts, IntStream.range(0, parts.size()).boxed().collect(Collectors.toSet()));
        if (bytes > bank.limitBytes())
            changes.add(new Change(Property.CONTAINER, "", "–", Verdict.BLOCKED,
                    String.format(Locale.ROOT, "%.1f GB of sounds, one %s holds %.1f GB; split it", bytes / 1e9, bank.name(), bank.limitBytes() / 1e9)));
    }

    private void count(List<PlannedMap> maps, List<PackingItem> parts) {
        BankFormat bank = (BankFormat) format.orElseThrow();
        List<BankFormat.BankSound> sounds = parts.stream().flatMap(p -> p.outputs().stream())
                .map(o -> new BankFormat.BankSound(o.path(), o.shape(), o.facts())).toList();
        maps.stream().flatMap(m -> bank.tooMany(m.instruments(), sounds).stream()).findFirst()
                .ifPresent(t -> changes.add(new Change(Property.CONTAINER, "", "–", Verdict.BLOCKED, t)));
    }

    /// A bank of which nothing is asked that would change it is carried over byte for byte, with all that no model has.
    private boolean isVerbatim(List<PackingItem> parts) {
        if (isEdited || !isBank() || isSplit() || !format.get().id().equals(file.formatId()) || instruments.size() < file.instruments().size()) return false;
        return parts.stream().flatMap(p -> p.outputs().stream()).noneMatch(PlannedOutput::audioChanges)
                && parts.stream().allMatch(p -> p.verdict() == Verdict.KEPT && p.outputs().size() == 1);
    }

    private static long bytes(List<PackingItem> parts, Set<Integer> sounds) {
        return sounds.stream().flatMap(s -> parts.get(s).outputs().stream()).mapToLong(PlannedOutput::audioBytes).sum();
    }

    /// The sounds that an instrument plays.
    private Set<Integer> uses(Instrument instrument) {
        int from = instruments.stream().takeWhile(i -> i != instrument).mapToInt(i -> i.zones().size()).sum();
        return plays.subList(from, from + instrument.zones().size()).stream().filter(p -> p >= 0).collect(Collectors.toSet());
    }

    /// Each instrument a bank of its own.
    private boolean isSplit() { return options.instruments().banks() == Banks.EACH && instruments.size() > 1; }

    /// Zones whose root is far from the note that their sample plays: the map is off, or the sample is.
    private void roots() {
        List<String> told = new ArrayList<>();
        Set<Integer> seen = new HashSet<>();
        for (Zone zone : allZones()) {
            Optional<SoundFile> sound = file.sound(zone.sample()).filter(s -> s.frames() > 0);
            if (sound.isEmpty() || !seen.add(zone.sample()) || zone.get(Parameter.KEY_TRACKING) == 0) continue;
            Measurement.Request request = new Measurement.OfPitch(sound.get());
            Optional<Measurement> found = measured.apply(request);
            if (found.isEmpty()) wanted.add(request);
            Optional<PitchDetector.Pitch> pitch = found.filter(Measurement.Pitched.class::isInstance).flatMap(m -> ((Measurement.Pitched) m).pitch())
                    .filter(p -> p.clarity() >= MapFromNames.CLEAR);
            // The player adds the tuning, so that the key of the root sounds as it should.
            double apart = pitch.map(p -> p.key() + zone.get(Parameter.TUNING) / 100 - zone.get(Parameter.ROOT_KEY)).orElse(0.0);
            if (Math.abs(apart) <= MapFromNames.NEAR) continue;
            told.add(String.format(Locale.ROOT, "'%s' has root %s and sounds like %s", file.samples().get(zone.sample()).name(),
                    NoteName.of(zone.get(Parameter.ROOT_KEY)), NoteName.of(Math.clamp((int) Math.rint(pitch.get().key()), 0, 127))));
        }
        if (!told.isEmpty())
            changes.add(new Change(Property.ZONES, Told.count(told.size(), "root"), "as they are", Verdict.KEPT, Told.count(told.size(), "root")
                    + " far from the pitch that is heard: " + Told.some(told)).each(told));
    }

    private void problems() {
        for (Problem.Effect effect : List.of(Problem.Effect.LOST, Problem.Effect.MEND, Problem.Effect.DOUBT, Problem.Effect.NOTE)) {
            List<String> found = file.problems().stream().filter(p -> p.effect() == effect)
                    .map(p -> p.place().isEmpty() ? p.text() : p.place() + ": " + p.text()).toList();
            if (!found.isEmpty())
                changes.add(
                        new Change(Property.STRUCTURE, Told.count(found.size(), noun(effect)), switch (effect) {
                            case LOST -> "left out";
                            case MEND -> "mended";
                            case DOUBT -> "as guessed";
                            case NOTE, OWN -> "told";
                        }, switch (effect) {
                            case LOST -> Verdict.REDUCED;
                            case MEND -> Verdict.CONVERTED;
                            case DOUBT -> Verdict.ADJUSTED;
                            case NOTE, OWN -> Verdict.KEPT;
                        },
                                Told.some(found)).each(found.size() > 1 ? found : List.of()));
        }
        new MapProblems(file, instruments).addTo(changes);
    }

    private static String noun(Problem.Effect effect) {
        return switch (effect) {
            case NOTE -> "note";
            case DOUBT -> "doubt";
            default -> "problem";
        };
    }

    private void missing(List<PackingItem> parts) {
        List<Zone> zones = allZones();
        List<String> lost = IntStream.range(0, zones.size()).filter(i -> isLost(i, parts)).mapToObj(i -> reasonOfLoss(zones.get(i), plays.get(i), parts))
                .toList();
        if (lost.isEmpty()) return;
        changes.add(
                new Change(Property.ZONES, Told.count(zones.size(), "zone"), Told.count(zones.size() - lost.size(), "zone"), Verdict.REDUCED,
                        Told.count(lost.size(), "zone") + " left out: " + lost.getFirst()).each(lost));
    }

    private boolean isLost(int zone, List<PackingItem> parts) { return plays.get(zone) < 0 || parts.get(plays.get(zone)).outputs().isEmpty(); }

    private String reasonOfLoss(Zone zone, int sound, List<PackingItem> parts) {
        Sample sample = file.samples().get(zone.sample());
        return "'" + sample.name() + "': " + switch (sample) {
            case Sample.Missing(_, String reason) -> reason;
            case Sample.Found(_, SoundFile f) -> sound < 0 ? f.frames() == 0 ? "it is empty" : "it cannot be used" : parts.get(sound).reason();
        };
    }

    /// The instruments as the target has them; what that changes is told, parameter by parameter.
    /// @param isSame whether the bank is carried over as it is: what suits others is not forced on it
    private List<Instrument> carried(List<PackingItem> parts, List<List<Integer>> outputsOf, boolean isSame) {
        CarriedZones told = new CarriedZones(format.map(InstrumentFormat::name).orElse("a sound's own mapping"), capabilities);
        List<Instrument> out = new ArrayList<>();
        Map<String, Integer> releases = new TreeMap<>();
        List<String> released = new ArrayList<>();
        int zoneNumber = 0;
        for (Instrument instrument : instruments) {
            List<ZoneGroup> groups = new ArrayList<>();
            Optional<Double> release = options.instruments().playingDefaults() && !isLoose() && !isSame
                    ? PlayingDefaults.releaseSeconds(instrument)
                    : Optional.empty();
            // Within one format a gain beyond what players do is as loud as before.
            boolean staysInFormat = format.isPresent() && format.get().id().equals(file.formatId());
            double softer = staysInFormat ? 0 : excessGain(instrument);
            if (softer > 0)
                changes.add(new Change(Property.PLAYING, "gain", String.format(Locale.ROOT, "%.1f dB softer", softer), Verdict.ADJUSTED,
                        String.format(Locale.ROOT, "all zones of '%s' %.1f dB softer, so that their steps stay: gain is %s there", instrument.name(), softer,
                                capabilities.how(Parameter.GAIN))));
            int defaulted = 0;
            for (ZoneGroup group : instrument.groups()) {
                List<Zone> zones = new ArrayList<>();
                for (Zone zone : group.zones()) {
                    int number = zoneNumber++;
                    if (isLost(number, parts)) continue;
                    Supplier<String> name = () -> Told.zone(instrument.name(), zone, file.samples().get(zone.sample()).name());
                    Zone given = softer > 0 ? zone.with(Parameter.GAIN, Math.max(Parameter.LEAST_GAIN, zone.get(Parameter.GAIN) - softer)) : zone;
                    if (release.isPresent() && zone.said(Parameter.RELEASE).isEmpty() && !zone.get(Parameter.ONE_SHOT)) {
                        given = given.with(Parameter.RELEASE, release.get());
                        released.add(name.get() + ": " + given.told(Parameter.RELEASE));
                        defaulted++;
                    }
                    PackingItem part = parts.get(plays.get(number));
                    for (int i = 0; i < part.outputs().size(); i++) {
                        Zone moved = moved(given, part.outputs().get(i), outputsOf.get(plays.get(number)).get(i));
                        if (part.outputs().size() == 2) moved = moved.with(Parameter.PAN, i == 0 ? -100.0 : 100.0);
                        zones.add(told.fit(moved, name));
                    }
                }
                if (!zones.isEmpty()) groups.add(new ZoneGroup(group.name(), zones));
            }
            if (defaulted > 0)
                releases.merge(String.format(Locale.ROOT, "%s, %.0f ms", PlayingDefaults.kind(instrument), release.get() * 1000), defaulted, Integer::sum);
            if (!groups.isEmpty()) out.add(new Instrument(capabilities.fit(instrument.about()), instrument.program(), groups));
        }
        if (!releases.isEmpty())
            changes.add(new Change(Property.PLAYING, "no release", "a release", Verdict.CONVERTED, "a release for zones without one: "
                    + releases.entrySet().stream().map(e -> e.getValue() + " like " + e.getKey()).collect(Collectors.joining("; "))).each(released));
        told.addTo(changes);
        about();
        return out;
    }

    /// By how much the loudest zone is beyond what the target can raise.
    private double excessGain(Instrument instrument) {
        if (isLoose() || !capabilities.carries(Parameter.GAIN)) return 0;
        double loudest = instrument.zones().stream().mapToDouble(z -> z.get(Parameter.GAIN)).max().orElse(0);
        double excess = loudest - capabilities.fit(Zone.of(0).with(Parameter.GAIN, loudest)).get(Parameter.GAIN);
        return excess > 0.1 ? Math.ceil(excess * 10) / 10 : 0;
    }

    private void about() {
        List<String> lost = Arrays.stream(About.Field.values()).filter(f -> !capabilities.about().contains(f))
                .filter(f -> instruments.stream().anyMatch(i -> !f.of(i.about()).isEmpty())).map(About.Field::label).toList();
        if (!lost.isEmpty())
            changes.add(new Change(Property.ABOUT, String.join(", ", lost), "none", Verdict.REDUCED, String.join(", ", lost) + " not stored"));
    }

    /// Frames as they are in the result, and the tuning that pays for the loop.
    private static Zone moved(Zone zone, PlannedOutput output, int place) {
        Front front = output.front();
        double ratio = (double) front.outputStep() / front.inputStep(),
                cents = 1200 * Math.log(ratio * output.source().rateHz() / front.rateHz()) / Math.log(2);
        Zone out = zone.withSample(place);
        if (Math.abs(cents) > 1e-9)
            out = out.with(Parameter.TUNING, Math.clamp(zone.get(Parameter.TUNING) + cents, -Parameter.MOST_TUNING, Parameter.MOST_TUNING));
        if (zone.get(Parameter.START) > 0)
            out = out.with(Parameter.START, Math.min(frame(zone.get(Parameter.START), front, ratio), output.shape().frames() - 1));
        if (zone.get(Parameter.END).isPresent()) {
            long end = Math.min(output.shape().frames(), frame(zone.get(Parameter.END).get(), front, ratio));
            out = end >= output.shape().frames() || end <= out.get(Parameter.START) ? out.without(Parameter.END) : out.with(Parameter.END, Optional.of(end));
        }
        // What the sound's own chunks keep of the loops was planned with the sound; a file that stays says what it always did.
        return zone.get(Parameter.LOOPS).isEmpty() || output.isVerbatim() ? out : out.with(Parameter.LOOPS, output.facts().loops());
    }

    private static long frame(long frame, Front front, double ratio) { return Math.max(0, Math.round((frame - front.part().start()) * ratio)); }
}
