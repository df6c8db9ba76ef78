package ablecrate.desktop.fit;

import ablecrate.audio.Figures;
import ablecrate.change.CardChange;
import ablecrate.change.Change;
import ablecrate.change.FitChange;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.desktop.list.PackingListModel;
import ablecrate.destination.CardRules;
import ablecrate.destination.DeviceLimits;
import ablecrate.fit.Fit;
import ablecrate.fit.FitClaim;
import ablecrate.fit.FitStep;
import ablecrate.fit.FitTask;
import ablecrate.fit.Harm;
import ablecrate.fit.Need;
import ablecrate.instrument.Instrument;
import ablecrate.option.Fitting;
import ablecrate.option.InstrumentOptions;
import ablecrate.option.Treatment;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PlannedOutput;
import ablecrate.planner.place.CardRoom;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;

/// How the chosen line is made to fit: what it takes and what there is, the steps, and the memory that the user gives it.
public final class FitModel {
    /// What there is of something, and what of it was taken and is now.
    /// @param limit 0 is no limit
    /// @param now what is taken now, of how much
    /// @param was in words, if that was more; empty otherwise
    public record Gauge(String label, double before, double after, double limit, String now, String was) {
        public String text() { return was.isEmpty() ? now : was + " → " + now; }

        public boolean isOver() { return limit > 0 && after > limit; }
    }

    /// @param saved in words; empty where a step saves no memory
    public record Step(FitStep.Kind kind, String text, double harmDb, String saved) {}

    /// An instrument that was changed, and how different its notes sound.
    /// @param place among those of the line; empty where some of them were left out or taken apart
    public record Changed(String name, OptionalInt place, Harm harm) {
        /// Whether it is the one at this place, or of this name where places do not tell.
        boolean is(int which, String other) { return place.isPresent() ? place.getAsInt() == which : name.equals(other); }

        boolean isSameInstrument(Changed other) { return place.equals(other.place) && name.equals(other.name); }
    }

    /// @param isWaiting whether it is not known yet; what is shown beside the sentence is what was known before
    /// @param sentence all of it in words
    /// @param memory empty where memory is not what is short
    /// @param instruments that were changed, the most different first
    public record Shown(boolean isWaiting, String sentence, List<Gauge> gauges, List<Step> steps, Optional<Memory> memory, List<Changed> instruments) {
        static Shown told(boolean isWaiting, String sentence) {
            return new Shown(isWaiting, sentence, List.of(), List.of(), Optional.empty(), List.of());
        }

        Shown waiting(String other) { return new Shown(true, other, gauges, steps, memory, instruments); }
    }

    /// @param curve what other amounts of memory would cost
    /// @param bytes of today
    /// @param harmDb of today, measured; as the curve, the mean of all instruments
    /// @param instruments how many there are
    /// @param ofWhat whose amounts these are where there are several memories, of which the fullest counts; empty for one
    public record Memory(List<Fit.Point> curve, long bytes, double harmDb, int instruments, String ofWhat) {
        static Optional<Memory> of(Fit fit, FitTask task) {
            if (fit.curve().size() < 2) return Optional.empty();
            double harmDb = fit.instruments().stream().mapToDouble(f -> f.harm().meanDb()).average().orElse(0);
            return Optional.of(new Memory(fit.curve(), fit.fullest(task), harmDb, fit.instruments().size(), ofWhat(task)));
        }

        private static String ofWhat(FitTask task) {
            return task.sharing(task.instruments()).size() == 1 ? "" : task.limits().isMemoryShared() ? "per bank" : "each";
        }

        double least() { return Math.max(1, curve.getFirst().bytes()); }

        double most() { return curve.getLast().bytes(); }

        /// What so much memory would cost, in dB.
        double foretold(long memory) {
            for (int i = 1; i < curve.size(); i++) {
                Fit.Point a = curve.get(i - 1), b = curve.get(i);
                if (memory <= b.bytes()) return a.harmDb() + (b.harmDb() - a.harmDb()) * Math.max(0, memory - a.bytes()) / Math.max(1, b.bytes() - a.bytes());
            }
            return curve.getLast().harmDb();
        }

        String amount(long memory) { return Figures.bytes(memory) + (ofWhat.isEmpty() ? "" : " " + ofWhat); }
    }

    private static final int MOST_COUNTED = 16;

