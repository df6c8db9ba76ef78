package ablecrate.fit;

import ablecrate.destination.DeviceLimits;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Trigger;
import ablecrate.instrument.Zone;
import ablecrate.instrument.ZoneGroup;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.BooleanSupplier;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/// Makes an instrument fit in what is counted: velocity layers, samples, zones, and keys that its sounds reach. The best plans and the simple ones are rendered, and the least harm wins.
final class CountFitter {
    /// So many choices are rendered before one of them is taken; in a bank that would take longer than the fit.
    private static final int EXCHANGES = 20;

    private final FitTask task;
    private final DeviceLimits limits;
    private final Notes notes;
    private final NoteSet measured;
    private final BooleanSupplier stopped;

    /// What was measured, by the very instrument.
    private final Map<Instrument, Double> harms = new IdentityHashMap<>();

    CountFitter(FitTask task, Notes notes, NoteSet measured, BooleanSupplier stopped) {
        this.task = task;
        this.stopped = stopped;
        this.limits = task.limits();
        this.notes = notes;
        this.measured = measured;
    }

    /// @param turned with fewer turns of its round robins, where there are to be fewer
    /// @param layered the same as it was before samples were thinned
    private record Plan(Instrument turned, Instrument layered, Instrument instrument) {}

    private final Map<String, Double> simple = new LinkedHashMap<>();

    /// @param steps with their harm
    /// @param simpleDb harm of simple plans
    record Counted(Instrument instrument, List<FitStep> steps, Map<String, Double> simpleDb) {}

    Counted fit(Instrument source) {
        List<FitStep> steps = new ArrayList<>();
        Instrument now = task.may(FitStep.Kind.KEYS) ? within(source) : source;
        if (now != source) step(steps, FitStep.Kind.KEYS, keys(source), keys(now), source, now);
        if (task.need(now).fitsCounts(limits) && task.playsTurns(now)) return new Counted(now, steps, simple);
        Optional<Plan> best = turned(now).stream().flatMap(t -> plans(t).stream())
                .min(Comparator.comparingDouble(p -> harmDb(p.instrument())));
        if (best.isEmpty()) return new Counted(now, steps, simple);
        Instrument turned = best.get().turned(), layered = best.get().layered(), end = best.get().instrument(),
                unreleased = releases(end) < releases(layered) ? withReleasesOf(layered, end) : layered;
        if (turned != now) step(steps, FitStep.Kind.TURNS, FitTask.turns(now), FitTask.turns(turned), now, turned);
        if (layered != turned) step(steps, FitStep.Kind.LAYERS, task.need(turned).layers(), task.need(layered).layers(), turned, layered);
        if (unreleased != layered) step(steps, FitStep.Kind.RELEASES, releases(layered), releases(end), layered, unreleased);
        if (!Set.copyOf(end.zones()).equals(Set.copyOf(unreleased.zones())))
            step(steps, FitStep.Kind.ROOTS, task.need(unreleased).samples(), task.need(end).samples(), unreleased, end);
        return new Counted(end, steps, simple);
    }

    private double harmDb(Instrument instrument) { return harms.computeIfAbsent(instrument, i -> measured.harm(i, notes).meanDb()); }

    private void step(List<FitStep> steps, FitStep.Kind kind, long before, long after, Instrument from, Instrument to) {
        steps.add(new FitStep(kind, before, after, task.bytes(from) - task.bytes(to), harmDb(to) - harmDb(from)));
    }

    private static long keys(Instrument instrument) {
        TreeSet<Integer> keys = new TreeSet<>();
        instrument.zones().forEach(z -> IntStream.rangeClosed(z.get(Parameter.KEYS).low(), z.get(Parameter.KEYS).high()).forEach(keys::add));
        return keys.size();
    }

    /// Without keys for which a sound would have to be moved too far.
    private Instrument within(Instrument source) {
        int most = limits.transposeKeys();
        if (source.zones().stream().noneMatch(z -> Need.reachesTooFar(z, most))) return source;
        return source.mapZones(zone -> {
            if (!Need.reachesTooFar(zone, most)) return List.of(zone);
            Span keys = zone.get(Parameter.KEYS);
            int root = zone.get(Parameter.ROOT_KEY), low = Math.max(keys.low(), root - most), high = Math.min(keys.high(), root + most);
            return low > high ? List.of() : List.of(zone.with(Parameter.KEYS, new Span(low, high)));
        });
    }

    private static boolean isReleased(Zone zone) { return zone.get(Parameter.TRIGGER) == Trigger.RELEASE; }

