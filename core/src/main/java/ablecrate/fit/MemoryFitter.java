package ablecrate.fit;

import ablecrate.instrument.Instrument;
import ablecrate.play.Voices;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.IntStream;

/// What an instrument becomes at a price for each byte: which samples stay, and at which rate, in how many channels and how long each of them is kept.
final class MemoryFitter {
    /// Rows that share samples are chosen again with what the others keep for nothing, until that changes nothing or so often.
    private static final int MOST_PASSES = 4;

    private final FitTask task;
    private final Instrument instrument;
    private final SampleUsers users;
    private final StackSizes stackSizes;
    private final List<Row> rows;
    private final List<List<List<Row.SizeChoice>>> sizes;
    private final List<Row.Runs> runs;
    /// Rows that play samples which others play as well.
    private final int[] sharing;
    private final Map<Sized, Double> bytes = new ConcurrentHashMap<>();

    /// @param whole samples by number, as the source has them
    /// @param allUsers how many rows of all instruments play each sample
    MemoryFitter(FitTask task, Instrument instrument, Voices.Sounds whole, SizedSounds sized, Map<Integer, Integer> allUsers, SizeHarms harms) {
        this.task = task;
        this.instrument = instrument;
        Notes notes = new Notes(whole, task.format());
        rows = rows(task, instrument);
        users = new SampleUsers(allUsers, SampleUsers.count(rows));
        stackSizes = new StackSizes(task, instrument, whole, sized, harms, notes, users);
        sizes = new ArrayList<>();
        runs = new ArrayList<>();
        Foretold foretold = new Foretold(notes, task.isBank());
        List<HeardNote[]> beside = Row.beside(rows, foretold);
        for (int r = 0; r < rows.size(); r++) {
            sizes.add(stackSizes.of(rows.get(r)));
            runs.add(rows.get(r).runs(foretold, task.limits().transposeKeys(), task.rules(), task.format(), sizes.get(r), beside.get(r)));
        }
        sharing = IntStream.range(0, rows.size()).filter(r -> !task.format().hasSampleEach() && rows.stream().anyMatch(o -> shares(rows.get(r), o))).toArray();
    }

    /// The same where lower rates, shorter tails and one side count more beside neighbours that stand in, or less.
    MemoryFitter leaning(double factor) { return new MemoryFitter(this, factor); }

    private MemoryFitter(MemoryFitter other, double factor) {
        task = other.task;
        instrument = other.instrument;
        users = other.users;
        rows = other.rows;
        sizes = other.sizes;
        sharing = other.sharing;
        stackSizes = other.stackSizes;
        runs = other.runs.stream().map(r -> r.leaning(factor)).toList();
    }

    /// Where roots have to stay, nothing stands in for anything else.
    static List<Row> rows(FitTask task, Instrument instrument) {
        return Row.of(Stack.layers(instrument), Kits.isKit(instrument) || !task.may(FitStep.Kind.ROOTS));
    }

    private static boolean shares(Row row, Row other) {
        return row != other && row.stacks().stream().anyMatch(a -> other.stacks().stream().anyMatch(b -> !Collections.disjoint(a.samples(), b.samples())));
    }

    /// @param sizes of samples that are not whole
    /// @param harm weighted, over all keys; `weight` is that of all of them
    /// @param choices of each row
    record Made(Instrument instrument, List<KeyRuns.Choice> choices, Map<Integer, Size> sizes, double harm, double weight) {}

    /// The same with fewer zones: neighbours that differ by no more in level are one.
    Made joined(Made made, double apartDb) { return new Made(built(made.choices, apartDb), made.choices, made.sizes, made.harm, made.weight); }

    Made at(double price) { return at(IntStream.range(0, rows.size()).mapToDouble(_ -> price).toArray()); }

    int rows() { return rows.size(); }

    /// Of all keys of all rows.
    double weight() { return runs.stream().mapToDouble(Row.Runs::weight).sum(); }

    /// @param prices of each row
    Made at(double[] prices) {
        List<KeyRuns.Choice> choices = new ArrayList<>(IntStream.range(0, rows.size()).mapToObj(r -> choice(r, prices[r])).toList());
        for (int pass = 0; pass < MOST_PASSES && sharing.length > 0; pass++) {
            List<KeyRuns.Choice> before = List.copyOf(choices);
            for (int r : sharing)
                choices.set(r, choice(r, prices[r], beyond(r, kept(choices, r))));
            if (choices.equals(before)) break;
        }
        Map<Integer, Size> kept = kept(choices, -1);
        double harm = choices.stream().mapToDouble(KeyRuns.Choice::harm).sum();
        return new Made(built(choices), choices, kept, harm, weight());
    }

    /// What all rows but one keep of samples.
    private Map<Integer, Size> kept(List<KeyRuns.Choice> choices, int without) {
        Map<Integer, Size> kept = new HashMap<>();
        for (int r = 0; r < rows.size(); r++)
            if (r != without)
                for (KeyRuns.Kept k : choices.get(r).kept())
                    sizes.get(r).get(k.stack()).get(k.size()).sizes().forEach((sample, size) -> kept.merge(sample, size, Size::larger));
        return kept;
    }

