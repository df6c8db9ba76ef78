package ablecrate.fit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Zone;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Predicate;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

/// Choices of samples against all that there are, tried out one by one on rows that share some.
class StackChoiceTest {
    private static final int SAMPLES = 8, STACKS = 5, KEYS = 4;

    private final List<Row.Runs> rows = new ArrayList<>();

    /// @param samples of each stack
    private void row(Random random, List<Set<Integer>> samples, double silenced) {
        List<Stack> stacks = new ArrayList<>();
        double[][] cost = new double[samples.size()][128], none = new double[samples.size()][1];
        double[] weight = new double[128];
        for (int i = 0; i < samples.size(); i++) {
            Span keys = new Span(i * KEYS, i * KEYS + KEYS - 1);
            stacks.add(new Stack(keys, new Span(1, 127), samples.get(i).stream().sorted().map(s -> Zone.of(s).with(Parameter.KEYS, keys)).toList()));
            // As neighbours sound: the farther the more.
            for (int key = 0; key < samples.size() * KEYS; key++)
                cost[i][key] = keys.contains(key) ? 0 : Math.abs(key - i * KEYS) * (0.2 + random.nextDouble());
        }
        for (int key = 0; key < samples.size() * KEYS; key++)
            weight[key] = 0.5 + random.nextDouble();
        KeyRuns runs = new KeyRuns(stacks.stream().map(Stack::keys).toList(), cost, weight, none, none, samples);
        rows.add(new Row.Runs(new Row(stacks), runs, new double[samples.size()][128], new double[samples.size()], silenced));
    }

    private static StackChoice choice(List<Row.Runs> rows, StackChoice.Limit limit, Predicate<Row> stays, boolean maySilence) {
        return new StackChoice(rows, _ -> true, limit, stays, maySilence, () -> false);
    }

    private static StackChoice.Limit samples(int most) { return new StackChoice.Limit(Stack::samples, most); }

    private Set<Integer> taken(List<KeyRuns.Choice> choices) {
        Set<Integer> out = new HashSet<>();
        for (int r = 0; r < rows.size(); r++)
            for (KeyRuns.Kept kept : choices.get(r).kept())
                out.addAll(rows.get(r).row().stacks().get(kept.stack()).samples());
        return out;
    }

    private double harm(Set<Integer> kept) {
        double sum = 0;
        for (Row.Runs row : rows) {
            int[] there = IntStream.range(0, row.row().stacks().size()).filter(i -> kept.containsAll(row.row().stacks().get(i).samples())).toArray();
            sum += there.length == 0 ? 1e12 : row.runs().harmOf(there);
        }
        return sum;
    }

    /// Two rows of single samples, one of pairs, all of the same few.
    @Test void hardlyAnyOtherChoiceIsBetter() {
        List<Double> ratios = IntStream.range(0, 20).boxed().flatMap(seed -> ratios(new Random(seed)).stream()).sorted().toList();
        assertThat(ratios).hasSizeGreaterThan(40).allMatch(r -> r > 1 - 1e-9 && r < 1.2);
        assertThat(ratios.get(ratios.size() * 95 / 100)).as("in 95 of 100 cases").isLessThanOrEqualTo(1.05);
    }

    /// Of harm, over the least that there is.
    private List<Double> ratios(Random random) {
        rows.clear();
        List<Double> out = new ArrayList<>();
        for (int r = 0; r < 2; r++)
            row(random, IntStream.range(0, STACKS).mapToObj(_ -> Set.of(random.nextInt(SAMPLES))).toList(), 0);
        row(random, IntStream.range(0, 3).mapToObj(i -> Set.of(random.nextInt(4), 4 + random.nextInt(4))).toList(), 0);
        Set<Integer> all = taken(rows.stream().map(r -> r.runs().of(IntStream.range(0, r.row().stacks().size()).toArray())).toList());
        for (int most = 4; most < all.size(); most++) {
            Optional<List<KeyRuns.Choice>> chosen = choice(rows, samples(most), _ -> false, false).chosen(_ -> 0, 0);
            double best = Double.MAX_VALUE;
            for (int mask = 1; mask < 1 << SAMPLES; mask++) {
                int some = mask;
                if (Integer.bitCount(mask) <= most)
                    best = Math.min(best, harm(new HashSet<>(IntStream.range(0, SAMPLES).filter(s -> (some >> s & 1) == 1).boxed().toList())));
            }
            assertThat(chosen).isPresent();
            assertThat(taken(chosen.get())).hasSizeLessThanOrEqualTo(most);
            out.add(chosen.get().stream().mapToDouble(KeyRuns.Choice::harm).sum() / best);
        }
        return out;
    }

    /// What sounds beside something else may go, but not both of them; and only where that is asked for.
    @Test void noNoteIsSilent() {
        Random random = new Random(1);
        row(random, List.of(Set.of(0), Set.of(1)), 3);
        row(random, List.of(Set.of(2), Set.of(3)), 2);
        assertThat(choice(rows, samples(1), _ -> false, false).chosen(_ -> 0, 0)).isEmpty();
        List<KeyRuns.Choice> one = choice(rows, samples(1), _ -> false, true).chosen(_ -> 0, 0).orElseThrow();
        assertThat(one.stream().filter(c -> c.kept().isEmpty())).as("rows that are silent").hasSize(1);
        assertThat(choice(rows, samples(0), _ -> false, true).chosen(_ -> 0, 0)).isEmpty();
        assertThat(choice(rows, samples(3), row -> row == rows.getFirst().row(), false).chosen(_ -> 0, 0).orElseThrow().getFirst().kept())
                .as("of a row that has to stay").hasSize(2);
    }

    /// What was foretold is put right by what is heard.
    @Test void whatIsHeardDecides() {
        row(new Random(2), IntStream.range(0, STACKS).mapToObj(Set::of).toList(), 0);
        Map<Integer, Double> heard = Map.of(0, 1.0, 1, 5.0, 2, 2.0, 3, 4.0, 4, 3.0);
        List<KeyRuns.Choice> chosen = choice(rows, samples(2), _ -> false, false)
                .chosen(choices -> 10 - taken(choices).stream().mapToDouble(heard::get).sum(), STACKS * STACKS).orElseThrow();
        assertThat(taken(chosen)).containsExactlyInAnyOrder(1, 3);
    }

    /// Zones are counted as well: two of a pair each.
    @Test void zonesAreCounted() {
        row(new Random(3), List.of(Set.of(0, 1), Set.of(2, 3), Set.of(4)), 0);
        List<KeyRuns.Choice> chosen = choice(rows, new StackChoice.Limit(Stack::pieces, 3), _ -> false, false).chosen(_ -> 0, 0)
                .orElseThrow();
        assertThat(taken(chosen)).hasSize(3).contains(4);
        assertThat(chosen.getFirst().kept().stream().mapToInt(k -> k.keys().size()).sum()).as("every key has a zone").isEqualTo(128);
    }

    @Test void isGivenUpWhileItIsForetold() {
        row(new Random(4), IntStream.range(0, STACKS).mapToObj(Set::of).toList(), 0);
        AtomicInteger asked = new AtomicInteger();
        StackChoice choice = new StackChoice(rows, _ -> true, samples(2), _ -> false, false, () -> asked.incrementAndGet() > 5);
        assertThatThrownBy(() -> choice.chosen(_ -> 0, 0)).isInstanceOf(Stopped.class);
        assertThat(asked).hasValue(6);
    }
}
