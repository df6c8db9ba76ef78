package ablecrate.fit;

import ablecrate.destination.DeviceLimits;
import ablecrate.instrument.Instrument;
import ablecrate.play.KeptSounds;

import ablecrate.play.Voices;
import ablecrate.signal.Recent;
import ablecrate.signal.SoundPath;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ForkJoinTask;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.BooleanSupplier;
import java.util.function.DoubleConsumer;
import java.util.function.IntFunction;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/// Makes instruments fit a device: first what is counted, then memory, which they share at one price for a byte, so that it goes where it is heard most.
final class Fitter {
    private static final int STAGES = 3, MOST_NOTES = 600, FEWEST_NOTES = 16, NOTES_OF_ONE = 72, SEARCH_STEPS = 40, CURVE_POINTS = 24;
    /// Of more, what other amounts of memory would cost is not told.
    private static final int MOST_ON_CURVE = 128;
    /// How much lower rates, shorter tails and one side count beside neighbours that stand in, in plans that are tried besides the one in which all count alike.
    private static final double[] LEANINGS = {0.4, 0.65, 1.5, 2.5};
    private static final double MOST_PRICE = 1e4, LEAST_PRICE = 1e-12;

    private final FitTask task;
    private final DeviceLimits limits;
    private final SoundPath path;
    private final BooleanSupplier stopped;
    private final DoubleConsumer progress;
    /// Instruments that a stage is done with, of all stages together.
    private final AtomicInteger done = new AtomicInteger();
    private final int notesOfEach;
    private final SizeHarms harms;
    private final Heard heard;
    private final KeptSounds kept = new KeptSounds();
    /// Samples by number, as the source has them.
    private final Voices.Sounds whole;

    /// @param recent what was found out for other amounts of memory
    /// @param progress told the part that is done
    Fitter(FitTask task, SoundPath path, Recent recent, BooleanSupplier stopped, DoubleConsumer progress) {
        this.task = task;
        this.path = path;
        this.stopped = stopped;
        this.progress = progress;
        limits = task.limits();
        notesOfEach = notesOfEach(task);
        harms = new SizeHarms(task.isBank());
        heard = recent.of(task.withoutMemory(), Heard::new);
        Voices.Sounds read = kept.of(sample -> task.sounds().get(sample).map(s -> s::load));
        whole = sample -> {
            if (stopped.getAsBoolean()) throw new Stopped();
            return read.sound(sample);
        };
    }

    /// On how many notes each instrument is compared.
    static int notesOfEach(FitTask task) { return Math.clamp(MOST_NOTES / Math.max(1, task.instruments().size()), FEWEST_NOTES, NOTES_OF_ONE); }

    /// Thrown where somebody does not want to know any more.
    private static final class Stopped extends RuntimeException {
        Stopped() { super(null, null, false, false); }
    }

    /// What does not depend on how much memory there is, as far as it is known.
    private static final class Heard {
        private final Map<Integer, NoteSet> notes = new ConcurrentHashMap<>();
        private volatile Optional<List<State>> counted = Optional.empty();
        private volatile Optional<List<Priced>> priced = Optional.empty();
    }

    /// An instrument on its way.
    /// @param sizes of its samples
    /// @param folds of those whose sides become one
    private record State(Instrument source, Instrument now, Map<Integer, Size> sizes, Map<Integer, Fold> folds, List<FitStep> steps, Harm harm,
            Map<String, Double> simpleDb) {
        State withNow(Instrument other) { return new State(source, other, sizes, folds, steps, harm, simpleDb); }
    }

    /// Empty where it was stopped.
    Optional<Fit> fit() throws IOException {
        try {
            if (heard.counted.isEmpty())
                heard.counted = Optional.of(each(this::counted));
            else
                done.addAndGet(task.instruments().size());
            List<State> counted = heard.counted.get();
            List<Fit.Point> curve = new ArrayList<>();
            List<State> made = isShort(counted) ? remembered(counted, curve) : counted;
            Map<Integer, Size> sizes = new HashMap<>();
            made.forEach(s -> s.sizes.forEach((sample, size) -> sizes.merge(sample, size, Size::larger)));
            long bytes = task.bytes(samples(made), sizes);
            return Optional.of(new Fit(made.stream().map(s -> fitted(s, sizes, bytes)).toList(), sizes,
                    task.bytesOfAll(), bytes, curve));
        } catch (Stopped e) {
            return Optional.empty();
        } catch (UncheckedIOException e) {
            throw e.getCause();
        }
    }