    private final CrateModel crate;
    private final PackingListModel list;
    /// The last fit that was known, shown until the next is, and whose it was.
    private Optional<Shown> known = Optional.empty();
    private Optional<Path> knownOf = Optional.empty();
    private final ReadOnlyObjectWrapper<Optional<Shown>> shown = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ReadOnlyObjectWrapper<List<Gauge>> taken = new ReadOnlyObjectWrapper<>(List.of());

    public FitModel(CrateModel crate, PackingListModel list) {
        this.crate = crate;
        this.list = list;
        list.currentProperty().subscribe(_ -> renew());
        crate.onList(this::renew);
    }

    public ReadOnlyObjectProperty<Optional<PackingItem>> lineProperty() { return list.currentProperty(); }

    /// Empty where nothing has to be made to fit.
    public ReadOnlyObjectProperty<Optional<Shown>> shownProperty() { return shown.getReadOnlyProperty(); }

    /// What the chosen instrument takes of a device that has limits; also where nothing has to be made to fit.
    public ReadOnlyObjectProperty<List<Gauge>> takenProperty() { return taken.getReadOnlyProperty(); }

    private void renew() {
        Optional<PackingItem> line = list.currentProperty().get();
        Optional<Path> path = line.map(i -> i.source().path());
        boolean isAnew = path.isPresent() && path.equals(knownOf) && line.get().isNotFittedYet();
        Optional<Shown> next = isAnew ? known.map(k -> k.waiting(line.get().reason())) : line.flatMap(this::shown);
        if (next.isPresent() && !next.get().isWaiting()) {
            known = next;
            knownOf = path;
        }
        shown.set(next);
        List<Gauge> now = shown.get().map(Shown::gauges).orElse(List.of());
        List<Gauge> all = new ArrayList<>(now.isEmpty() ? needed() : now);
        CardRules card = crate.sheetProperty().get().card();
        if (card.capacityBytes() > 0 && crate.listProperty().get() != null) all.add(ofCard(card));
        taken.set(all);
    }

    /// What all lines take of the card together, with those that have no room.
    private Gauge ofCard(CardRules card) {
        long bytes = crate.listProperty().get().items().stream().mapToLong(i -> CardRoom.bytes(i, card)).sum();
        return new Gauge("Card", bytes, bytes, card.capacityBytes(), Figures.bytes(bytes) + " of " + Figures.bytes(card.capacityBytes()), "");
    }

    private List<Gauge> needed() {
        if (crate.sheetProperty().get().sharesMemory() && crate.listProperty().get() != null) return List.of(ofAllSounds(limits()));
        return list.currentProperty().get().map(i -> list.parentOf(i).orElse(i)).map(this::needed).orElse(List.of());
    }

    private List<Gauge> needed(PackingItem item) {
        DeviceLimits limits = limits();
        List<Instrument> instruments = item.maps().stream().flatMap(m -> m.instruments().stream()).toList();
        if (limits.isNone() || instruments.isEmpty()) return List.of();
        // Counting is quick for some instruments; what a whole bank takes is its memory.
        if (instruments.size() > MOST_COUNTED) instruments = List.of();
        boolean isPerBank = crate.sheetProperty().get().loadsBankByBank();
        long bytes = item.memoryBytes(limits.sampleOverheadBytes(), isPerBank);
        String label = isPerBank && item.maps().size() > 1 ? "Memory per bank" : "Memory";
        List<Need> needs = instruments.stream().map(i -> Need.of(i, bytes)).toList();
        boolean isOne = needs.size() == 1;
        long memory = isOne ? limits.bytesOfOne() : limits.totalBytes();
        if (needs.isEmpty()) return List.of(memory(label, bytes, bytes, memory));
        int layers = needs.stream().mapToInt(Need::layers).max().orElse(0), samples = needs.stream().mapToInt(Need::samples).max().orElse(0),
                zones = needs.stream().mapToInt(Need::zones).max().orElse(0);
        return List.of(counted("Velocity layers", layers, layers, limits.layers()), counted("Samples", samples, samples, limits.samples()),
                counted("Zones", zones, zones, limits.zones()),
                memory(label, bytes, bytes, memory));
    }

    /// What all lines take together, with those that have no room; and what they would take if none was made smaller.
    private Gauge ofAllSounds(DeviceLimits limits) {
        long all = 0, now = 0;
        for (PackingItem item : crate.listProperty().get().items()) {
            long written = item.memoryBytes(limits.sampleOverheadBytes(), false),
                    bytes = change(item, CardChange.MemoryFull.class).map(CardChange.MemoryFull::bytes).orElse(written);
            now += bytes;
            all += change(item, FitChange.SoundFitted.class).map(FitChange.SoundFitted::bytesBefore).orElse(bytes);
        }
        return memory(Math.max(all, now), now, limits.totalBytes());
    }

