package ablecrate.fit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.instrument.Span;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.stream.IntStream;
import org.junit.jupiter.api.RepeatedTest;
import org.junit.jupiter.api.RepetitionInfo;

/// Choices of stacks against all that there are, tried out one by one on small rows of random costs.
class KeyRunsTest {
    private static final int STACKS = 5, KEYS = 4, SIZES = 2;

    private final double[][] cost = new double[STACKS][128], sizeCosts = new double[STACKS][SIZES], sizeBytes = new double[STACKS][SIZES];
    private final double[] weight = new double[128];
    private final List<Span> own = new ArrayList<>();

    private KeyRuns runs(int seed) {
        Random random = new Random(seed);
        for (int i = 0; i < STACKS; i++) {
            own.add(new Span(i * KEYS, i * KEYS + KEYS - 1));
            sizeCosts[i][1] = random.nextDouble() * 3;
            sizeBytes[i][0] = 100 + random.nextInt(100);
            sizeBytes[i][1] = sizeBytes[i][0] / 2;
            for (int key = 0; key < STACKS * KEYS; key++)
                cost[i][key] = own.get(i).contains(key) ? 0 : random.nextDouble() * 10;
        }
        for (int key = 0; key < STACKS * KEYS; key++)
            weight[key] = 0.5 + random.nextDouble();
        // The second and the third play one sample.
        sizeBytes[2] = sizeBytes[1];
        return new KeyRuns(own, cost, weight, sizeCosts, sizeBytes, IntStream.range(0, STACKS).mapToObj(i -> Set.of(i == 2 ? 1 : i)).toList());
    }

    /// Of kept stacks and their sizes; keys between two of them go where they cost least, from one place on to the upper one.
    private double harm(List<Integer> kept, List<Integer> sizes) {
        double sum = 0;
        for (int k = 0; k <= kept.size(); k++) {
            int from = k == 0 ? 0 : own.get(kept.get(k - 1)).high() + 1, to = k == kept.size() ? STACKS * KEYS : own.get(kept.get(k)).low();
            double least = Double.MAX_VALUE;
            for (int meet = from; meet <= to; meet++) {
                double between = 0;
                for (int key = from; key < to; key++) {
                    int by = key < meet ? k - 1 : k;
                    between += by < 0 || by >= kept.size() ? 1e12 : (cost[kept.get(by)][key] + sizeCosts[kept.get(by)][sizes.get(by)]) * weight[key];
                }
                least = Math.min(least, between);
            }
            sum += least;
            if (k < kept.size())
                for (int key = own.get(kept.get(k)).low(); key <= own.get(kept.get(k)).high(); key++)
                    sum += sizeCosts[kept.get(k)][sizes.get(k)] * weight[key];
        }
        return sum;
    }

    private static List<List<Integer>> subsets() {
        List<List<Integer>> out = new ArrayList<>();
        for (int mask = 1; mask < 1 << STACKS; mask++) {
            List<Integer> kept = new ArrayList<>();
            for (int i = 0; i < STACKS; i++)
                if ((mask >> i & 1) == 1) kept.add(i);
            out.add(kept);
        }
        return out;
    }

    @RepeatedTest(20) void keptNeighboursMeetWhereItCostsLeast(RepetitionInfo info) {
        KeyRuns runs = runs(info.getCurrentRepetition());
        for (List<Integer> kept : subsets()) {
            KeyRuns.Choice choice = runs.of(kept.stream().mapToInt(i -> i).toArray());
            assertThat(choice.kept()).extracting(KeyRuns.Kept::stack).isEqualTo(kept);
            assertThat(choice.harm()).as("%s kept", kept).isCloseTo(harm(kept, kept.stream().map(_ -> 0).toList()), within(1e-9));
            double told = 0;
            for (KeyRuns.Kept k : choice.kept())
                for (int key = k.keys().low(); key <= k.keys().high(); key++)
                    told += cost[k.stack()][key] * weight[key];
            assertThat(told).as("over the keys that are told").isCloseTo(choice.harm(), within(1e-9));
            assertThat(choice.kept().stream().mapToInt(k -> k.keys().size()).sum()).isEqualTo(128);
        }
    }

    @RepeatedTest(20) void noOtherChoiceIsBetterAtThePrice(RepetitionInfo info) {
        KeyRuns runs = runs(info.getCurrentRepetition());
        for (double price : new double[]{0, 0.01, 0.05, 0.3, 2}) {
            double best = Double.MAX_VALUE;
            for (List<Integer> kept : subsets())
                for (int mask = 0; mask < 1 << kept.size(); mask++) {
                    List<Integer> sizes = new ArrayList<>();
                    double bytes = 0;
                    for (int k = 0; k < kept.size(); k++) {
                        sizes.add(mask >> k & 1);
                        double own = sizeBytes[kept.get(k)][mask >> k & 1];
                        boolean isThere = kept.get(k) == 2 && k > 0 && kept.get(k - 1) == 1;
                        bytes += isThere ? Math.max(0, own - sizeBytes[1][mask >> k - 1 & 1]) : own;
                    }
                    best = Math.min(best, harm(kept, sizes) + price * bytes);
                }
            KeyRuns.Choice choice = runs.atPrice(price);
            assertThat(choice.harm() + price * choice.bytes()).as("price %s", price).isCloseTo(best, within(1e-6));
            assertThat(choice.kept().getFirst().keys().low()).isZero();
            assertThat(choice.kept().getLast().keys().high()).isEqualTo(127);
        }
    }
}
