package ablecrate.planner;

import ablecrate.change.FileChange;
import ablecrate.codec.SoundFile;
import ablecrate.destination.DestinationSheet;
import ablecrate.format.InstrumentFile;
import ablecrate.format.Sample;
import ablecrate.instrument.Cue;
import ablecrate.library.Gathered;
import ablecrate.library.Playlist;
import ablecrate.library.Stems;
import ablecrate.option.ItemEdit;
import ablecrate.option.OptionConflict;
import ablecrate.option.PackOptions;
import ablecrate.plan.Card;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PackingList;
import ablecrate.planner.instrument.Assembler;
import ablecrate.planner.instrument.Chopper;
import ablecrate.planner.instrument.InstrumentPlan;
import ablecrate.planner.join.Joiner;
import ablecrate.planner.place.CardMemory;
import ablecrate.planner.place.CardRoom;
import ablecrate.planner.place.FittedSounds;
import ablecrate.planner.place.Placement;
import ablecrate.planner.place.SessionSheet;
import ablecrate.planner.place.TrackPlaces;
import ablecrate.planner.sound.Accepted;
import ablecrate.planner.sound.Leveling;
import ablecrate.planner.sound.SoundPlan;
import ablecrate.planner.sound.StampedStems;
import ablecrate.planner.sound.SoundTarget;
import ablecrate.planner.sound.SoundTask;
import ablecrate.signal.Measurement;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.slf4j.LoggerFactory;

/// Makes packing lists. Reads no audio and writes nothing: what has to be listened to is asked for, and taken from what was measured.
/// The same input gives the same list.
public final class Planner {
    /// The kind of a line that a fault of the program keeps from being planned.
    public static final String FAULT = "fault of the program";

    private final DestinationSheet sheet;
    private final PackOptions options;
    private final Map<Path, ItemEdit> edits;
    private final Accepted accepted;
    private final Function<Measurement.Request, Optional<Measurement>> measured;
    private final Map<Path, FittedSounds.Fitted> sizes;

    private Planner(DestinationSheet sheet, PackOptions options, Map<Path, ItemEdit> edits, Function<Measurement.Request, Optional<Measurement>> measured,
            Accepted accepted, Map<Path, FittedSounds.Fitted> sizes) {
        this.sheet = sheet;
        this.options = options;
        this.edits = edits;
        this.measured = measured;
        this.accepted = accepted;
        this.sizes = sizes;
    }

    /// The same where loose sounds are made smaller.
    private Planner sized(Map<Path, FittedSounds.Fitted> others) { return new Planner(sheet, options, edits, measured, accepted, others); }

    /// @param edits what is wanted otherwise for single files
    /// @param measured what was listened to; empty for what was not
    /// @throws OptionConflict if an option asks for what the destination does not accept, or the name pattern is none
    public static PackingList plan(List<Gathered> gathered, DestinationSheet sheet, PackOptions options, Map<Path, ItemEdit> edits,
            Function<Measurement.Request, Optional<Measurement>> measured) throws OptionConflict {
        return plan(gathered, sheet, options, edits, measured, Card.EMPTY);
    }

    /// @param card what the folder holds that is packed into
    public static PackingList plan(List<Gathered> gathered, DestinationSheet sheet, PackOptions options, Map<Path, ItemEdit> edits,
            Function<Measurement.Request, Optional<Measurement>> measured, Card card) throws OptionConflict {
        DestinationSheet taking = SessionSheet.of(sheet, options, card);
        Planner planner = new Planner(taking, options, edits, measured, Accepted.of(taking, options, SessionSheet.bpm(sheet, options, card)), Map.of());
        List<PackingItem> whole = new Placement(taking, options, card).place(planner.items(gathered));
        FittedSounds fitted = FittedSounds.of(taking, options, whole, measured);
        List<PackingItem> sized = fitted.sizes().isEmpty() ? whole : new Placement(taking, options, card).place(planner.sized(fitted.sizes()).items(gathered));
        List<PackingItem> placed = CardRoom.shared(taking, card,
                fitted.isWaiting() ? fitted.told(sized) : CardMemory.shared(taking, options, fitted.told(sized), fitted.whole()));
        return taking.isSession() ? TrackPlaces.of(taking, options, card, placed) : new PackingList(taking, options, placed);
    }

