package ablecrate.fit;

import ablecrate.instrument.Instrument;
import ablecrate.instrument.Loop;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
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

/// The sizes that the sounds of an instrument's stacks may be kept in, and how different they sound then.
final class StackSizes {
    /// Lower rates that are tried; in banks, where there are many sounds, fewer.
    private static final int MOST_RATES = 6, MOST_RATES_IN_BANKS = 2;
    /// A tail that is left out lies so far below the sound's peak.
    private static final double[] TAILS_DB = {-40, -30, -20, -12}, TAILS_DB_IN_BANKS = {-40, -20};
    /// Neighbours in a bank whose roots are no farther apart, in keys, lose about as much by the same change: one of them is listened to.
    private static final int ALIKE_IN_BANKS = 6;
    /// By which a sound may be moved up as it stands in for others, in the judgement of its end.
    private static final int KEYS_ABOVE = 5;
    /// Of a sound; less is not worth the telling.
    private static final double LEAST_CUT = 0.02;

    private final FitTask task;
    private final Instrument instrument;
    private final Voices.Sounds sounds;
    private final SizedSounds sized;
    private final SizeHarms harms;
    private final Notes notes;
    private final SampleUsers users;

    /// @param sounds whole samples by number, as the source has them
    StackSizes(FitTask task, Instrument instrument, Voices.Sounds sounds, SizedSounds sized, SizeHarms harms, Notes notes, SampleUsers users) {
        this.task = task;
        this.instrument = instrument;
        this.sounds = sounds;
        this.sized = sized;
        this.harms = harms;
        this.notes = notes;
        this.users = users;
    }

    /// What is done to the sounds of a stack, by itself.
    private record Change(FitStep.Kind kind, double to) {}

    /// Of each stack of a row: the whole first, then what is smaller.
    List<List<Row.SizeChoice>> of(Row row) {
        return alike(row.stacks()).parallelStream().flatMap(neighbours -> {
            Map<Change, Double> known = new HashMap<>();
            Stack middle = neighbours.get(neighbours.size() / 2);
            List<Row.SizeChoice> ofMiddle = of(middle, row, known);
            return neighbours.stream().map(s -> s == middle ? ofMiddle : of(s, row, known));
        }).toList();
    }

    /// Stacks side by side of which one is listened to for all.
    private List<List<Stack>> alike(List<Stack> stacks) {
        int mostKeys = task.isBank() ? ALIKE_IN_BANKS : 0;
        List<List<Stack>> out = new ArrayList<>();
        for (Stack stack : stacks) {
            if (mostKeys == 0 || out.isEmpty() || Math.abs(stack.root() - out.getLast().getFirst().root()) > mostKeys) out.add(new ArrayList<>());
            out.getLast().add(stack);
        }
        return out;
    }