    private static <C extends Change> Optional<C> change(PackingItem item, Class<C> kind) {
        return item.changes().stream().filter(kind::isInstance).map(kind::cast).findFirst();
    }

    private Optional<Shown> shown(PackingItem item) {
        if (crate.sheetProperty().get().sharesMemory()) return ofSounds(item);
        Optional<FitChange.Fitted> fitted = change(item, FitChange.Fitted.class);
        if (fitted.isEmpty())
            return change(item, FitChange.NotFittedYet.class).map(c -> Shown.told(true, c.reason()))
                    .or(() -> change(item, FitChange.TooLarge.class).map(c -> Shown.told(false, c.reason())))
                    .or(() -> change(item, FitChange.LeftOut.class).map(c -> Shown.told(false, c.reason())))
                    .or(() -> change(item, FitChange.KitsDivided.class).map(c -> Shown.told(false, c.reason())));
        FitChange.Fitted f = fitted.get();
        Optional<FitClaim> claim = claim(item);
        Optional<Fit> fit = claim.flatMap(this::fit);
        Optional<FitTask> task = claim.map(FitClaim::task);
        List<Fit.Fitted> all = fit.map(Fit::instruments).orElse(List.of());
        boolean isInPlace = item.source().instruments().filter(file -> file.instruments().size() == all.size()).isPresent();
        List<Changed> changed = IntStream.range(0, all.size()).filter(i -> all.get(i).fits() && all.get(i).isChanged())
                .mapToObj(i -> new Changed(all.get(i).before().name(), isInPlace ? OptionalInt.of(i) : OptionalInt.empty(), all.get(i).harm()))
                .sorted(Comparator.comparingDouble((Changed c) -> c.harm().meanDb()).reversed()).toList();
        String reason = Stream.of(FitChange.Fitted.class, FitChange.KitsDivided.class, FitChange.LeftOut.class)
                .flatMap(kind -> change(item, kind).stream()).map(Change::reason).collect(Collectors.joining("\n"));
        return Optional
                .of(new Shown(false, reason, gauges(f, fit, task), steps(item.changes()), fit.flatMap(known -> Memory.of(known, task.orElseThrow())), changed));
    }

    /// All sounds that share a memory: what one of them loses is for the sake of the others.
    private Optional<Shown> ofSounds(PackingItem item) {
        Optional<FitClaim> claim = crate.listProperty().get().items().stream().flatMap(i -> i.output().flatMap(PlannedOutput::fitted).stream()).findFirst();
        return claim.flatMap(this::fit)
                .map(fit -> {
                    String whole = "it stays whole; all sounds together take " + Figures.bytes(fit.bytesBefore()) + " → " + Figures.bytes(fit.bytes());
                    return new Shown(false, change(item, FitChange.SoundFitted.class).map(Change::reason).orElse(whole), List.of(ofAllSounds(limits())),
                            steps(FitChange.of(fit)), Memory.of(fit, claim.orElseThrow().task()), List.of());
                })
                .or(() -> change(item, CardChange.MemoryFull.class).map(c -> Shown.told(false, c.reason())));
    }

    private static Optional<FitClaim> claim(PackingItem item) { return item.maps().stream().flatMap(m -> m.fitted().values().stream()).findFirst(); }

    private Optional<Fit> fit(FitClaim claim) { return crate.book().find(claim.task()).filter(Fit.class::isInstance).map(Fit.class::cast); }

    private static List<Step> steps(List<Change> changes) {
        return changes.stream().filter(FitChange.FitStepTaken.class::isInstance).map(FitChange.FitStepTaken.class::cast)
                .map(s -> new Step(s.step(), FitChange.FitStepTaken.counted(s.step(), s.from(), s.to()), s.harmDb(),
                        s.savedBytes() > 0 ? Figures.bytes(s.savedBytes()) : ""))
                .toList();
    }