    /// `[stack][size]` bytes that a row takes beyond what the others keep anyway.
    private double[][] beyond(int row, Map<Integer, Size> kept) {
        return sizes.get(row).stream().map(choices -> choices.stream().mapToDouble(c -> c.sizes().entrySet().stream().mapToDouble(e -> {
            Size there = kept.get(e.getKey());
            double bytes = there == null
                    ? bytes(e.getKey(), e.getValue())
                    : Math.max(0, bytes(e.getKey(), Size.larger(there, e.getValue())) - bytes(e.getKey(), there));
            return bytes / users.factor(e.getKey());
        }).sum()).toArray()).toArray(double[][]::new);
    }

    private double bytes(int sample, Size size) { return bytes.computeIfAbsent(new Sized(sample, size), s -> (double) task.bytes(s.sample, s.size)); }

    private record Sized(int sample, Size size) {}

    /// @param price harm of all of the instrument that a byte is worth, each instrument counting alike
    KeyRuns.Choice choice(int number, double price) { return orNone(number, price * weight(), runs.get(number).runs().atPrice(price * weight())); }

    private KeyRuns.Choice choice(int number, double price, double[][] bytes) {
        return orNone(number, price * weight(), runs.get(number).runs().atPrice(price * weight(), bytes));
    }

    /// Release samples may go altogether.
    private KeyRuns.Choice orNone(int number, double price, KeyRuns.Choice choice) {
        Row.Runs row = runs.get(number);
        if (!row.row().isReleased() || !task.may(FitStep.Kind.RELEASES)) return choice;
        return row.silenced() < choice.harm() + price * choice.bytes() ? new KeyRuns.Choice(List.of(), row.silenced(), 0) : choice;
    }

    /// With a zone for each stretch of keys, so that levels follow; with fewer where these are too many.
    private Instrument built(List<KeyRuns.Choice> choices) {
        // Each piece that has a sample of its own takes memory.
        if (!task.format().hasSampleEach())
            for (double apartDb : Row.APART_DB) {
                Instrument pieces = built(choices, apartDb);
                if (Need.within(pieces.zones().size(), task.limits().zones())) return pieces;
            }
        return built(choices, Double.POSITIVE_INFINITY);
    }

    private Instrument built(List<KeyRuns.Choice> choices, double apartDb) {
        return CountFitter.of(instrument, IntStream.range(0, rows.size()).mapToObj(r -> runs.get(r).build(choices.get(r), apartDb)).toList());
    }

    /// Thinned at even distances, until it fits; as people do by hand. With the levels that there were, and as loud as what went.
    Map<String, Made> evenly(long bytes) {
        // Even distances know nothing of how far a sound may be moved.
        if (task.limits().transposeKeys() > 0) return Map.of();
        int most = rows.stream().mapToInt(r -> r.stacks().size()).max().orElse(1);
        for (int left = most; left >= 1; left--) {
            List<KeyRuns.Choice> choices = new ArrayList<>();
            for (Row row : rows)
                choices.add(SimplePlans.evenly(row, Math.max(1, row.stacks().size() * left / most)));
            Instrument thinned = CountFitter.of(instrument, IntStream.range(0, rows.size()).mapToObj(r -> rows.get(r).plain(choices.get(r))).toList());
            if (!task.rules().hold(instrument, thinned)) return Map.of();
            if (task.bytes(thinned) <= bytes)
                return Map.of("thinned evenly", new Made(thinned, List.of(), Map.of(), 0, 1), "thinned evenly, levels matched",
                        new Made(built(choices), List.of(), Map.of(), 0, 1));
        }
        return Map.of();
    }

    /// All samples alike, the first size of each kind that fits.
    Map<String, Made> alike(long bytes) {
        Map<String, Made> out = new LinkedHashMap<>();
        for (boolean isFolded : new boolean[]{false, true}) {
            for (int rate : task.may(FitStep.Kind.RATE) ? stackSizes.rates(Integer.MAX_VALUE) : List.of(Integer.MAX_VALUE)) {
                Map<Integer, Size> all = new HashMap<>();
                for (int sample : FitTask.samples(instrument))
                    task.sounds().get(sample).ifPresent(s -> {
                        Size size = stackSizes.whole(sample).atMost(rate).in(task.may(FitStep.Kind.DEPTH) ? s.depth(s.depths().size() - 1) : Optional.empty());
                        all.put(sample, isFolded && s.file().channels() == 2 ? size.folded() : size);
                    });
                if (isFolded && (!task.takesMono() || !task.may(FitStep.Kind.MONO)) || task.bytes(List.of(instrument), all) > bytes) continue;
                out.put(isFolded ? "all in mono at one rate" : "all at one rate", new Made(instrument, List.of(), all, 0, 1));
                break;
            }
        }
        return out;
    }
}
