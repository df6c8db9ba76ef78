package ablecrate.fit;

import ablecrate.destination.DeviceLimits;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Turn;
import ablecrate.instrument.Zone;
import ablecrate.instrument.ZoneGroup;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeSet;
import java.util.stream.IntStream;

/// Makes an instrument fit in what is counted: velocity layers, samples, zones, and keys that its sounds reach. The best plans and the simple ones are rendered, and the least harm wins.
final class CountFitter {
    private final FitTask task;
    private final DeviceLimits limits;
    private final Notes notes;
    private final NoteSet measured;

    CountFitter(FitTask task, Notes notes, NoteSet measured) {
        this.task = task;
        this.limits = task.limits();
        this.notes = notes;
        this.measured = measured;
    }

    /// @param layered as it was before samples were thinned, where both were done
    private record Plan(Instrument instrument, Optional<Instrument> layered) {}

    private final Map<String, Double> simple = new LinkedHashMap<>();

    /// @param steps with their harm
    /// @param simpleDb harm of simple plans
    record Counted(Instrument instrument, List<FitStep> steps, Map<String, Double> simpleDb) {}

    Counted fit(Instrument source) {
        List<FitStep> steps = new ArrayList<>();
        Instrument now = task.may(FitStep.Kind.KEYS) ? within(source) : source;
        if (now != source) step(steps, FitStep.Kind.KEYS, keys(source), keys(now), source, now);
        if (!Need.within(need(now).samples(), limits.samples()) && task.may(FitStep.Kind.TURNS)) {
            Instrument first = firstTurns(now);
            if (first.zones().size() < now.zones().size()) step(steps, FitStep.Kind.TURNS, need(now).samples(), need(first).samples(), now, first);
            now = first;
        }
        if (need(now).fitsCounts(limits)) return new Counted(now, steps, simple);
        Instrument start = now;
        Optional<Plan> best = plans(start).stream().min(Comparator.comparingDouble(p -> measured.harm(p.instrument(), notes).meanDb()));
        if (best.isEmpty()) return new Counted(start, steps, simple);
        Instrument layered = best.get().layered().orElse(start), end = best.get().instrument();
        if (need(layered).layers() < need(start).layers()) step(steps, FitStep.Kind.LAYERS, need(start).layers(), need(layered).layers(), start, layered);
        if (end != layered) step(steps, FitStep.Kind.ROOTS, need(layered).samples(), need(end).samples(), layered, end);
        return new Counted(end, steps, simple);
    }

    private void step(List<FitStep> steps, FitStep.Kind kind, long before, long after, Instrument from, Instrument to) {
        steps.add(new FitStep(kind, before, after, task.bytes(from) - task.bytes(to), measured.harm(to, notes).meanDb() - measured.harm(from, notes).meanDb()));
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

    private static Instrument firstTurns(Instrument instrument) {
        return instrument.mapZones(z -> z.get(Parameter.TURN).position() > 1 ? List.of() : List.of(z.with(Parameter.TURN, Turn.EVERY)));
    }

    private List<Plan> plans(Instrument start) {
        List<List<Stack>> layers = Stack.layers(start);
        int has = need(start).layers(), most = limits.layers() == 0 ? has : Math.min(has, limits.layers());
        boolean isThinned = !Need.within(need(start).samples(), limits.samples()) || !Need.within(need(start).zones(), limits.zones());
        List<Plan> plans = new ArrayList<>();
        TreeSet<Integer> counts = new TreeSet<>(isThinned && task.may(FitStep.Kind.LAYERS) ? List.of(1, (most + 1) / 2, most) : List.of(most));
        for (int count : counts.descendingSet()) {
            if (count < has && !task.may(FitStep.Kind.LAYERS)) continue;
            List<List<Stack>> chosen = count < has ? new LayerChoice(notes, count, task.hasCurve(), task.rules()).of(layers) : layers;
            thinned(start, chosen, count < has).ifPresent(plans::add);
            if (count < has)
                Map.of("the first layers", SimplePlans.firstLayers(layers, count), "layers thinned evenly", SimplePlans.evenLayers(layers, count))
                        .forEach((name, plain) -> {
                            Instrument made = of(start, plain);
                            if (!need(made).fitsCounts(limits) || !task.rules().hold(start, made)) return;
                            plans.add(new Plan(made, Optional.of(made)));
                            simple.merge(name, measured.harm(made, notes).meanDb(), Math::min);
                        });
        }
        return plans;
    }

    /// The same layers with as few samples, and zones, as there may be.
    private Optional<Plan> thinned(Instrument start, List<List<Stack>> layers, boolean isLayered) {
        Instrument layered = of(start, layers);
        Optional<Instrument> before = isLayered ? Optional.of(layered) : Optional.empty();
        if (need(layered).fitsCounts(limits)) return task.rules().hold(start, layered) ? Optional.of(new Plan(layered, before)) : Optional.empty();
        if (!task.may(FitStep.Kind.ROOTS)) return Optional.empty();
        List<Row> rows = Row.of(layers, Kits.isKit(start));
        List<Row.Runs> runs = rows.stream().map(r -> r.runs(notes, limits.transposeKeys(), task.rules(), wholes(r))).toList();
        int samples = limits.samples() == 0 ? Integer.MAX_VALUE : limits.samples();
        Optional<Instrument> best = Optional.empty();
        // Zones that merge need no more of them than samples; so those are tried where the pieces are too many.
        for (boolean areMerged : new boolean[]{false, true}) {
            int most = areMerged && limits.zones() > 0 ? Math.min(samples, limits.zones()) : samples;
            List<Integer> counts = Row.shared(runs, most);
            if (counts.isEmpty()) return Optional.empty();
            for (boolean isEven : new boolean[]{false, true}) {
                Instrument made = of(start, IntStream.range(0, rows.size()).filter(r -> counts.get(r) > 0).mapToObj(r -> {
                    boolean isPlain = isEven && isFree(rows.get(r));
                    return runs.get(r).build(isPlain ? SimplePlans.evenly(rows.get(r), counts.get(r)) : runs.get(r).runs().ofCount(counts.get(r)), areMerged);
                }).toList());
                if (!need(made).fitsCounts(limits) || made.zones().isEmpty() || !task.rules().hold(start, made)) continue;
                if (isEven) simple.merge("thinned evenly", measured.harm(made, notes).meanDb(), Math::min);
                if (best.map(b -> measured.harm(made, notes).meanDb() < measured.harm(b, notes).meanDb()).orElse(true))
                    best = Optional.of(made);
            }
            if (best.isPresent()) break;
        }
        return best.map(b -> new Plan(b, before));
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
