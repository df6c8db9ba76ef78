package ablecrate.planner.instrument;

import ablecrate.change.Change;
import ablecrate.change.FileChange;
import ablecrate.change.InstrumentChange;
import ablecrate.codec.SoundFile;
import ablecrate.format.BankFormat;
import ablecrate.fit.Size;
import ablecrate.format.InstrumentFile;
import ablecrate.instrument.About;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Parameter;

import ablecrate.library.Gathered;
import ablecrate.option.ItemEdit;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PlannedMap;
import ablecrate.planner.sound.Accepted;
import ablecrate.planner.sound.Leveling;
import ablecrate.planner.sound.PartChanges;
import ablecrate.planner.sound.SoundPlan;
import ablecrate.planner.sound.SoundTask;
import ablecrate.signal.Measurement;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/// The way of instruments into the packing list, stage by stage: plain instruments → samples for each bank → what of them fits the device → the sounds that they play → a plan for each; and, once the gains of all
/// sounds are known, parts → doubts → carried instruments → maps.
public final class InstrumentPlan {
    private final InstrumentTask task;
    private final PlainInstruments plain;
    private final FittedInstruments fitted;
    private final PlayedSounds played;
    private final List<SoundPlan> sounds;

    /// @param inJob sounds that an edited map may use beside the file's own
    public InstrumentPlan(Gathered gathered, InstrumentFile file, Accepted accepted, Map<Path, ItemEdit> edits, Map<Path, SoundFile> inJob,
            Function<Measurement.Request, Optional<Measurement>> measured) {
        InstrumentTask asked = InstrumentTask.of(gathered, file, accepted, edits, inJob, measured);
        BankSamples banks = BankSamples.of(asked, PlainInstruments.of(asked));
        task = banks.task();
        plain = banks.plain();
        fitted = FittedInstruments.of(task, plain.instruments());
        played = PlayedSounds.of(task, fitted.instruments());
        double[] louder = fitted.changes().isEmpty() && task.staysInFormat() ? new double[played.sounds().size()] : played.louderDb(task.mostGainDb());
        sounds = IntStream.range(0, played.sounds().size())
                .mapToObj(i -> sound(played.sounds().get(i), louder[i])).toList();
    }

    private SoundPlan sound(PlayedSounds.PlayedSound sound, double louderDb) {
        return InstrumentSounds.plan(task, sound, fitted.size(sound.sample()), new SoundTask.PlayedAs(louderDb, fitted.found().of(sound.sample())));
    }

    public List<SoundPlan> sounds() { return sounds; }

    /// Where zones say gains. Of sounds that were made mono to fit it is made up for already.
    private List<Optional<Double>> foldedDb() {
        boolean saysGains = !task.isLoose() && task.capabilities().carries(Parameter.GAIN);
        return IntStream.range(0, sounds.size()).mapToObj(i -> !saysGains || fitted.size(played.sounds().get(i).sample()).filter(Size::isFolded).isPresent()
                ? Optional.of(0.0)
                : sounds.get(i).foldedDb()).toList();
    }

    /// @param leveling that knows all sounds
    public PackingItem item(Leveling leveling) {
        PlannedParts parts = PlannedParts.of(sounds, foldedDb(), leveling);
        if (plain.instruments().isEmpty()) return refused(parts, "no instrument in it has one of the names asked for");
        if (parts.isNone())
            return refused(parts, parts.all().isEmpty() ? "none of its samples can be used" : parts.items().getFirst().reason());
        boolean isSame = isVerbatim(parts);
        MapDoubts roots = task.options().mending().looksForDamage() ? MapDoubts.roots(task, plain.instruments()) : new MapDoubts(List.of(), List.of());
        CarriedInstruments carried = CarriedInstruments.of(task, played, parts);
        List<PlannedMap> maps = maps(carried.instruments(), isSame);
        ClipRhythm rhythm = ClipRhythm.of(task, played, parts);
        List<Change> changes = isSame ? List.of() : Stream.concat(changes(parts, roots, carried, maps).stream(), rhythm.changes().stream()).toList();
        PackingItem item = PackingItem.of(task.gathered(), changes, parts.items(), maps).withSidecars(rhythm.files());
        List<Measurement.Request> wanted = Stream.of(roots.wanted(), fitted.wanted(), rhythm.wanted()).flatMap(List::stream).toList();
        return wanted.isEmpty() ? item : item.wanting(wanted);
    }

