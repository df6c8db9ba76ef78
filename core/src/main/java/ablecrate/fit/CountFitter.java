package ablecrate.fit;

import ablecrate.destination.DeviceLimits;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Trigger;
import ablecrate.instrument.Zone;
import ablecrate.instrument.ZoneGroup;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/// Makes an instrument fit in what is counted: velocity layers, samples, zones, and keys that its sounds reach. The best plans and the simple ones are rendered, and the least harm wins.
final class CountFitter {
    private final FitTask task;
    private final DeviceLimits limits;
    private final Notes notes;
    private final NoteSet measured;
    /// What was measured, by the very instrument.
    private final Map<Instrument, Double> harms = new IdentityHashMap<>();

    CountFitter(FitTask task, Notes notes, NoteSet measured) {
        this.task = task;
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
        if (need(now).fitsCounts(limits)) return new Counted(now, steps, simple);
        Optional<Plan> best = turned(now).stream().flatMap(t -> plans(t).stream())
                .min(Comparator.comparingDouble(p -> harmDb(p.instrument())));
        if (best.isEmpty()) return new Counted(now, steps, simple);
        Instrument turned = best.get().turned(), layered = best.get().layered(), end = best.get().instrument(),
                unreleased = releases(end) < releases(layered) ? withReleasesOf(layered, end) : layered;
        if (turned != now) step(steps, FitStep.Kind.TURNS, turns(now), turns(turned), now, turned);
        if (layered != turned) step(steps, FitStep.Kind.LAYERS, need(turned).layers(), need(layered).layers(), turned, layered);
        if (unreleased != layered) step(steps, FitStep.Kind.RELEASES, releases(layered), releases(end), layered, unreleased);
        if (!Set.copyOf(end.zones()).equals(Set.copyOf(unreleased.zones())))
            step(steps, FitStep.Kind.ROOTS, need(unreleased).samples(), need(end).samples(), unreleased, end);
        return new Counted(end, steps, simple);
    }

    private double harmDb(Instrument instrument) { return harms.computeIfAbsent(instrument, i -> measured.harm(i, notes).meanDb()); }

    private void step(List<FitStep> steps, FitStep.Kind kind, long before, long after, Instrument from, Instrument to) {
        steps.add(new FitStep(kind, before, after, task.bytes(from) - task.bytes(to), harmDb(to) - harmDb(from)));
    }

    private Need need(Instrument instrument) { return Need.of(instrument, task.bytes(instrument)); }

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

    static int turns(Instrument instrument) { return instrument.zones().stream().mapToInt(z -> z.get(Parameter.TURN).length()).max().orElse(1); }

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

    /// With all turns, and with as many as need no other step; with one where there is no such number.
    private List<Instrument> turned(Instrument start) {
        if (!task.may(FitStep.Kind.TURNS) || turns(start) == 1) return List.of(start);
        TurnChoice choice = new TurnChoice(start, notes);
        int most = choice.longest() - 1;
        while (most > 1 && !need(choice.of(most)).fitsCounts(limits))
            most--;
        return List.of(start, choice.of(most));
    }

    private List<Plan> plans(Instrument start) {
        List<List<Stack>> layers = Stack.layers(start);
        int has = need(start).layers(), most = limits.layers() == 0 ? has : Math.min(has, limits.layers());
        boolean isThinned = !Need.within(need(start).samples(), limits.samples()) || !Need.within(need(start).zones(), limits.zones());
        List<Plan> plans = new ArrayList<>();
        TreeSet<Integer> counts = new TreeSet<>(isThinned && task.may(FitStep.Kind.LAYERS) ? List.of(1, (most + 1) / 2, most) : List.of(most));
        LayerChoice choice = new LayerChoice(notes, layers, task.format(), task.rules());
        for (int count : counts.descendingSet()) {
            if (count < has && !task.may(FitStep.Kind.LAYERS)) continue;
            List<List<Stack>> chosen = count < has ? choice.of(count) : layers;
            thinned(start, chosen).ifPresent(plans::add);
            if (count < has)
                Map.of("the first layers", SimplePlans.firstLayers(layers, count), "layers thinned evenly", SimplePlans.evenLayers(layers, count))
                        .forEach((name, plain) -> {
                            Instrument made = of(start, plain);
                            if (!need(made).fitsCounts(limits) || !task.rules().hold(start, made)) return;
                            plans.add(new Plan(start, made, made));
                            simple.merge(name, harmDb(made), Math::min);
                        });
        }
        return plans;
    }

