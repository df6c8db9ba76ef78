package ablecrate.fit;

import ablecrate.instrument.Span;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/// Which stacks of a row stay, and over which keys each of them reaches then: the least harm for a number of stacks, or at a price for each byte.
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
    private final int n;

    /// @param own keys of each stack, ascending
    /// @param cost `[stack][key]` harm where a stack sounds in the place of the key's own
    /// @param weight `[key]`; 0 where the row has none
    /// @param sizeCosts `[stack][size]` harm of a stack's sizes; the first is the whole one
    /// @param sizeBytes `[stack][size]`
    KeyRuns(List<Span> own, double[][] cost, double[] weight, double[][] sizeCosts, double[][] sizeBytes) {
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

    double weight() { return weights[128]; }

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

    /// The harm of the best choice of 1, 2 … n stacks, whole.
    double[] harmByCount() {
        double[] out = new double[n];
        double[][] best = tables(n, 0, true).best;
        for (int count = 1; count <= n; count++) {
            out[count - 1] = Double.MAX_VALUE;
            for (int j = 0; j < n; j++)
                out[count - 1] = Math.min(out[count - 1], best[count - 1][j] + harm(j, 0, own.get(j).high() + 1, 128));
        }
        return out;
    }

    /// The best of so many stacks, each whole.
    Choice ofCount(int count) { return choice(tables(count, 0, true), count - 1, 0, true); }

    /// The best of any number, at a price.
    /// @param price harm that a byte is worth
    Choice atPrice(double price) { return choice(tables(1, price, false), 0, price, false); }

    /// @param best `[count − 1][stack · sizes + size]`
    /// @param from the place of the kept one before, −1 for none
    private record Tables(double[][] best, int[][] from, int sizes) {}

    private Tables tables(int most, double price, boolean counts) {
        int sizes = counts ? 1 : Arrays.stream(sizeCosts).mapToInt(s -> s.length).max().orElse(1);
        double[][] best = new double[most][n * sizes];
        int[][] from = new int[most][n * sizes];
        for (double[] row : best)
            Arrays.fill(row, NEVER * NEVER);
        for (int j = 0; j < n; j++)
            for (int b = 0; b < Math.min(sizes, sizeCosts[j].length); b++) {
                double own = harm(j, b, this.own.get(j).low(), this.own.get(j).high() + 1) + price * sizeBytes[j][b];
                best[0][j * sizes + b] = own + harm(j, b, 0, this.own.get(j).low());
                from[0][j * sizes + b] = -1;
                for (int i = 0; i < j; i++)
                    for (int a = 0; a < Math.min(sizes, sizeCosts[i].length); a++) {
                        double between = between(i, a, j, b);
                        // Where they are not counted, one row holds them all.
                        for (int count = counts ? 1 : 0; count < most; count++) {
                            double whole = best[counts ? count - 1 : 0][i * sizes + a] + between + own;
                            if (whole < best[count][j * sizes + b]) {
                                best[count][j * sizes + b] = whole;
                                from[count][j * sizes + b] = i * sizes + a;
                            }
                        }
                    }
            }
        return new Tables(best, from, sizes);
    }

    private Choice choice(Tables tables, int count, double price, boolean counts) {
        int last = 0;
        double least = Double.MAX_VALUE;
        for (int at = 0; at < tables.best[count].length; at++) {
            int j = at / tables.sizes, b = at % tables.sizes;
            if (b >= sizeCosts[j].length) continue;
            double whole = tables.best[count][at] + harm(j, b, own.get(j).high() + 1, 128);
            if (whole < least) {
                least = whole;
                last = at;
            }
        }
        List<Kept> kept = new ArrayList<>();
        int end = 128;
        double bytes = 0;
        for (int at = last, left = count; at >= 0;) {
            int stack = at / tables.sizes, size = at % tables.sizes, before = tables.from[left][at];
            int start = before < 0 ? 0 : meeting(before / tables.sizes, before % tables.sizes, stack, size);
            kept.addFirst(new Kept(stack, size, new Span(start, end - 1)));
            bytes += sizeBytes[stack][size];
            end = start;
            at = before;
            if (counts) left--;
        }
        return new Choice(kept, least - price * bytes, bytes);
    }
}