    /// One after the other to whoever is idle: some take a hundred times as long as others, so that shares of as many would not be done at once.
    private <T> List<T> each(IntFunction<T> work) {
        List<ForkJoinTask<T>> tasks = IntStream.range(0, task.instruments().size()).mapToObj(i -> ForkJoinTask.adapt(() -> {
            if (stopped.getAsBoolean()) throw new Stopped();
            T made = work.apply(i);
            progress.accept((double) done.incrementAndGet() / (STAGES * task.instruments().size()));
            return made;
        })).toList();
        return ForkJoinTask.invokeAll(tasks).stream().map(ForkJoinTask::join).toList();
    }

    private Fit.Fitted fitted(State state, Map<Integer, Size> sizes, long allBytes) {
        Need need = Need.of(state.now, task.bytes(FitTask.samples(state.now), sizes)), needed = Need.of(state.source, task.bytes(state.source));
        return new Fit.Fitted(state.source, asLoud(state, sizes), needed, need, state.harm, state.steps, state.simpleDb, lacking(state, need, allBytes));
    }

    /// With zones that make up for sides that became one.
    private Instrument asLoud(State state, Map<Integer, Size> sizes) {
        return state.now.mapZones(z -> List.of(sizes.containsKey(z.sample()) && sizes.get(z.sample()).isFolded() && state.folds.containsKey(z.sample())
                ? state.folds.get(z.sample()).asLoud(z, task.format().mostGainDb())
                : z));
    }

    private String lacking(State state, Need need, long allBytes) {
        List<String> out = new ArrayList<>();
        if (state.now.zones().stream().anyMatch(z -> Need.reachesTooFar(z, limits.transposeKeys()))) out.add("sounds that would be moved too far");
        if (!Need.within(need.layers(), limits.layers())) out.add(need.layers() + " velocity layers of " + limits.layers());
        if (!Need.within(need.samples(), limits.samples())) out.add(need.samples() + " samples of " + limits.samples());
        if (!Need.within(need.zones(), limits.zones())) out.add(need.zones() + " zones of " + limits.zones());
        if (!Need.within(need.bytes(), limits.instrumentBytes())) out.add(need.bytes() + " bytes of " + limits.instrumentBytes());
        if (!Need.within(allBytes, limits.totalBytes())) out.add(allBytes + " bytes of " + limits.totalBytes() + " in all");
        if (!task.rules().hold(state.source, state.now)) out.add("sounds that have to stay, and for which there is no room");
        boolean isKit = Kits.isKit(state.source) && !Need.within(need.samples(), limits.samples());
        return String.join(", ", out) + (isKit ? "; it is a kit, whose sounds cannot stand in for each other" : "");
    }

    /// The notes that an instrument is compared on.
    private NoteSet measured(int instrument) {
        NoteSet known = heard.notes.get(instrument);
        if (known != null) return known.anew();
        // Not made under a lock of the map: it is made by many threads, which may come here for others meanwhile.
        NoteSet made = new NoteSet(task.instruments().get(instrument), new Notes(whole), notesOfEach);
        heard.notes.put(instrument, made);
        return made;
    }

    private State counted(int place) {
        Instrument source = task.instruments().get(place);
        State unchanged = new State(source, source, Map.of(), Map.of(), List.of(), Harm.NONE, Map.of());
        boolean reaches = source.zones().stream().noneMatch(z -> Need.reachesTooFar(z, limits.transposeKeys()));
        if (Need.of(source, 0).fitsCounts(limits) && reaches) return unchanged;
        Notes notes = new Notes(whole);
        NoteSet measured = measured(place);
        CountFitter.Counted counted = new CountFitter(task, notes, measured).fit(source);
        return new State(source, counted.instrument(), Map.of(), Map.of(), counted.steps(), measured.harm(counted.instrument(), notes), counted.simpleDb());
    }

    private static Collection<Integer> samples(List<State> states) {
        return new HashSet<>(states.stream().flatMap(s -> FitTask.samples(s.now).stream()).toList());
    }

    private boolean isShort(List<State> states) {
        return !Need.within(task.bytes(samples(states), Map.of()), limits.totalBytes())
                || states.stream().anyMatch(s -> !Need.within(task.bytes(s.now), limits.instrumentBytes()));
    }

    /// What is kept of an instrument between its rendering and the search for a price.
    private record Priced(MemoryFitter fitter, State state) {}

