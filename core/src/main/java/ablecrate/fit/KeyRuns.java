package ablecrate.fit;

import ablecrate.instrument.Span;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedList;
import java.util.List;
import java.util.Set;

/// Over which keys each stack of a row reaches that stays, and which of them stay, in which size, at a price for each byte: the least harm.
///
/// Exact, by dynamic programming over the kept stack and its size: what comes after a kept stack does not depend on what came before it.
/// Source: R. Bellman, *Dynamic programming*, 1957; the price as Lagrange's multiplier, H. Everett, *Operations Research* 11, 1963.
final class KeyRuns {
    /// Harm of what cannot be.
    static final double NEVER = 1e9;

    private final List<Span> own;
    /// `[stack][key]`, summed up over keys, weighted.
    private final double[][] costs;
    /// `[key]`, summed up.
    private final double[] weights;
    /// `[stack][size]` of one note, not weighted; and bytes.
    private final double[][] sizeCosts, sizeBytes;
    /// `[stack]` a number for each set of samples.
    private final int[] samples;
    private final int n;

    /// @param own keys of each stack, ascending
    /// @param cost `[stack][key]` harm where a stack sounds in the place of the key's own
    /// @param weight `[key]`; 0 where the row has none
    /// @param sizeCosts `[stack][size]` harm of a stack's sizes; the first is the whole one
    /// @param sizeBytes `[stack][size]`
    /// @param samples of each stack: where neighbours play the same ones, their bytes are counted once
    KeyRuns(List<Span> own, double[][] cost, double[] weight, double[][] sizeCosts, double[][] sizeBytes, List<Set<Integer>> samples) {
        List<Set<Integer>> distinct = samples.stream().distinct().toList();
        this.samples = samples.stream().mapToInt(distinct::indexOf).toArray();
        this.own = own;
        this.sizeCosts = sizeCosts;
        this.sizeBytes = sizeBytes;
        n = own.size();
        costs = new double[n][129];
        weights = new double[129];
        for (int key = 0; key < 128; key++) {
            weights[key + 1] = weights[key] + weight[key];
            for (int i = 0; i < n; i++)
                costs[i][key + 1] = costs[i][key] + (own.get(i).contains(key) ? 0 : cost[i][key]) * weight[key];
        }
    }

    private KeyRuns(KeyRuns other, double factor) {
        own = other.own;
        samples = other.samples;
        sizeBytes = other.sizeBytes;
        n = other.n;
        costs = other.costs;
        weights = other.weights;
        sizeCosts = Arrays.stream(other.sizeCosts).map(c -> Arrays.stream(c).map(harm -> harm * factor).toArray()).toArray(double[][]::new);
    }

    double weight() { return weights[128]; }

    /// The same where harm of sizes counts more, or less.
    KeyRuns leaning(double factor) { return new KeyRuns(this, factor); }

    /// A stack that stays.
    /// @param size which of its sizes
    record Kept(int stack, int size, Span keys) {}

    /// @param harm weighted sum
    record Choice(List<Kept> kept, double harm, double bytes) {}

    private double harm(int stack, int size, int from, int to) {
        return costs[stack][to] - costs[stack][from] + sizeCosts[stack][size] * (weights[to] - weights[from]);
    }

    /// Where two kept neighbours meet best: the first key of the upper one.
    private int meeting(int i, int a, int j, int b) {
        int best = own.get(i).high() + 1;
        double least = Double.MAX_VALUE;
        for (int key = own.get(i).high() + 1; key <= own.get(j).low(); key++) {
            double harm = harm(i, a, own.get(i).high() + 1, key) + harm(j, b, key, own.get(j).low());
            if (harm < least) {
                least = harm;
                best = key;
            }
        }
        return best;
    }

    private double between(int i, int a, int j, int b) {
        int key = meeting(i, a, j, b);
        return harm(i, a, own.get(i).high() + 1, key) + harm(j, b, key, own.get(j).low());
    }

