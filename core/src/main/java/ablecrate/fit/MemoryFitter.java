package ablecrate.fit;

import ablecrate.instrument.Instrument;
import ablecrate.instrument.Loop;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;
import ablecrate.play.LoadedSound;
import ablecrate.play.Voices;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.UnaryOperator;
import java.util.stream.IntStream;

/// What an instrument becomes at a price for each byte: which samples stay, and at which rate, in how many channels and how long each of them is kept.
final class MemoryFitter {
    /// Lower rates that are tried; in banks, where there are many sounds, fewer.
    private static final int MOST_RATES = 3, MOST_RATES_IN_BANKS = 2;
    /// A tail that is left out lies so far below the sound's peak.
    private static final double TAIL_DB = -40;
    /// Of a sound; less is not worth the telling.
    private static final double LEAST_CUT = 0.02;

    private final FitTask task;
    private final Instrument instrument;
    /// How many stacks of all instruments play each sample: its bytes are shared among them.
    private final Map<Integer, Integer> users;
    private final List<Row> rows;
    private final List<List<List<Row.SizeChoice>>> sizes = new ArrayList<>();
    private final List<Row.Runs> runs = new ArrayList<>();
    private final double loudestDb;

    /// @param whole samples by number, as the source has them
    MemoryFitter(FitTask task, Instrument instrument, Voices.Sounds whole, SizedSounds sized, Map<Integer, Integer> users, SizeHarms harms) {
        this.task = task;
        this.instrument = instrument;
        this.users = users;
        Notes notes = new Notes(whole);
        rows = Row.of(Stack.layers(instrument), Kits.isKit(instrument) || !task.may(FitStep.Kind.ROOTS));
        boolean isReleased = rows.stream().anyMatch(Row::isReleased);
        for (Row row : rows) {
            List<List<Row.SizeChoice>> ofRow = row.stacks().parallelStream().map(s -> sizesOf(s, whole, harms.of(s, row.velocity(), notes, sized))).toList();

            sizes.add(ofRow);
            runs.add(row.runs(notes, task.limits().transposeKeys(), task.rules(), task.format().mostGainDb(), ofRow, isReleased));
        }
        loudestDb = Row.loudestDb(runs);
    }

    /// @param sizes of samples that are not whole
    /// @param harm weighted, over all keys; `weight` is that of all of them
    /// @param choices of each row
    record Made(Instrument instrument, List<KeyRuns.Choice> choices, Map<Integer, Size> sizes, double harm, double weight) {}

    /// The same with fewer zones: neighbours that differ by no more in level are one.
    Made joined(Made made, double apartDb) { return new Made(built(made.choices, apartDb), made.choices, made.sizes, made.harm, made.weight); }

    Made at(double price) { return at(IntStream.range(0, rows.size()).mapToDouble(_ -> price).toArray()); }

    int rows() { return rows.size(); }

    /// @param prices of each row
    Made at(double[] prices) {
        List<KeyRuns.Choice> choices = IntStream.range(0, rows.size()).mapToObj(r -> choice(r, prices[r])).toList();
        Map<Integer, Size> kept = new HashMap<>();
        double harm = 0;
        for (int r = 0; r < rows.size(); r++) {
            KeyRuns.Choice choice = choices.get(r);
            harm += choice.harm();
            for (KeyRuns.Kept k : choice.kept())
                sizes.get(r).get(k.stack()).get(k.size()).sizes().forEach((sample, size) -> kept.merge(sample, size, Size::larger));
        }
        return new Made(built(choices), choices, kept, harm, runs.stream().mapToDouble(Row.Runs::weight).sum());
    }

    /// Release samples may go altogether.
    KeyRuns.Choice choice(int number, double price) {
        Row.Runs row = runs.get(number);
        KeyRuns.Choice choice = row.runs().atPrice(price);
        if (!row.row().isReleased() || !task.may(FitStep.Kind.RELEASES)) return choice;
        double silenced = row.silenced(loudestDb);
        return silenced < choice.harm() + price * choice.bytes() ? new KeyRuns.Choice(List.of(), silenced, 0) : choice;
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

    /// Thinned at even distances, until it fits; as people do by hand.
    Optional<Made> evenly(long bytes) {
        // Even distances know nothing of how far a sound may be moved.
        if (task.limits().transposeKeys() > 0) return Optional.empty();
        int most = rows.stream().mapToInt(r -> r.stacks().size()).max().orElse(1);
        for (int left = most; left >= 1; left--) {
            List<KeyRuns.Choice> choices = new ArrayList<>();
            for (int r = 0; r < rows.size(); r++)
                choices.add(SimplePlans.evenly(rows.get(r), Math.max(1, Math.min(rows.get(r).stacks().size(), rows.get(r).stacks().size() * left / most))));
            Instrument thinned = built(choices);
            if (!task.rules().hold(instrument, thinned)) return Optional.empty();
            if (task.bytes(FitTask.samples(thinned), Map.of()) <= bytes) return Optional.of(new Made(thinned, List.of(), Map.of(), 0, 1));
        }
        return Optional.empty();
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
        return end == 0 || !isWorthIt || users.getOrDefault(sample, 1) > instrument.zones().size() ? all : new Size(all.rateHz(), all.isFolded(), end);
    }

    private List<Row.SizeChoice> sizesOf(Stack stack, Voices.Sounds sounds, SizeHarms.OfStack harms) {
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
        Map<Integer, Size> cut = task.may(FitStep.Kind.TAILS) ? withoutTails(sounds, stack, whole) : whole;
        double tail = cut.equals(whole) ? 0 : harms.of(cut);
        List<Row.SizeChoice> out = new ArrayList<>();
        for (int rate : rateHarm.isEmpty() ? List.of(base) : concat(base, rateHarm))
            for (boolean isFolded : foldable ? new boolean[]{false, true} : new boolean[]{false})
                for (boolean isShort : cut.equals(whole) ? new boolean[]{false} : new boolean[]{false, true}) {
                    Map<Integer, Size> sizes = map(isShort ? cut : whole, s -> new Size(Math.min(rate, s.rateHz()), s.isFolded() || isFolded, s.frames()));
                    double harm = rateHarm.getOrDefault(rate, 0.0) + (isFolded ? folded : 0) + (isShort ? tail : 0);
                    out.add(new Row.SizeChoice(sizes, harm, bytes(sizes)));
                }
        return out;
    }

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

    private Map<Integer, Size> withoutTails(Voices.Sounds sounds, Stack stack, Map<Integer, Size> whole) {
        Map<Integer, Size> out = new TreeMap<>(whole);
        for (Zone zone : stack.zones())
            if (whole.containsKey(zone.sample()) && zone.get(Parameter.LOOPS).isEmpty()) {
                LoadedSound sound = sounds.sound(zone.sample()).orElseThrow();
                Size size = whole.get(zone.sample());
                long end = tail(sound);
                if (sound.frames() == size.frames() && end < size.frames()) out.put(zone.sample(), new Size(size.rateHz(), size.isFolded(), end));
            }
        return out;
    }

    /// Where the tail begins.
    private static long tail(LoadedSound sound) {
        double peak = 0;
        for (double[] plane : sound.planes())
            for (double x : plane)
                peak = Math.max(peak, Math.abs(x));
        double least = peak * Math.pow(10, TAIL_DB / 20);
        int last = 0;
        for (double[] plane : sound.planes())
            for (int i = plane.length - 1; i > last; i--)
                if (Math.abs(plane[i]) >= least) last = i;
        return Math.min(sound.frames(), last + Math.round(FitSound.FADE_MS / 1000 * sound.rateHz()));
    }
}
