package ablecrate.fit;

import ablecrate.instrument.Instrument;
import ablecrate.instrument.Loop;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Zone;
import ablecrate.play.LoadedSound;
import ablecrate.play.Voices;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.UnaryOperator;
import java.util.stream.IntStream;

/// What an instrument becomes at a price for each byte: which samples stay, and at which rate, in how many channels and how long each of them is kept.
final class MemoryFitter {
    /// Lower rates that are tried; in banks, where there are many sounds, fewer.
    private static final int MOST_RATES = 6, MOST_RATES_IN_BANKS = 2;
    /// A tail that is left out lies so far below the sound's peak.
    private static final double[] TAILS_DB = {-40, -30, -20, -12}, TAILS_DB_IN_BANKS = {-40, -20};
    private static final int MOST_PASSES = 4, KEYS_ABOVE = 5;
    /// Of a sound; less is not worth the telling.
    private static final double LEAST_CUT = 0.02;

    private final FitTask task;
    private final Instrument instrument;
    /// How many rows of all instruments play each sample: its bytes are shared among them.
    private final Map<Integer, Integer> users;
    private final List<Row> rows;
    private final List<List<List<Row.SizeChoice>>> sizes;
    private final List<Row.Runs> runs;
    /// Rows that play samples which others play as well.
    private final int[] sharing;
    /// By sample: by how many times more rows it is played in all instruments together than in this one.
    private final Map<Integer, Double> others;
    private final Map<Sized, Double> bytes = new ConcurrentHashMap<>();