    /// What a stack takes beyond the kept one before it, which may play the same samples.
    private double beyond(double[][] sizeBytes, int i, int a, int j, int b) {
        return samples[i] == samples[j] ? Math.max(0, sizeBytes[j][b] - sizeBytes[i][a]) : sizeBytes[j][b];
    }

    /// Of these stacks, ascending, each whole and over the keys between them where it costs less.
    double harmOf(int[] stacks) {
        double sum = harm(stacks[0], 0, 0, own.get(stacks[0]).high() + 1);
        for (int k = 1; k < stacks.length; k++)
            sum += between(stacks[k - 1], 0, stacks[k], 0) + harm(stacks[k], 0, own.get(stacks[k]).low(), own.get(stacks[k]).high() + 1);
        int last = stacks[stacks.length - 1];
        return sum + harm(last, 0, own.get(last).high() + 1, 128);
    }

    /// The same as a choice; of none, nothing.
    Choice of(int[] stacks) {
        List<Kept> kept = new ArrayList<>();
        double bytes = 0;
        for (int k = 0; k < stacks.length; k++) {
            int start = k == 0 ? 0 : kept.getLast().keys().high() + 1, end = k + 1 < stacks.length ? meeting(stacks[k], 0, stacks[k + 1], 0) : 128;
            kept.add(new Kept(stacks[k], 0, new Span(start, end - 1)));
            bytes += sizeBytes[stacks[k]][0];
        }
        return new Choice(kept, stacks.length == 0 ? 0 : harmOf(stacks), bytes);
    }

    /// The best of any number, at a price.
    /// @param price harm that a byte is worth
    Choice atPrice(double price) { return atPrice(price, sizeBytes); }

    /// The same where other bytes are counted.
    /// @param sizeBytes `[stack][size]`
    Choice atPrice(double price, double[][] sizeBytes) {
        int sizes = Arrays.stream(sizeCosts).mapToInt(s -> s.length).max().orElse(1);
        // Of all choices whose last is a stack in a size, and the one before the last.
        double[] best = new double[n * sizes];
        int[] before = new int[n * sizes];
        Arrays.fill(best, NEVER * NEVER);
        for (int j = 0; j < n; j++)
            for (int b = 0; b < sizeCosts[j].length; b++) {
                double own = harm(j, b, this.own.get(j).low(), this.own.get(j).high() + 1);
                int at = j * sizes + b;
                best[at] = own + harm(j, b, 0, this.own.get(j).low()) + price * sizeBytes[j][b];
                before[at] = -1;
                // Neighbours first: beside them most others cost too much already, and are not looked at more closely.
                for (int i = j - 1; i >= 0; i--)
                    for (int a = 0; a < sizeCosts[i].length; a++) {
                        double soFar = best[i * sizes + a] + own + price * beyond(sizeBytes, i, a, j, b);
                        if (soFar >= best[at]) continue;
                        double whole = soFar + between(i, a, j, b);
                        if (whole < best[at]) {
                            best[at] = whole;
                            before[at] = i * sizes + a;
                        }
                    }
            }
        int last = 0;
        double least = Double.MAX_VALUE;
        for (int at = 0; at < best.length; at++) {
            double whole = best[at] + harm(at / sizes, Math.min(at % sizes, sizeCosts[at / sizes].length - 1), own.get(at / sizes).high() + 1, 128);
            if (whole < least) {
                least = whole;
                last = at;
            }
        }
        LinkedList<Kept> kept = new LinkedList<>();
        int end = 128;
        double bytes = 0;
        for (int at = last; at >= 0; at = before[at]) {
            int stack = at / sizes, size = at % sizes, start = before[at] < 0 ? 0 : meeting(before[at] / sizes, before[at] % sizes, stack, size);
            kept.addFirst(new Kept(stack, size, new Span(start, end - 1)));
            bytes += before[at] < 0 ? sizeBytes[stack][size] : beyond(sizeBytes, before[at] / sizes, before[at] % sizes, stack, size);
            end = start;
        }
        return new Choice(List.copyOf(kept), least - price * bytes, bytes);
    }
}
