package ablecrate.fit;

import ablecrate.instrument.Span;
import ablecrate.instrument.Zone;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Predicate;
import java.util.stream.IntStream;

/// Stacks side by side on the keys, of the same velocities: what may stand in for each other.
record Row(List<Stack> stacks) {
    /// By which neighbours may differ in level and still be one zone: what is not heard first, then more and more where there may not be so many zones.
    static final double[] APART_DB = {0.05, 1, 3, Double.POSITIVE_INFINITY};
    /// What it counts that a row is not heard at all, where it is as loud as the loudest.
    private static final double SILENCED_DB = 30;

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

    int samplesPerStack() { return stacks.stream().mapToInt(s -> s.samples().size()).max().orElse(1); }

    /// How each stack sounds on each key, foretold from one rendering of it.
    /// @param own what sounds there in the source, by key
    /// @param moved `[stack][key]`; null where a stack has no business
    private record Pictures(HeardNote[] own, HeardNote[][] moved) {}

    private Pictures pictures(Notes notes) {
        HeardNote[] own = new HeardNote[128];
        HeardNote[][] moved = new HeardNote[stacks.size()][128];
        int low = stacks.stream().mapToInt(s -> s.keys().low()).min().orElseThrow(), high = stacks.stream().mapToInt(s -> s.keys().high()).max().orElseThrow();
        IntStream.range(0, stacks.size()).parallel().forEach(i -> {
            Stack stack = stacks.get(i);
            NoteAnalyser.Reference reference = notes.reference(stack.alone(), stack.root(), velocity());
            for (int key = low; key <= high; key++)
                moved[i][key] = notes.moved(reference, key - stack.root());
            for (int key = stack.keys().low(); key <= stack.keys().high(); key++)
                own[key] = moved[i][key];
        });
        return new Pictures(own, moved);
    }

    /// What each of its stacks costs on each key.
    /// @param mostKeys that a sound may be moved; 0 is no limit
    /// @param rules which roots have to stay
    /// @param mostGainDb that a zone can say
    /// @param sizes what the stack's sounds may be cut down to, the whole first; a list for each stack
    /// @param isWeighed whether it may go altogether, so that its level has to be known
    Runs runs(Notes notes, int mostKeys, FitRules rules, double mostGainDb, List<List<SizeChoice>> sizes, boolean isWeighed) {
        boolean isAlone = stacks.size() == 1;
        // What has no neighbours is not compared with any.
        Pictures pictures = isAlone ? new Pictures(new HeardNote[128], new HeardNote[1][128]) : pictures(notes);
        double[][] cost = new double[stacks.size()][128], levels = levels(pictures);
        double[] weight = new double[128], room = stacks.stream().mapToDouble(s -> isAlone ? 0 : Math.max(0, notes.roomDb(s, mostGainDb))).toArray();
        IntStream.range(0, 128).parallel().filter(key -> isAlone ? stacks.getFirst().keys().contains(key) : pictures.own[key] != null).forEach(key -> {
            weight[key] = weight();
            for (int i = 0; i < stacks.size(); i++)
                cost[i][key] = mostKeys > 0 && Math.abs(key - stacks.get(i).root()) > mostKeys
                        || rules.roots().contains(key) && !stacks.get(i).keys().contains(key)
                                ? KeyRuns.NEVER
                                : stacks.get(i).keys().contains(key)
                                        ? 0
                                        : Math.hypot(pictures.own[key].alignedHarm(pictures.moved[i][key]), Math.max(0, levels[i][key] - room[i]));
        });
        double[][] sizeCosts = new double[stacks.size()][], sizeBytes = new double[stacks.size()][];
        for (int i = 0; i < stacks.size(); i++) {
            sizeCosts[i] = sizes.get(i).stream().mapToDouble(SizeChoice::harm).toArray();
            sizeBytes[i] = sizes.get(i).stream().mapToDouble(SizeChoice::bytes).toArray();
        }
        Stack first = stacks.getFirst();
        double levelDb = !isWeighed ? 0 : (isAlone ? notes.heard(first.alone(), first.root(), velocity()) : pictures.own[first.root()]).levelDb();
        return new Runs(this, new KeyRuns(stacks.stream().map(Stack::keys).toList(), cost, weight, sizeCosts, sizeBytes), levels, room, levelDb);
    }

    /// As it was chosen, each kept stack as loud as it is.
    List<Stack> plain(KeyRuns.Choice choice) {
        return new Runs(this, null, new double[stacks.size()][128], new double[stacks.size()], 0).build(choice, APART_DB[0]);
    }

    /// `[stack][key]` by how much the source is louder there than the stack would be.
    private double[][] levels(Pictures pictures) {
        double[][] out = new double[stacks.size()][128];
        for (int i = 0; i < stacks.size(); i++)
            for (int key = 0; key < 128; key++)
                if (pictures.own[key] != null && pictures.moved[i][key] != null && !pictures.own[key].isSilent() && !pictures.moved[i][key].isSilent())
                    out[i][key] = pictures.own[key].levelDb() - pictures.moved[i][key].levelDb();
        return out;
    }

