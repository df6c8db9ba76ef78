package ablecrate.fit;

import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Zone;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/// Stacks side by side on the keys, of the same velocities: what may stand in for each other.
record Row(List<Stack> stacks) {
    /// By which neighbours may differ in level and still be one zone: what is not heard first, then more and more where there may not be so many zones.
    static final double[] APART_DB = {0.05, 1, 3, Double.POSITIVE_INFINITY};

    Row {
        stacks = stacks.stream().sorted(Comparator.comparingInt(s -> s.keys().low())).toList();
    }

    /// The rows of all layers. What does not follow the keys, or is a kit, has no neighbours: each of its stacks is a row of its own.
    static List<Row> of(List<List<Stack>> layers, boolean isKit) {
        List<Row> rows = new ArrayList<>();
        for (List<Stack> layer : layers) {
            Map<Object, List<Stack>> byVelocities = new LinkedHashMap<>();
            for (Stack stack : layer)
                byVelocities.computeIfAbsent(isKit || !stack.isPitched() ? stack : stack.velocities(), _ -> new ArrayList<>()).add(stack);
            byVelocities.values().forEach(stacks -> rows.add(new Row(stacks)));
        }
        return rows;
    }

    int velocity() { return stacks.getFirst().middleVelocity(); }

    double weight() { return Weights.of(stacks.getFirst().velocities()) * stacks.getFirst().share(); }

    /// Whether it sounds once keys are let go: then it may be left out, and no note is silent for it.
    boolean isReleased() { return stacks.getFirst().isReleased(); }

    Set<Integer> samples() { return stacks.stream().flatMap(s -> s.samples().stream()).collect(Collectors.toSet()); }

    /// Keys that people play count fully; others so much.
    private static final double SELDOM = 0.05;
    /// The change by which it is found out how much of one is heard.
    private static final double SOFTER_DB = -3;

    /// What sounds on each key, foretold from one rendering of each stack; null where nothing does.
    private HeardNote[] own(Foretold foretold) {
        HeardNote[] own = new HeardNote[128];
        stacks.parallelStream().forEach(stack -> {
            HeardNote[] heard = foretold.on(stack, velocity(), stack.keys());
            System.arraycopy(heard, stack.keys().low(), own, stack.keys().low(), stack.keys().size());
        });
        return own;
    }

    /// `[stack][key]` how each stack sounds on each key of all of them, foretold likewise.
    private HeardNote[][] moved(Foretold foretold) {
        Span all = new Span(stacks.stream().mapToInt(s -> s.keys().low()).min().orElseThrow(),
                stacks.stream().mapToInt(s -> s.keys().high()).max().orElseThrow());
        return stacks.parallelStream().map(stack -> foretold.on(stack, velocity(), all)).toArray(HeardNote[][]::new);
    }

    /// Whether it is heard with another one, in whole or on some keys. Of release samples, whether the other one sounds until then.
    private boolean isHeardWith(Row other) {
        Zone a = stacks.getFirst().zones().getFirst(), b = other.stacks.getFirst().zones().getFirst();
        boolean isOneTurn = a.get(Parameter.TURN).equals(b.get(Parameter.TURN)) || a.get(Parameter.TURN).length() == 1 || b.get(Parameter.TURN).length() == 1;
        return other != this && isOneTurn && a.get(Parameter.SWITCH).equals(b.get(Parameter.SWITCH)) && (isReleased() || !other.isReleased())
                && other.stacks.getFirst().velocities().contains(velocity()) && stacks.stream().anyMatch(s -> other.stacks.stream().anyMatch(s::sharesKeys));
    }

    /// Whether another one is heard wherever this one is.
    boolean isCoveredBy(Row other) {
        return isHeardWith(other) && stacks.stream().allMatch(s -> IntStream.rangeClosed(s.keys().low(), s.keys().high())
                .allMatch(key -> other.stacks.stream().anyMatch(o -> o.keys().contains(key) && o.velocities().contains(s.velocities()))));
    }

    /// What sounds beside each row on each key; null where nothing does.
    static List<HeardNote[]> beside(List<Row> rows, Foretold foretold) {
        Map<Row, HeardNote[]> own = new IdentityHashMap<>();
        List<HeardNote[]> out = new ArrayList<>();
        for (Row row : rows) {
            HeardNote[] beside = new HeardNote[128];
            for (Row other : rows)
                if (row.isHeardWith(other)) {
                    HeardNote[] more = own.computeIfAbsent(other, r -> r.own(foretold));
                    for (int key = 0; key < 128; key++)
                        if (more[key] != null) beside[key] = beside[key] == null ? more[key] : beside[key].with(more[key]);
                }
            out.add(beside);
        }
        return out;
    }