    private List<State> remembered(List<State> states, List<Fit.Point> curve) {
        Map<Integer, Integer> users = users(states);
        if (heard.priced.isEmpty())
            heard.priced = Optional.of(each(i -> priced(states.get(i), users)));
        else
            done.addAndGet(task.instruments().size());
        List<Priced> priced = heard.priced.get();
        double[] least = priced.stream().mapToDouble(p -> cheapest(price -> bytes(List.of(p.fitter.at(price))) <= orAll(limits.instrumentBytes()))).toArray();
        double all = cheapest(price -> bytes(at(priced, least, price)) <= orAll(limits.totalBytes()));
        double[] prices = Arrays.stream(least).map(p -> Math.max(p, all)).toArray();
        List<MemoryFitter.Made> made = new SpareMemory(priced.stream().map(Priced::fitter).toList(), prices).spent(this::hasRoom, stopped);
        List<MemoryFitter.Made> written = joined(priced, made);
        for (int i = 0; i <= CURVE_POINTS && states.size() <= MOST_ON_CURVE; i++) {
            double price = LEAST_PRICE * Math.pow(MOST_PRICE / LEAST_PRICE, 1 - (double) i / CURVE_POINTS);
            List<MemoryFitter.Made> points = at(priced, new double[states.size()], price);
            Fit.Point next = new Fit.Point(bytes(points), points.stream().mapToDouble(p -> p.harm() / p.weight()).average().orElse(0));
            if (curve.isEmpty() || curve.getLast().bytes() < next.bytes()) curve.add(next);
        }
        return each(i -> best(priced.get(i), written.get(i), measured(i)));
    }

    /// With as many zones as the format counts.
    private List<MemoryFitter.Made> joined(List<Priced> priced, List<MemoryFitter.Made> made) {
        List<MemoryFitter.Made> out = made;
        for (double apartDb : Row.APART_DB) {
            if (Need.within(zones(out), task.format().mostZones())) break;
            out = IntStream.range(0, made.size()).mapToObj(i -> priced.get(i).fitter.joined(made.get(i), apartDb)).toList();
        }
        return out;
    }

    /// Zones of all of them; of stereo sounds two.
    private long zones(List<MemoryFitter.Made> made) {
        return made.stream().flatMap(m -> m.instrument().zones().stream().map(z -> task.channels(z.sample(), m.sizes().get(z.sample())))).mapToLong(c -> c)
                .sum();
    }

    private boolean hasRoom(List<MemoryFitter.Made> made) {
        return bytes(made) <= orAll(limits.totalBytes())
                && (limits.instrumentBytes() == 0 || made.stream().allMatch(m -> bytes(List.of(m)) <= limits.instrumentBytes()));
    }

    private static long orAll(long limit) { return limit == 0 ? Long.MAX_VALUE : limit; }

    private List<MemoryFitter.Made> at(List<Priced> priced, double[] least, double price) {
        return IntStream.range(0, priced.size()).parallel().mapToObj(i -> priced.get(i).fitter.at(Math.max(least[i], price))).toList();
    }

    private long bytes(List<MemoryFitter.Made> made) {
        Map<Integer, Size> sizes = new HashMap<>();
        made.forEach(m -> m.sizes().forEach((sample, size) -> sizes.merge(sample, size, Size::larger)));
        return task.bytes(made.stream().flatMap(m -> FitTask.samples(m.instrument()).stream()).toList(), sizes);
    }

    /// The lowest price at which something holds; bytes fall as it rises.
    private double cheapest(java.util.function.DoublePredicate holds) {
        if (holds.test(LEAST_PRICE)) return LEAST_PRICE;
        double low = LEAST_PRICE, high = MOST_PRICE;
        for (int i = 0; i < SEARCH_STEPS; i++) {
            if (stopped.getAsBoolean()) throw new Stopped();
            double middle = Math.sqrt(low * high);
            if (holds.test(middle))
                high = middle;
            else
                low = middle;
        }
        return high;
    }

    private Priced priced(State state, Map<Integer, Integer> users) {
        return new Priced(new MemoryFitter(task, state.now, whole, new SizedSounds(task, whole, kept, path), users, harms), state);
    }

    /// With half of the turns of its round robins, and with one.
    private List<Instrument> turned(Instrument instrument, Notes notes) {
        int turns = CountFitter.turns(instrument);
        if (turns == 1 || !task.may(FitStep.Kind.TURNS)) return List.of();
        TurnChoice choice = new TurnChoice(instrument, notes);
        return Stream.of(1, turns / 2).distinct().map(choice::of).toList();
    }