    /// From headers alone, all sounds alike.
    public static PackingList plan(List<Gathered> gathered, DestinationSheet sheet, PackOptions options) throws OptionConflict {
        return plan(gathered, sheet, options, Map.of(), _ -> Optional.empty());
    }

    private List<PackingItem> items(List<Gathered> gathered) {
        Set<Path> played = playedByInstruments(gathered);
        // Where folders become instruments, a sound stays in its own as well: the others' places there must not change.
        if (accepted.assembles().isEmpty())
            gathered.stream().filter(g -> g.instruments().isPresent()).map(g -> edits.getOrDefault(g.path(), ItemEdit.NONE)).filter(e -> e.map().isPresent())
                    .forEach(e -> played.addAll(e.added()));
        Map<Path, SoundFile> inJob = gathered.stream().filter(g -> g.sound().isPresent())
                .collect(Collectors.toMap(Gathered::path, g -> g.sound().get(), (first, _) -> first));
        List<Gathered> apart = gathered.stream().filter(g -> !played.contains(g.path())).toList();
        Chopper chopper = new Chopper(accepted, edits, measured);
        Predicate<Path> pads = path -> edits.getOrDefault(path, ItemEdit.NONE).treatment(options.treatment()).asOne().pads();
        List<Gathered> inSlices = StampedStems.aligned(apart.parallelStream().map(chopper::chopped).toList(), pads);
        Assembler assembler = new Assembler(options.instruments(), sheet.layout().soundsPerFolder(), edits, measured);
        // A clip that has to be listened to first is no part of an instrument of whole sounds.
        Predicate<Gathered> isWaiting = g -> chopper.wanted(g.path()).isPresent();
        Map<Path, Stems> stems = options.placing().joining().isWanted()
                ? Map.of()
                : Stems.in(inSlices, pads);
        List<Line> lines = options.placing().joining().isWanted()
                ? joined(inSlices, chopper, inJob)
                : accepted.assembles()
                        .map(format -> Stream.concat(assembler.assemble(inSlices.stream().filter(isWaiting.negate()).toList(), format).stream(),
                                inSlices.stream().filter(isWaiting)).toList())
                        .orElse(inSlices).parallelStream().map(g -> line(g, inJob, chopper, stems))
                        .toList();
        Leveling leveling = new Leveling(lines.stream().flatMap(l -> l.sounds().stream()).filter(SoundPlan::setsLevels).map(SoundPlan::toLevel).toList());
        List<PackingItem> items = lines.parallelStream().flatMap(l -> l.items().apply(leveling).stream()).toList();
        items = items.stream().map(i -> chopper.wanted(i.source().path()).map(w -> i.wanting(List.of(w))).orElse(i)).toList();
        return assembler.wanted().isEmpty() ? items : wanting(items, assembler);
    }

    /// All sounds in one line, what cannot be joined behind it.
    private List<Line> joined(List<Gathered> all, Chopper chopper, Map<Path, SoundFile> inJob) {
        List<Gathered> sounds = all.stream().filter(Joiner::takes).toList();
        List<Line> lines = new ArrayList<>();
        if (!sounds.isEmpty()) {
            Joiner joiner = new Joiner(accepted, sounds, chopper::edit, measured);
            List<Measurement.Request> wanted = sounds.stream().flatMap(g -> chopper.wanted(g.path()).stream()).toList();
            lines.add(new Line(joiner.sounds(), leveling -> joiner.items(leveling).stream().map(i -> wanted.isEmpty() ? i : i.wanting(wanted)).toList()));
        }
        all.stream().filter(g -> !Joiner.takes(g)).map(g -> line(g, inJob, chopper, Map.of())).forEach(lines::add);
        return lines;
    }

    private static List<PackingItem> wanting(List<PackingItem> items, Assembler assembler) {
        return items.stream().map(i -> i.isInstruments() ? i.wanting(assembler.wanted()) : i).toList();
    }