    /// What each of its stacks costs on each key, beside whatever else sounds there.
    /// @param mostKeys that a sound may be moved; 0 is no limit
    /// @param rules which roots have to stay
    /// @param format what it can say of a zone
    /// @param sizes what the stack's sounds may be cut down to, the whole first; a list for each stack
    /// @param beside what sounds beside it on each key
    Runs runs(Foretold foretold, int mostKeys, FitRules rules, FitTask.Format format, List<List<SizeChoice>> sizes, HeardNote[] beside) {
        int n = stacks.size();
        boolean isAlone = n == 1 && Arrays.stream(beside).allMatch(Objects::isNull);
        // What has no neighbours is not compared with any.
        HeardNote[][] moved = isAlone ? new HeardNote[1][128] : moved(foretold);
        HeardNote[] own = new HeardNote[128];
        double[] weight = new double[128],
                room = stacks.stream().mapToDouble(s -> isAlone ? 0 : Math.max(0, foretold.notes().roomDb(s, format.mostGainDb()))).toArray();
        for (int i = 0; i < n; i++)
            for (int key = stacks.get(i).keys().low(); key <= stacks.get(i).keys().high(); key++) {
                weight[key] = weight() * (NoteSet.isPlayed(key) ? 1 : SELDOM);
                own[key] = moved[i][key];
            }
        double[][] cost = new double[n][128], levels = new double[n][128];
        IntStream.range(0, 128).parallel().filter(key -> weight[key] > 0).forEach(key -> {
            HeardNote all = beside[key] == null ? own[key] : own[key].with(beside[key]), others = beside[key] == null ? HeardNote.NOTHING : beside[key];
            for (int i = 0; i < n; i++) {
                Stack stack = stacks.get(i);
                if (stack.keys().contains(key)) continue;
                boolean isTooFar = mostKeys > 0 && Math.abs(key - stack.root()) > mostKeys, isPinned = rules.roots().contains(key);
                if (!own[key].isSilent() && !moved[i][key].isSilent()) levels[i][key] = own[key].levelDb() - moved[i][key].levelDb();
                cost[i][key] = isTooFar || isPinned ? KeyRuns.NEVER : all.heldHarm(moved[i][key], Math.min(levels[i][key], room[i]), others);
            }
        });
        double[][] sizeCosts = new double[n][], sizeBytes = new double[n][];
        for (int i = 0; i < n; i++) {
            double audible = isAlone ? 1 : audible(own[stacks.get(i).root()], beside[stacks.get(i).root()]);
            sizeCosts[i] = sizes.get(i).stream().mapToDouble(size -> size.harm() * audible).toArray();
            sizeBytes[i] = sizes.get(i).stream().mapToDouble(SizeChoice::bytes).toArray();
        }
        double silenced = isAlone
                ? KeyRuns.NEVER
                : IntStream.range(0, 128).filter(key -> weight[key] > 0)
                        .mapToDouble(key -> weight[key] * missed(own[key], HeardNote.NOTHING, 0, beside[key])).sum();
        return new Runs(this,
                new KeyRuns(stacks.stream().map(Stack::keys).toList(), cost, weight, sizeCosts, sizeBytes,
                        IntStream.range(0, n).mapToObj(i -> format.hasSampleEach() ? Set.of(i) : stacks.get(i).samples()).toList()),
                levels, room, silenced);
    }

    private static double missed(HeardNote own, HeardNote other, double gainDb, HeardNote beside) {
        return beside == null ? own.heldHarm(other, gainDb, HeardNote.NOTHING) : own.with(beside).heldHarm(other, gainDb, beside);
    }

    /// How much of a change is heard beside what sounds with it; 1 where nothing does.
    private static double audible(HeardNote own, HeardNote beside) {
        double alone = own.heldHarm(own, SOFTER_DB, HeardNote.NOTHING);
        return beside == null || alone == 0 ? 1 : own.with(beside).heldHarm(own, SOFTER_DB, beside) / alone;
    }

    /// As it was chosen, each kept stack as loud as it is.
    List<Stack> plain(KeyRuns.Choice choice) {
        return new Runs(this, null, new double[stacks.size()][128], new double[stacks.size()], 0).build(choice, APART_DB[0]);
    }

    /// A size of a stack.
    /// @param sizes by sample; empty for the whole
    /// @param harm of one note, in dB
    /// @param bytes shared with whatever else plays the same samples
    record SizeChoice(Map<Integer, Size> sizes, double harm, double bytes) {}

    /// @param levelsDb `[stack][key]` by how much the source is louder
    /// @param roomDb how much louder each stack can be
    /// @param silenced harm if none of it is heard any more, weighted
    record Runs(Row row, KeyRuns runs, double[][] levelsDb, double[] roomDb, double silenced) {
        Runs leaning(double factor) { return new Runs(row, runs.leaning(factor), levelsDb, roomDb, silenced); }

        /// The row as it was chosen: each kept stack over its own keys and its neighbours', as loud there as they were.
        /// @param apartDb by which neighbours may differ in level and still be one zone, as loud as their mean
        List<Stack> build(KeyRuns.Choice choice, double apartDb) {
            List<Stack> out = new ArrayList<>();
            for (KeyRuns.Kept kept : choice.kept()) {
                List<Span> places = new ArrayList<>();
                for (Stack place : row.stacks) {
                    int low = Math.max(place.keys().low(), kept.keys().low()), high = Math.min(place.keys().high(), kept.keys().high());
                    if (low <= high) places.add(new Span(low, high));
                }
                for (Span keys : joined(kept.stack(), places, apartDb))
                    out.add(row.stacks.get(kept.stack()).on(keys).louder(Math.min(mean(kept.stack(), keys), roomDb[kept.stack()])));
            }
            return out;
        }

        private List<Span> joined(int stack, List<Span> places, double apartDb) {
            List<Span> out = new ArrayList<>();
            double least = 0, most = 0;
            for (Span place : places) {
                double level = mean(stack, place);
                Span last = out.isEmpty() ? null : out.getLast();
                boolean isOne = last != null && last.high() + 1 == place.low() && Math.max(most, level) - Math.min(least, level) <= apartDb;
                if (isOne)
                    out.set(out.size() - 1, new Span(last.low(), place.high()));
                else
                    out.add(place);
                least = isOne ? Math.min(least, level) : level;
                most = isOne ? Math.max(most, level) : level;
            }
            return out;
        }

        /// Of all of its keys.
        double weight() { return runs.weight(); }

        private double mean(int stack, Span keys) {
            double sum = 0;
            for (int key = keys.low(); key <= keys.high(); key++)
                sum += levelsDb[stack][key];
            return sum / keys.size();
        }
    }

    static List<Zone> zones(List<List<Stack>> rows) { return rows.stream().flatMap(List::stream).flatMap(s -> s.zones().stream()).toList(); }
}