    /// The least harm in so much memory; empty where there is no way.
    private Optional<MemoryFitter.Made> within(State state, long bytes) {
        return within(priced(state, users(List.of(state))).fitter, bytes).filter(made -> task.rules().hold(state.source, made.instrument()));
    }

    private Optional<MemoryFitter.Made> within(MemoryFitter fitter, long bytes) {
        double price = cheapest(p -> bytes(List.of(fitter.at(p))) <= bytes);
        return Optional.of(new SpareMemory(List.of(fitter), new double[]{price}).spent(made -> bytes(made) <= bytes, stopped).getFirst())
                .filter(made -> bytes(List.of(made)) <= bytes);
    }

    private static Map<Integer, Integer> users(List<State> states) {
        Map<Integer, Integer> users = new HashMap<>();
        states.forEach(
                s -> Row.of(Stack.layers(s.now), Kits.isKit(s.now)).forEach(row -> row.samples().forEach(sample -> users.merge(sample, 1, Integer::sum))));
        return users;
    }

    /// A plan that is rendered.
    /// @param start what it was made of, with all turns of round robins or with fewer
    /// @param simple its name if it is what one would do by hand; empty for others
    private record Tried(MemoryFitter.Made made, Instrument start, String simple) {}

    private List<Tried> tried(Priced priced, MemoryFitter.Made chosen, Notes notes) {
        State state = priced.state;
        long bytes = bytes(List.of(chosen));
        List<Tried> out = new ArrayList<>(List.of(new Tried(chosen, state.now, "")));
        // In a bank that would take longer than the fit.
        if (task.isBank()) return out;
        // What is foretold of neighbours and of lower rates is not wrong to the same degree.
        for (double factor : LEANINGS)
            within(priced.fitter.leaning(factor), bytes).ifPresent(made -> out.add(new Tried(made, state.now, "")));
        for (Instrument fewer : turned(state.now, notes))
            within(state.withNow(fewer), bytes).ifPresent(made -> out.add(new Tried(made, fewer, "")));
        priced.fitter.evenly(bytes).forEach((name, made) -> out.add(new Tried(made, state.now, name)));
        priced.fitter.alike(bytes).forEach((name, made) -> out.add(new Tried(made, state.now, name)));
        long share = task.format().mostZones() / task.instruments().size();
        out.removeIf(plan -> task.format().mostZones() > 0 && zones(List.of(plan.made)) > Math.max(zones(List.of(chosen)), share));
        return out;
    }

    /// The plan at the price, or another one in the same memory where that sounds more like the source.
    private State best(Priced priced, MemoryFitter.Made chosen, NoteSet measured) {
        State state = priced.state;
        Notes notes = new Notes(whole);
        SizedSounds sized = new SizedSounds(task, whole, kept, path);
        Tried winner = null;
        Harm least = null;
        Map<String, Double> simple = new LinkedHashMap<>(state.simpleDb);
        for (Tried plan : tried(priced, chosen, notes)) {
            if (stopped.getAsBoolean()) throw new Stopped();
            Harm harm = sized.harm(measured, plan.made.instrument(), plan.made.sizes());
            if (!plan.simple.isEmpty()) simple.put(plan.simple, harm.meanDb());
            if (least != null && harm.meanDb() >= least.meanDb()) continue;
            least = harm;
            winner = plan;
        }
        MemoryFitter.Made best = winner.made;
        List<FitStep> steps = new ArrayList<>(state.steps);
        Instrument start = winner.start;
        double harm = state.harm.meanDb();
        if (start != state.now) {
            double fewer = measured.harm(start, notes).meanDb();
            steps.add(new FitStep(FitStep.Kind.TURNS, CountFitter.turns(state.now), CountFitter.turns(start), task.bytes(state.now) - task.bytes(start),
                    fewer - harm));
            harm = fewer;
        }
        steps.addAll(new MemorySteps(task, start, best, sized, measured).steps(harm));
        Map<Integer, Fold> folds = new HashMap<>();
        best.sizes().forEach((sample, size) -> {
            if (task.sounds().get(sample).filter(s -> s.isFoldedIn(size)).isPresent()) folds.put(sample, sized.fold(sample));
        });
        return new State(state.source, best.instrument(), best.sizes(), folds, steps, least, simple);
    }
}