    /// @param whole samples by number, as the source has them
    MemoryFitter(FitTask task, Instrument instrument, Voices.Sounds whole, SizedSounds sized, Map<Integer, Integer> users, SizeHarms harms) {
        this.task = task;
        this.instrument = instrument;
        this.users = users;
        runs = new ArrayList<>();
        sizes = new ArrayList<>();
        others = new HashMap<>();
        Notes notes = new Notes(whole);
        rows = Row.of(Stack.layers(instrument), Kits.isKit(instrument) || !task.may(FitStep.Kind.ROOTS));
        Map<Integer, Integer> own = new HashMap<>();
        rows.forEach(row -> row.samples().forEach(s -> own.merge(s, 1, Integer::sum)));
        own.forEach((sample, count) -> others.put(sample, Math.max(1, users.getOrDefault(sample, 1) / (double) count)));
        List<HeardNote[]> beside = Row.beside(rows, notes);
        for (int r = 0; r < rows.size(); r++) {
            Row row = rows.get(r);
            List<List<Row.SizeChoice>> ofRow = row.stacks().parallelStream().map(
                    s -> sizesOf(s, whole, harms.of(s, s.root(), row.velocity(), notes, sized), ends(s, row, harms, notes, sized)))
                    .toList();

            sizes.add(ofRow);
            runs.add(row.runs(notes, task.limits().transposeKeys(), task.rules(), task.format().mostGainDb(), ofRow, beside.get(r)));
        }
        sharing = IntStream.range(0, rows.size()).filter(r -> rows.stream().anyMatch(o -> shares(rows.get(r), o))).toArray();
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
        others = other.others;
        runs = other.runs.stream().map(r -> r.leaning(factor)).toList();
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
            return bytes / others.get(e.getKey());
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
            if (task.bytes(FitTask.samples(thinned), Map.of()) <= bytes)
                return Map.of("thinned evenly", new Made(thinned, List.of(), Map.of(), 0, 1), "thinned evenly, levels matched",
                        new Made(built(choices), List.of(), Map.of(), 0, 1));
        }
        return Map.of();
    }

    /// All samples alike, the first size of each kind that fits.
    Map<String, Made> alike(long bytes) {
        Map<String, Made> out = new LinkedHashMap<>();
        for (boolean isFolded : new boolean[]{false, true}) {
            for (int rate : task.may(FitStep.Kind.RATE) ? rates(Integer.MAX_VALUE) : List.of(Integer.MAX_VALUE)) {
                Map<Integer, Size> all = new HashMap<>();
                for (int sample : FitTask.samples(instrument))
                    task.sounds().get(sample).ifPresent(
                            s -> all.put(sample, new Size(Math.min(rate, s.rateHz()), isFolded && s.file().channels() == 2, whole(sample).frames())));
                if (isFolded && (!task.takesMono() || !task.may(FitStep.Kind.MONO)) || task.bytes(all.keySet(), all) > bytes) continue;
                out.put(isFolded ? "all in mono at one rate" : "all at one rate", new Made(instrument, List.of(), all, 0, 1));
                break;
            }
        }
        return out;
    }

    private List<Integer> rates(int below) {
        List<Integer> usual = List.of(48_000, 44_100, 32_000, 22_050, 16_000, 11_025, 8_000);
        return (task.ratesHz().isEmpty() ? usual : task.ratesHz()).stream().filter(r -> r < below).sorted(Comparator.reverseOrder()).toList();
    }

    private List<Integer> tried(int base) {
        if (!task.isBank()) return rates(base).stream().limit(MOST_RATES).toList();
        List<Integer> out = new ArrayList<>();
        for (int rate : rates(base))
            if (out.size() < MOST_RATES_IN_BANKS && rate * 2 <= (out.isEmpty() ? base : out.getLast())) out.add(rate);
        return out;
    }

    /// What is behind the loops of all zones is never heard.
    private Size whole(int sample) {
        FitSound sound = task.sounds().get(sample).orElseThrow();
        Size all = sound.whole();
        if (!task.may(FitStep.Kind.TAILS)) return all;
        long end = 0;
        for (Zone zone : instrument.zones()) {
            if (zone.sample() != sample) continue;
            Optional<Loop> loop = FitSound.ruling(zone, sound.file());
            if (loop.isEmpty() || zone.get(Parameter.LOOP_UNTIL_RELEASE) || zone.get(Parameter.LOOPS).size() > 1) return all;
            end = Math.max(end, loop.get().frames().end());
        }
        // An instrument that others share samples with does not see their loops.
        boolean isWorthIt = sound.file().frames() - end > LEAST_CUT * sound.file().frames();
        return end == 0 || !isWorthIt || others.get(sample) > 1 ? all : new Size(all.rateHz(), all.isFolded(), end);
    }

    /// Where the end of a sound comes soonest: on the highest of its keys, or a little above them where it may stand in for others.
    private static SizeHarms.OfStack ends(Stack stack, Row row, SizeHarms harms, Notes notes, SizedSounds sized) {
        int highest = Math.min(127, stack.keys().high() + (row.stacks().size() > 1 ? KEYS_ABOVE : 0));
        return harms.of(stack.on(new Span(stack.keys().low(), highest)), highest, row.velocity(), notes, sized);
    }

    /// @param harms on the stack's root, and `ends` where the end of a sound comes soonest
    private List<Row.SizeChoice> sizesOf(Stack stack, Voices.Sounds sounds, SizeHarms.OfStack harms, SizeHarms.OfStack ends) {
        Map<Integer, Size> whole = new TreeMap<>();
        for (int sample : stack.samples())
            if (task.sounds().get(sample).isPresent()) whole.put(sample, whole(sample));
        Map<Integer, Double> rateHarm = new LinkedHashMap<>();
        int base = whole.values().stream().mapToInt(Size::rateHz).max().orElse(0);
        if (task.may(FitStep.Kind.RATE))
            for (int rate : tried(base))
                rateHarm.put(rate, harms.of(map(whole, s -> new Size(Math.min(rate, s.rateHz()), s.isFolded(), s.frames()))));
        boolean foldable = task.may(FitStep.Kind.MONO) && task.takesMono()
                && whole.keySet().stream().anyMatch(s -> task.sounds().get(s).orElseThrow().channels() == 2);
        double folded = foldable ? harms.of(map(whole, MemoryFitter::folded)) : 0;
        // What is kept of the sounds, with its harm.
        Map<Map<Integer, Size>, Double> cuts = new LinkedHashMap<>(Map.of(whole, 0.0));
        if (task.may(FitStep.Kind.TAILS))
            for (double tailDb : task.isBank() ? TAILS_DB_IN_BANKS : TAILS_DB)
                cuts.computeIfAbsent(withoutTails(sounds, stack, whole, tailDb), ends::of);
        List<Row.SizeChoice> out = new ArrayList<>();
        for (int rate : rateHarm.isEmpty() ? List.of(base) : concat(base, rateHarm))
            for (boolean isFolded : foldable ? new boolean[]{false, true} : new boolean[]{false})
                for (Map.Entry<Map<Integer, Size>, Double> cut : cuts.entrySet()) {
                    Map<Integer, Size> sizes = map(cut.getKey(), s -> new Size(Math.min(rate, s.rateHz()), s.isFolded() || isFolded, s.frames()));
                    double harm = rateHarm.getOrDefault(rate, 0.0) + (isFolded ? folded : 0) + cut.getValue();
                    out.add(new Row.SizeChoice(sizes, harm, bytes(sizes)));
                }
        return worthIt(out);
    }

    /// The whole, and what is the best at some price for a byte: the lower hull of harm over bytes. The other sizes would only take time.
    private static List<Row.SizeChoice> worthIt(List<Row.SizeChoice> sizes) {
        List<Row.SizeChoice> hull = new ArrayList<>(List.of(sizes.getFirst()));
        sizes.stream().skip(1).filter(s -> s.bytes() < sizes.getFirst().bytes())
                .sorted(Comparator.comparingDouble(Row.SizeChoice::bytes).reversed().thenComparingDouble(Row.SizeChoice::harm)).forEach(next -> {
                    while (hull.size() > 1 && slope(hull.get(hull.size() - 2), next) <= slope(hull.get(hull.size() - 2), hull.getLast()))
                        hull.removeLast();
                    if (next.bytes() < hull.getLast().bytes()) hull.add(next);
                });
        return hull;
    }

    /// Harm for each byte less.
    private static double slope(Row.SizeChoice from, Row.SizeChoice to) { return (to.harm() - from.harm()) / (from.bytes() - to.bytes()); }

    private static List<Integer> concat(int base, Map<Integer, Double> rates) {
        List<Integer> out = new ArrayList<>(List.of(base));
        out.addAll(rates.keySet());
        return out;
    }

    private static Size folded(Size size) { return new Size(size.rateHz(), true, size.frames()); }

    private static Map<Integer, Size> map(Map<Integer, Size> sizes, UnaryOperator<Size> change) {
        Map<Integer, Size> out = new TreeMap<>();
        sizes.forEach((sample, size) -> out.put(sample, change.apply(size)));
        return out;
    }

    private double bytes(Map<Integer, Size> sizes) {
        return sizes.entrySet().stream().mapToDouble(e -> (double) task.bytes(e.getKey(), e.getValue()) / Math.max(1, users.getOrDefault(e.getKey(), 1))).sum();
    }

    private Map<Integer, Size> withoutTails(Voices.Sounds sounds, Stack stack, Map<Integer, Size> whole, double tailDb) {
        Map<Integer, Size> out = new TreeMap<>(whole);
        for (Zone zone : stack.zones())
            if (whole.containsKey(zone.sample()) && zone.get(Parameter.LOOPS).isEmpty()) {
                LoadedSound sound = sounds.sound(zone.sample()).orElseThrow();
                Size size = whole.get(zone.sample());
                long end = tail(sound, tailDb);
                if (sound.frames() == size.frames() && end < size.frames()) out.put(zone.sample(), new Size(size.rateHz(), size.isFolded(), end));
            }
        return out;
    }

    /// Where the tail begins.
    private static long tail(LoadedSound sound, double tailDb) {
        double peak = 0;
        for (double[] plane : sound.planes())
            for (double x : plane)
                peak = Math.max(peak, Math.abs(x));
        double least = peak * Math.pow(10, tailDb / 20);
        int last = 0;
        for (double[] plane : sound.planes())
            for (int i = plane.length - 1; i > last; i--)
                if (Math.abs(plane[i]) >= least) last = i;
        return Math.min(sound.frames(), last + Math.round(FitSound.FADE_MS / 1000 * sound.rateHz()));
    }
}