    /// Of the device, or usual ones.
    List<Integer> rates(int below) {
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
    Size whole(int sample) {
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
        return end == 0 || !isWorthIt || users.factor(sample) > 1 ? all : all.until(end);
    }

    /// @param known harm by change, of the stack or of one like it; more is listened to where it is not known
    private List<Row.SizeChoice> of(Stack stack, Row row, Map<Change, Double> known) {
        Map<Integer, Size> whole = new TreeMap<>();
        for (int sample : stack.samples())
            if (task.sounds().get(sample).isPresent()) whole.put(sample, whole(sample));
        SizeHarms.OfStack ears = harms.of(stack, stack.root(), row.velocity(), notes, sized);
        int base = whole.values().stream().mapToInt(Size::rateHz).max().orElse(0);
        Map<Integer, Double> rates = new LinkedHashMap<>(Map.of(base, 0.0));
        if (task.may(FitStep.Kind.RATE))
            for (int rate : tried(base))
                rates.put(rate, known.computeIfAbsent(new Change(FitStep.Kind.RATE, rate), _ -> ears.of(map(whole, s -> s.atMost(rate)))));
        Map<Integer, Double> depths = new LinkedHashMap<>(Map.of(0, 0.0));
        int most = whole.keySet().stream().mapToInt(s -> task.sounds().get(s).orElseThrow().depths().size()).max().orElse(1);
        if (task.may(FitStep.Kind.DEPTH))
            IntStream.range(1, most)
                    .forEach(d -> depths.put(d, known.computeIfAbsent(new Change(FitStep.Kind.DEPTH, d), _ -> ears.of(in(whole, d)))));
        Map<Boolean, Double> folds = new LinkedHashMap<>(Map.of(false, 0.0));
        if (sized.mayFold(whole.keySet())) folds.put(true, known.computeIfAbsent(new Change(FitStep.Kind.MONO, 1), _ -> ears.of(map(whole, Size::folded))));
        Map<Map<Integer, Size>, Double> cuts = new LinkedHashMap<>(Map.of(whole, 0.0));
        if (task.may(FitStep.Kind.TAILS))
            for (double tailDb : task.isBank() ? TAILS_DB_IN_BANKS : TAILS_DB)
                cuts.computeIfAbsent(withoutTails(stack, whole, tailDb),
                        cut -> known.computeIfAbsent(new Change(FitStep.Kind.TAILS, tailDb), _ -> ends(stack, row).of(cut)));
        List<Row.SizeChoice> out = new ArrayList<>();
        depths.forEach((depth, rounded) -> rates.forEach((rate, lower) -> folds.forEach((isFolded, folded) -> cuts.forEach((cut, shorter) -> {
            Map<Integer, Size> sizes = map(in(cut, depth), s -> isFolded ? s.atMost(rate).folded() : s.atMost(rate));
            out.add(new Row.SizeChoice(sizes, rounded + lower + folded + shorter, bytes(sizes)));
        }))));
        return worthIt(out);
    }

    /// @param depth its number among those of each sound
    private Map<Integer, Size> in(Map<Integer, Size> sizes, int depth) {
        Map<Integer, Size> out = new TreeMap<>();
        sizes.forEach((sample, size) -> out.put(sample, size.in(task.sounds().get(sample).orElseThrow().depth(depth))));
        return out;
    }

    /// Where the end of a sound comes soonest: on the highest of its keys, or a little above them where it may stand in for others.
    private SizeHarms.OfStack ends(Stack stack, Row row) {
        int highest = Math.min(127, stack.keys().high() + (row.stacks().size() > 1 ? KEYS_ABOVE : 0));
        return harms.of(stack.on(new Span(stack.keys().low(), highest)), highest, row.velocity(), notes, sized);
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

    private static Map<Integer, Size> map(Map<Integer, Size> sizes, UnaryOperator<Size> change) {
        Map<Integer, Size> out = new TreeMap<>();
        sizes.forEach((sample, size) -> out.put(sample, change.apply(size)));
        return out;
    }

    private double bytes(Map<Integer, Size> sizes) {
        return sizes.entrySet().stream().mapToDouble(e -> (double) task.bytes(e.getKey(), e.getValue()) / users.all(e.getKey())).sum();
    }

    private Map<Integer, Size> withoutTails(Stack stack, Map<Integer, Size> whole, double tailDb) {
        Map<Integer, Size> out = new TreeMap<>(whole);
        for (Zone zone : stack.zones())
            if (whole.containsKey(zone.sample()) && zone.get(Parameter.LOOPS).isEmpty()) {
                LoadedSound sound = sounds.sound(zone.sample()).orElseThrow();
                Size size = whole.get(zone.sample());
                long end = tail(sound, tailDb);
                if (sound.frames() == size.frames() && end < size.frames()) out.put(zone.sample(), size.until(end));
            }
        return out;
    }

    /// Where the tail begins.
    private static long tail(LoadedSound sound, double tailDb) {
        double least = sound.peak() * Math.pow(10, tailDb / 20);
        int last = 0;
        for (double[] plane : sound.planes())
            for (int i = plane.length - 1; i > last; i--)
                if (Math.abs(plane[i]) >= least) last = i;
        return Math.min(sound.frames(), last + Math.round(FitSound.FADE_MS / 1000 * sound.rateHz()));
    }
}