    /// How many release samples there are.
    static int releases(Instrument instrument) {
        return (int) instrument.zones().stream().filter(CountFitter::isReleased).map(Zone::sample).distinct().count();
    }

    /// With the release samples of another.
    static Instrument withReleasesOf(Instrument instrument, Instrument other) {
        return of(instrument, List.of(List.of(new Stack(Stack.ALL, Stack.ALL, Stream.concat(instrument.zones().stream().filter(z -> !isReleased(z)),
                other.zones().stream().filter(CountFitter::isReleased)).toList()))));
    }

    /// With all turns that the device plays, and with as many as need no other step; with one where there is no such number.
    private List<Instrument> turned(Instrument start) {
        if (!task.may(FitStep.Kind.TURNS) || FitTask.turns(start) == 1) return List.of(start);
        TurnChoice choice = new TurnChoice(start, notes);
        Instrument played = task.playsTurns(start) ? start : choice.of(task.mostTurns());
        int most = Math.min(FitTask.turns(played), choice.longest() - 1);
        while (most > 1 && !task.need(choice.of(most)).fitsCounts(limits))
            most--;
        return Stream.of(played, choice.of(most)).distinct().toList();
    }

    private List<Plan> plans(Instrument start) {
        List<List<Stack>> layers = Stack.layers(start);
        int has = task.need(start).layers(), most = limits.layers() == 0 ? has : Math.min(has, limits.layers());
        boolean isThinned = !Need.within(task.need(start).samples(), limits.samples()) || !Need.within(task.need(start).zones(), limits.zones());
        List<Plan> plans = new ArrayList<>();
        TreeSet<Integer> counts = new TreeSet<>(isThinned && task.may(FitStep.Kind.LAYERS) ? List.of(1, (most + 1) / 2, most) : List.of(most));
        LayerChoice choice = new LayerChoice(notes, layers, task.format(), task.rules());
        for (int count : counts.descendingSet()) {
            if (count < has && !task.may(FitStep.Kind.LAYERS)) continue;
            List<List<Stack>> chosen = count < has ? layered(start, choice, count) : layers;
            thinned(start, chosen).ifPresent(plans::add);
            if (count < has)
                Map.of("the first layers", SimplePlans.firstLayers(layers, count), "layers thinned evenly", SimplePlans.evenLayers(layers, count))
                        .forEach((name, plain) -> {
                            Instrument made = of(start, plain);
                            if (!task.need(made).fitsCounts(limits) || !task.rules().hold(start, made)) return;
                            plans.add(new Plan(start, made, made));
                            simple.merge(name, harmDb(made), Math::min);
                        });
        }
        return plans;
    }

    /// With so many velocity layers; what lies over several of them, or beside them, has layers of its own.
    private List<List<Stack>> layered(Instrument start, LayerChoice choice, int count) {
        return IntStream.iterate(count, c -> c >= 1, c -> c - 1).mapToObj(choice::of)
                .filter(layers -> Need.within(task.need(of(start, layers)).layers(), limits.layers())).findFirst().orElseGet(() -> choice.of(1));
    }

    /// The same layers with as few samples, and zones, as there may be.
    private Optional<Plan> thinned(Instrument start, List<List<Stack>> layers) {
        Instrument some = of(start, layers), layered = task.need(some).layers() < task.need(start).layers() ? some : start;
        if (task.need(layered).fitsCounts(limits)) return task.rules().hold(start, layered) ? Optional.of(new Plan(start, layered, layered)) : Optional.empty();
        List<Row> rows = Row.of(layers, Kits.isKit(start));
        Foretold foretold = new Foretold(notes, task.isBank());
        List<HeardNote[]> beside = Row.beside(rows, foretold);
        List<Row.Runs> runs = IntStream.range(0, rows.size()).mapToObj(r -> rows.get(r).runs(foretold, limits.transposeKeys(), task.rules(),
                task.format(), wholes(rows.get(r)), beside.get(r))).toList();
        List<Instrument> made = new ArrayList<>();
        chosen(start, runs).ifPresent(made::add);
        if (task.may(FitStep.Kind.ROOTS)) simplePlans(start, runs).forEach((name, plain) -> {
            made.add(plain);
            simple.merge(name, harmDb(plain), Math::min);
        });
        return made.stream().min(Comparator.comparingDouble(this::harmDb)).map(best -> new Plan(start, layered, best));
    }