    private List<Change> changes(PlannedParts parts, MapDoubts roots, CarriedInstruments carried, List<PlannedMap> maps) {
        List<Change> changes = new ArrayList<>(fitted.changes());
        changes.addAll(plain.changes());
        task.bank().flatMap(bank -> tooLarge(bank, parts)).ifPresent(changes::add);
        if (task.isEdited()) changes.add(new InstrumentChange.ZonesEdited());
        changes.addAll(MapDoubts.problems(task));
        changes.addAll(new MapProblems(task.file(), plain.instruments()).changes());
        parts.lost(task, played).ifPresent(changes::add);
        changes.addAll(new PartChanges(parts.items()).changes());
        changes.addAll(roots.changes());
        changes.addAll(carried.changes());
        Optional<FileChange.Divided> divided = maps.size() > 1 && !task.areApart()
                ? Optional.of(new FileChange.Divided(carried.instruments().size(), maps.size(), task.accepted().sheet().layout().instrumentsPerBank()))
                : Optional.empty();
        // That it becomes several files is told before what differs within them.
        task.format().ifPresent(f -> changes.add(divided.isPresent() ? 0 : changes.size(),
                new FileChange.InstrumentsWritten(task.file().container(), f.name(), task.staysInFormat(), divided)));
        task.bank().flatMap(bank -> tooFull(bank, maps, parts)).ifPresent(changes::add);
        return changes;
    }

    private PackingItem refused(PlannedParts parts, String reason) {
        return PackingItem.of(task.gathered(), List.of(new FileChange.Refused(task.file().container(), reason)), parts.items(), List.of());
    }

    /// A bank of which nothing is asked that would change it is carried over byte for byte, with all that no model has. A device that plays banks is stricter than their makers were, who left out
    /// the silence between samples: for it they are written anew.
    private boolean isVerbatim(PlannedParts parts) {
        return !task.isEdited() && fitted.changes().isEmpty() && plain.changes().isEmpty() && task.bank().isPresent()
                && task.files(plain.instruments()).size() == 1 && task.staysInFormat() && !task.accepted().sheet().loadsBankByBank()
                && plain.instruments().size() >= task.file().instruments().size() && parts.areKept();
    }

    private List<PlannedMap> maps(List<Instrument> carried, boolean isSame) {
        if (task.isLoose()) return List.of();
        String id = task.format().orElseThrow().id();

        List<List<Instrument>> files = task.files(carried);
        Optional<Path> verbatim = isSame ? Optional.of(task.file().path()) : Optional.empty();
        return IntStream.range(0, files.size())
                .mapToObj(i -> new PlannedMap("", id, about(files, i), files.get(i), fitted.claims(files.get(i)), verbatim)).toList();
    }

    private About about(List<List<Instrument>> files, int file) {
        About whole = task.file().about();
        if (task.bank().isPresent() && files.size() == 1) return task.capabilities().fit(whole);
        return task.areApart()
                ? files.get(file).getFirst().about()
                : task.capabilities().fit(whole.with(About.Field.NAME, task.gathered().stem() + " " + (file + 1)));
    }

    private Optional<Change> tooLarge(BankFormat bank, PlannedParts parts) {
        long bytes = task.files(played.instruments()).stream().mapToLong(parts::audioBytes).max().orElse(0);

        return bytes > bank.limitBytes() ? Optional.of(new FileChange.BankTooLarge(bytes, bank.name(), bank.limitBytes())) : Optional.empty();
    }

    private static Optional<Change> tooFull(BankFormat bank, List<PlannedMap> maps, PlannedParts parts) {
        List<BankFormat.BankSound> sounds = parts.outputs().map(o -> new BankFormat.BankSound(o.path(), o.shape(), o.metadata())).toList();
        return maps.stream().flatMap(m -> bank.tooMany(m.instruments(), sounds).stream()).findFirst().map(FileChange.BankTooFull::new);
    }
}