    /// The same layers with as few samples, and zones, as there may be.
    private Optional<Plan> thinned(Instrument start, List<List<Stack>> layers) {
        Instrument some = of(start, layers), layered = need(some).layers() < need(start).layers() ? some : start;
        if (need(layered).fitsCounts(limits)) return task.rules().hold(start, layered) ? Optional.of(new Plan(start, layered, layered)) : Optional.empty();
        List<Row> rows = Row.of(layers, Kits.isKit(start));
        List<Integer> alike = alike(layered, rows);
        List<Instrument> made = new ArrayList<>();
        if (!alike.isEmpty()) {
            Instrument plain = of(start, IntStream.range(0, rows.size())
                    .mapToObj(r -> isFree(rows.get(r)) ? rows.get(r).plain(SimplePlans.evenly(rows.get(r), alike.get(r))) : rows.get(r).stacks()).toList());
            if (fits(start, plain)) {
                made.add(plain);
                simple.merge("each layer thinned alike", harmDb(plain), Math::min);
            }
        }
        List<Row.Runs> runs = rows.stream().map(r -> r.runs(notes, limits.transposeKeys(), task.rules(), task.format().mostGainDb(), wholes(r), true)).toList();
        // Where neighbours are one zone there are no more zones than samples; so those are tried where the pieces are too many.
        for (double apartDb : Row.APART_DB) {
            int before = made.size(), samples = limits.samples() == 0 ? Integer.MAX_VALUE : limits.samples(),
                    most = apartDb == Double.POSITIVE_INFINITY && limits.zones() > 0 ? Math.min(samples, limits.zones()) : samples;
            List<Integer> shared = Row.shared(runs, most, r -> !task.may(r.isReleased() ? FitStep.Kind.RELEASES : FitStep.Kind.ROOTS));
            // Samples are counted there as if stacks shared none, so that too few may stay: the same part of each row is tried as well.
            if (!alike.isEmpty()) thinned(rows, runs, alike, false, apartDb).map(z -> of(start, z)).filter(i -> fits(start, i)).ifPresent(made::add);
            if (!shared.isEmpty()) {
                thinned(rows, runs, shared, false, apartDb).map(z -> of(start, z)).filter(i -> fits(start, i)).ifPresent(made::add);
                Optional<Instrument> even = thinned(rows, runs, shared, true, apartDb).map(z -> of(start, z)).filter(i -> fits(start, i));
                even.ifPresent(made::add);
                even.ifPresent(i -> simple.merge("thinned evenly", harmDb(i), Math::min));
            }
            if (made.size() > before) break;
        }
        return made.stream().min(Comparator.comparingDouble(this::harmDb)).map(b -> new Plan(start, layered, b));
    }

    private boolean fits(Instrument start, Instrument made) { return need(made).fitsCounts(limits) && task.rules().hold(start, made); }

    /// @param counts of stacks that each row keeps
    /// @param isEven whether they lie at even distances, and not where they are heard least
    /// @return empty if nothing would be left
    private Optional<List<List<Stack>>> thinned(List<Row> rows, List<Row.Runs> runs, List<Integer> counts, boolean isEven, double apartDb) {
        List<List<Stack>> kept = IntStream.range(0, rows.size()).filter(r -> counts.get(r) > 0).mapToObj(r -> runs.get(r)
                .build(isEven && isFree(rows.get(r)) ? SimplePlans.evenly(rows.get(r), counts.get(r)) : runs.get(r).runs().ofCount(counts.get(r)), apartDb))
                .toList();
        return kept.stream().allMatch(List::isEmpty) ? Optional.empty() : Optional.of(kept);
    }

    /// How many stacks each row keeps if the same part of each goes, as one would do it by hand; empty where samples are not what there is too much of.
    private List<Integer> alike(Instrument layered, List<Row> rows) {
        if (limits.samples() == 0 || !task.may(FitStep.Kind.ROOTS)) return List.of();
        double part = Math.min(1, (double) limits.samples() / need(layered).samples());
        return rows.stream().map(row -> isFree(row) ? Math.max(1, (int) (part * row.stacks().size())) : row.stacks().size()).toList();
    }

    private boolean isFree(Row row) { return row.stacks().size() > 1 && limits.transposeKeys() == 0; }

    static List<List<Row.SizeChoice>> wholes(Row row) {
        return row.stacks().stream().map(_ -> List.of(new Row.SizeChoice(Map.of(), 0, 0))).toList();
    }

    /// The zones of rows, in the place of the instrument's own.
    static Instrument of(Instrument source, List<List<Stack>> rows) {
        List<Zone> zones = Row.zones(rows);
        return source.withGroups(List.of(new ZoneGroup(source.groups().size() == 1 ? source.groups().getFirst().name() : "", zones)));
    }
}