    /// @param fit empty where only the whole is known
    private List<Gauge> gauges(FitChange.Fitted f, Optional<Fit> fit, Optional<FitTask> task) {
        DeviceLimits limits = limits();
        List<Gauge> out = new ArrayList<>();
        boolean isOne = f.instruments() == 1;
        out.add(counted("Velocity layers", f.layersBefore(), f.layersAfter(), limits.layers()));
        out.add(counted("Samples", f.samplesBefore(), f.samplesAfter(), isOne ? limits.samples() : 0));
        out.add(counted("Zones", f.zonesBefore(), f.zonesAfter(), isOne ? limits.zones() : 0));
        String ofWhat = task.map(Memory::ofWhat).orElse("");
        if (fit.isEmpty() || ofWhat.isEmpty())
            out.add(memory(f.bytesBefore(), f.bytesAfter(), isOne ? limits.bytesOfOne() : limits.totalBytes()));
        else
            out.add(memory("Memory " + ofWhat, task.get().fullest(), fit.get().fullest(task.get()), limits.bytesOfOne()));
        return out;
    }

    private static Gauge counted(String label, int before, int after, int limit) {
        return new Gauge(label, before, after, limit, after + (limit > 0 ? " of " + limit : ""), before == after ? "" : Integer.toString(before));
    }

    private static Gauge memory(long before, long after, long limit) { return memory("Memory", before, after, limit); }

    private static Gauge memory(String label, long before, long after, long limit) {
        return new Gauge(label, before, after, limit, Figures.bytes(after) + (limit > 0 ? " of " + Figures.bytes(limit) : ""),
                before == after ? "" : Figures.bytes(before));
    }

    private DeviceLimits limits() { return options().limits(crate.sheetProperty().get()); }

    private InstrumentOptions options() { return crate.job().options().instruments(); }

    private void change(UnaryOperator<Fitting> change, String label, boolean isDragged) {
        UnaryOperator<InstrumentOptions> instruments = o -> o.withFitting(change.apply(o.fitting()));
        if (isDragged)
            crate.dragOptions(o -> o.withInstruments(instruments.apply(o.instruments())), label);
        else
            crate.changeOptions(o -> o.withInstruments(instruments.apply(o.instruments())), label);
    }

    /// Gives all instruments together, or each of them, so much memory, and no more than the device has.
    public void giveMemory(long bytes) {
        long most = crate.sheetProperty().get().limits().bytesOfOne();
        if (most > 0 && bytes >= most) {
            giveAll();
            return;
        }
        double mb = Math.max(0.001, Math.rint(bytes / 1e3) / 1e3);
        change(f -> f.withMemory(Optional.of(mb)), String.format(Locale.ROOT, "memory of %.3f MB", mb), true);
    }

    /// As much as the device has.
    public void giveAll() { change(f -> f.withMemory(Optional.empty()), "all of the memory", false); }

    /// Sounds without a loop of what is shown: an early one would save the memory of all that lies behind it. Empty where memory is not short, or all have one.
    public Optional<FitTask.Unlooped> unlooped() {
        if (shown.get().flatMap(Shown::memory).isEmpty()) return Optional.empty();
        return list.currentProperty().get().flatMap(FitModel::claim).map(c -> c.task().unlooped()).filter(u -> u.sounds() > 0);
    }

    public boolean findsLoops() { return crate.job().options().treatment().finds().loops().missing(); }

    public void findLoops(boolean isWanted) {
        if (findsLoops() == isWanted) return;
        UnaryOperator<Treatment> change = t -> t.withFinds(t.finds().withLoops(t.finds().loops().withMissing(isWanted)));
        crate.changeOptions(o -> o.withTreatment(change.apply(o.treatment())), isWanted ? "find missing loops" : "leave loops missing");
    }

    public boolean isLessGiven() { return options().fitting().memoryMb().isPresent(); }

    public boolean isAllowed(FitStep.Kind step) { return !options().fitting().without().contains(step.id()); }

    public void allow(FitStep.Kind step, boolean isAllowed) {
        if (isAllowed(step) == isAllowed) return;
        List<String> without = new ArrayList<>(options().fitting().without());
        if (isAllowed)
            without.remove(step.id());
        else
            without.add(step.id());
        change(f -> f.withoutSteps(without), (isAllowed ? "fit with " : "fit without ") + step.label(), false);
    }

    /// Steps that were taken, and those that are forbidden.
    public List<FitStep.Kind> kinds() {
        List<FitStep.Kind> taken = shown.get().stream().flatMap(s -> s.steps().stream()).map(Step::kind).toList();
        return Arrays.stream(FitStep.Kind.values()).filter(k -> taken.contains(k) || !isAllowed(k)).toList();
    }
}