    /// A line of the list on its way: first its sounds, then, once all gains are known, the line. Sounds that are joined may be more than one.
    private record Line(List<SoundPlan> sounds, Function<Leveling, List<PackingItem>> items) {
        static Line of(List<SoundPlan> sounds, Function<Leveling, PackingItem> item) { return new Line(sounds, leveling -> List.of(item.apply(leveling))); }
    }

    /// A fault of ours with one file must not take the others of the list with it.
    private Line line(Gathered g, Map<Path, SoundFile> inJob, Chopper chopper, Map<Path, Stems> stems) {
        try {
            Line line = planned(g, inJob, chopper, stems);
            return new Line(line.sounds(), leveling -> {
                try {
                    return line.items().apply(leveling);
                } catch (RuntimeException | StackOverflowError | OutOfMemoryError | AssertionError e) {
                    return List.of(fault(g, e));
                }
            });
        } catch (RuntimeException | StackOverflowError | OutOfMemoryError | AssertionError e) {
            return Line.of(List.of(), _ -> fault(g, e));
        }
    }

    private static PackingItem fault(Gathered g, Throwable e) {
        LoggerFactory.getLogger(Planner.class).error("cannot plan {}", g.path(), e);
        return blocked(g, FAULT, "Able Crate cannot plan it, which is a fault of its own; please report it with the file");
    }

    private Line planned(Gathered g, Map<Path, SoundFile> inJob, Chopper chopper, Map<Path, Stems> stems) {
        if (g.instruments().isPresent()) {
            InstrumentPlan plan = new InstrumentPlan(g, g.instruments().get(), accepted, edits, inJob, measured);
            return Line.of(plan.sounds(), plan::item);
        }
        Optional<SoundPlan> sound = g.sound().filter(f -> f.frames() > 0)
                .map(f -> sound(g, f, chopper.edit(g.path()), Optional.ofNullable(stems.get(g.path())), chopper.cues(g.path())));
        return Line.of(sound.stream().toList(), leveling -> sound.map(s -> s.item(leveling)).orElseGet(() -> refused(g)));
    }

    /// Sounds that go with the instruments which play them, and not once more by themselves.
    private static Set<Path> playedByInstruments(List<Gathered> gathered) {
        Set<Path> played = new HashSet<>();
        for (Gathered g : gathered)
            g.instruments().ifPresent(file -> file.samples().forEach(s -> {
                if (s instanceof Sample.Found(_, SoundFile sound) && !sound.path().equals(g.path())) played.add(sound.path());
            }));
        return played;
    }

    private SoundPlan sound(Gathered gathered, SoundFile file, ItemEdit edit, Optional<Stems> stems, Optional<List<Cue>> cues) {
        Optional<FittedSounds.Fitted> fitted = Optional.ofNullable(sizes.get(gathered.path()));
        SoundTarget target = SoundTarget.file(accepted.container(file.formatId()), sheet.keeps(), options.metadata().written()).within(sheet.accepts().loops());
        return new SoundPlan(SoundTask
                .of(gathered, file, target, fitted.map(f -> accepted.reduced(f.size(), file)).orElse(accepted),
                        fitted.filter(FittedSounds.Fitted::isCut).map(f -> SoundTask.cut(edit, f.part(), !file.metadata().loops().isEmpty())).orElse(edit),
                        measured)
                .amongStems(stems).marked(cues));
    }

    private static PackingItem refused(Gathered gathered) {
        return switch (gathered.content()) {
            case Gathered.Content.Unread() -> blocked(gathered, "not read yet", "its headers are being read");
            case Gathered.Content.Links(Playlist list) -> blocked(gathered, "Playlist", list.told());
            case Gathered.Content.Refused(_, String name, String reason) -> blocked(gathered, name, reason);
            case Gathered.Content.Instruments(InstrumentFile file) -> throw new IllegalStateException(file.path() + " is not refused");
            case Gathered.Content.Sound(SoundFile file) -> blocked(gathered, file.container(), "the sound is empty: it has no frames");
        };
    }

    private static PackingItem blocked(Gathered gathered, String kind, String reason) {
        return PackingItem.of(gathered, List.of(new FileChange.Refused(kind, reason)), List.of(), List.of(), true);
    }
}