    /// A size of a stack.
    /// @param sizes by sample; empty for the whole
    /// @param harm of one note, in dB
    /// @param bytes shared with whatever else plays the same samples
    record SizeChoice(Map<Integer, Size> sizes, double harm, double bytes) {}

    /// @param levelsDb `[stack][key]` by how much the source is louder
    /// @param roomDb how much louder each stack can be
    /// @param levelDb of the row itself; 0 where it is not weighed
    record Runs(Row row, KeyRuns runs, double[][] levelsDb, double[] roomDb, double levelDb) {
        /// What it counts that none of it is heard any more: less where it is soft beside the others.
        double silenced(double loudestDb) { return SILENCED_DB * runs.weight() * Math.pow(10, (levelDb - loudestDb) / 20); }

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

    /// How many stacks each row keeps so that all of them together have no more samples than allowed: the least harm over all rows.
    /// Rows that play the same samples, as filters over one recording do, are counted once. Release samples may go altogether. Where not every other row can keep one, the softer part of what
    /// sounds together goes; no note is silent for it.
    /// @param stays whether nothing of a row may go
    /// @return empty where even that is too much
    static List<Integer> shared(List<Runs> rows, int mostSamples, Predicate<Row> stays) {
        List<Integer> all = shared(rows, mostSamples, stays, 1);
        return all.isEmpty() ? shared(rows, mostSamples, stays, 0) : all;
    }

    static double loudestDb(List<Runs> rows) { return rows.stream().mapToDouble(Runs::levelDb).max().orElse(0); }

    /// Whether something else sounds wherever a row does, so that no note is silent without it.
    private static boolean isBesideOthers(List<Runs> rows, int place) {
        return rows.get(place).row.stacks.stream()
                .allMatch(s -> rows.stream().filter(r -> r != rows.get(place)).flatMap(r -> r.row.stacks.stream()).anyMatch(o -> o.spans(s)));
    }

    private static List<Integer> shared(List<Runs> rows, int mostSamples, Predicate<Row> stays, int fewest) {
        double loudest = loudestDb(rows);
        Map<Object, List<Integer>> families = new LinkedHashMap<>();
        for (int r = 0; r < rows.size(); r++)
            families.computeIfAbsent(rows.get(r).row.stacks.stream().map(Stack::samples).toList(), _ -> new ArrayList<>()).add(r);
        TreeMap<Integer, Map<Integer, Integer>> best = new TreeMap<>(Map.of(0, Map.of()));
        Map<Integer, Double> harm = new HashMap<>(Map.of(0, 0.0));
        for (List<Integer> family : families.values()) {
            Row row = rows.get(family.getFirst()).row;
            boolean mayGo = row.isReleased() || fewest == 0 && family.stream().allMatch(r -> isBesideOthers(rows, r));
            int least = stays.test(row) ? row.stacks.size() : mayGo ? 0 : 1;
            double[][] byCount = family.stream().map(r -> rows.get(r).runs.harmByCount()).toArray(double[][]::new);
            TreeMap<Integer, Map<Integer, Integer>> next = new TreeMap<>();
            Map<Integer, Double> nextHarm = new HashMap<>();
            for (Map.Entry<Integer, Map<Integer, Integer>> e : best.entrySet())
                for (int count = least; count <= row.stacks.size(); count++) {
                    int samples = e.getKey() + count * row.samplesPerStack();
                    if (samples > mostSamples) break;
                    double whole = harm.get(e.getKey());
                    for (int f = 0; f < byCount.length; f++)
                        whole += count == 0 ? rows.get(family.get(f)).silenced(loudest) : byCount[f][count - 1];
                    if (whole < nextHarm.getOrDefault(samples, Double.MAX_VALUE)) {
                        Map<Integer, Integer> counts = new HashMap<>(e.getValue());
                        for (int r : family)
                            counts.put(r, count);
                        next.put(samples, counts);
                        nextHarm.put(samples, whole);
                    }
                }
            best = next;
            harm = nextHarm;
        }
        if (best.isEmpty()) return List.of();
        Map<Integer, Double> all = harm;
        Map<Integer, Integer> counts = best.entrySet().stream().min(Comparator.comparingDouble(e -> all.get(e.getKey()))).orElseThrow().getValue();
        List<Integer> out = new ArrayList<>();
        for (int r = 0; r < rows.size(); r++)
            out.add(counts.get(r));
        return out;
    }

    static List<Zone> zones(List<List<Stack>> rows) { return rows.stream().flatMap(List::stream).flatMap(s -> s.zones().stream()).toList(); }
}