    /// Without the samples that are missed least, and without zones where there are still too many.
    private Optional<Instrument> chosen(Instrument start, List<Row.Runs> runs) {
        StackChoice.Limit samples = new StackChoice.Limit(task.format().hasSampleEach() ? Stack::pieces : Stack::samples, orAll(limits.samples())),
                zones = new StackChoice.Limit(Stack::pieces, orAll(limits.zones()));
        List<Instrument> out = new ArrayList<>();
        for (boolean maySilence : new boolean[]{false, true}) {
            Optional<List<KeyRuns.Choice>> some = chosen(start, runs, _ -> true, samples, maySilence);
            some.flatMap(c -> built(start, runs, c))
                    .or(() -> some.map(c -> stacks(runs, c)).flatMap(among -> chosen(start, runs, among::contains, zones, maySilence))
                            .flatMap(c -> built(start, runs, c)))
                    .ifPresent(out::add);
        }
        return out.stream().min(Comparator.comparingDouble(this::harmDb));
    }

    private Optional<List<KeyRuns.Choice>> chosen(Instrument start, List<Row.Runs> runs, Predicate<Stack> among, StackChoice.Limit limit, boolean maySilence) {
        return new StackChoice(runs, among, limit, this::stays, maySilence, stopped).chosen(
                choices -> built(start, runs, choices).map(this::harmDb).orElse(KeyRuns.NEVER), task.isBank() ? 0 : EXCHANGES);
    }

    private boolean stays(Row row) { return !task.may(row.isReleased() ? FitStep.Kind.RELEASES : FitStep.Kind.ROOTS); }

    private static int orAll(int limit) { return limit == 0 ? Integer.MAX_VALUE : limit; }

    private static Set<Stack> stacks(List<Row.Runs> runs, List<KeyRuns.Choice> choices) {
        return IntStream.range(0, runs.size()).boxed().flatMap(r -> choices.get(r).kept().stream().map(k -> runs.get(r).row().stacks().get(k.stack())))
                .collect(Collectors.toSet());
    }

    /// With as many pieces as there is room for, so that levels follow.
    private Optional<Instrument> built(Instrument start, List<Row.Runs> runs, List<KeyRuns.Choice> choices) {
        return Arrays.stream(Row.APART_DB)
                .mapToObj(apartDb -> of(start, IntStream.range(0, runs.size()).mapToObj(r -> runs.get(r).build(choices.get(r), apartDb)).toList()))
                .filter(made -> fits(start, made)).findFirst();
    }

    /// What one would do by hand, by name, as far as it fits.
    private Map<String, Instrument> simplePlans(Instrument start, List<Row.Runs> runs) {
        Map<String, Instrument> out = new LinkedHashMap<>();
        // They know nothing of how far a sound may be moved.
        if (limits.transposeKeys() > 0) return out;
        int most = runs.stream().mapToInt(r -> r.row().stacks().size()).max().orElse(1);
        IntStream.range(0, most)
                .mapToObj(gone -> each(runs, row -> SimplePlans.evenly(row, Math.max(1, row.stacks().size() * (most - gone) / most))))
                .filter(choices -> fits(start, plain(start, runs, choices))).findFirst().ifPresent(choices -> {
                    out.put("thinned evenly", plain(start, runs, choices));
                    built(start, runs, choices).ifPresent(made -> out.put("thinned evenly, levels matched", made));
                });
        IntStream.rangeClosed(2, most).mapToObj(n -> plain(start, runs, each(runs, row -> SimplePlans.everyNth(row, n)))).filter(made -> fits(start, made))
                .findFirst().ifPresent(made -> out.put("every nth sample", made));
        return out;
    }

    private List<KeyRuns.Choice> each(List<Row.Runs> runs, Function<Row, KeyRuns.Choice> choice) {
        return runs.stream().map(r -> stays(r.row()) ? SimplePlans.evenly(r.row(), r.row().stacks().size()) : choice.apply(r.row())).toList();
    }

    private static Instrument plain(Instrument start, List<Row.Runs> runs, List<KeyRuns.Choice> choices) {
        return of(start, IntStream.range(0, runs.size()).mapToObj(r -> runs.get(r).row().plain(choices.get(r))).toList());
    }

    private boolean fits(Instrument start, Instrument made) { return task.need(made).fitsCounts(limits) && task.rules().hold(start, made); }

    static List<List<Row.SizeChoice>> wholes(Row row) {
        return row.stacks().stream().map(_ -> List.of(new Row.SizeChoice(Map.of(), 0, 0))).toList();
    }

    /// The zones of rows, in the place of the instrument's own.
    static Instrument of(Instrument source, List<List<Stack>> rows) {
        List<Zone> zones = Row.zones(rows);
        return source.withGroups(List.of(new ZoneGroup(source.groups().size() == 1 ? source.groups().getFirst().name() : "", zones)));
    }
}
