package ablecrate.codec.flac;

import ablecrate.codec.BitWriter;
import java.util.Optional;

/// One channel of a frame on its way into the file; the layout is [FlacKernel]'s. One per channel and stream, used again for each frame.
final class Subframe {
    /// Predictors of a higher order save little, and take as long as they are.
    private static final int MOST_ORDER = 8, SHORTEST_PREDICTED = 32;
    /// Of a coefficient: longer ones for finer samples (common practice).
    private static final int PRECISION_16 = 13, PRECISION_24 = 15, KIND_BITS = 8, PRECISION_AND_SHIFT_BITS = 9;

    /// A way to write it.
    /// @param bits that it takes, about
    private record Way(int kind, LinearPredictor predictor, int[] residual, RiceParts parts, double bits) {}

    private final int[][] residuals = new int[2][FlacEncoder.BLOCK];
    private int[] x;
    private int count, bits, wasted;
    /// Empty where its samples are all alike, or written as they are.
    private Optional<Way> way = Optional.empty();

    /// What it is to be the subframe of.
    /// @param samples changed in place where their low bits are always zero
    /// @param sampleBits of each
    /// @return how many bits it will take, about
    double take(int[] samples, int frames, int sampleBits) {
        x = samples;
        count = frames;
        int all = 0;
        for (int i = 0; i < count; i++)
            all |= x[i];
        wasted = all == 0 ? 0 : Integer.numberOfTrailingZeros(all);
        for (int i = 0; wasted > 0 && i < count; i++)
            x[i] >>= wasted;
        bits = sampleBits - wasted;
        way = Optional.empty();
        if (isConstant()) return bits;
        Way fixed = fixed(), best = linear().filter(w -> w.bits < fixed.bits).orElse(fixed);
        double plain = KIND_BITS + (double) bits * count;
        way = Optional.of(best).filter(w -> w.bits < plain);
        return Math.min(plain, best.bits);
    }

    private boolean isConstant() {
        for (int i = 1; i < count; i++)
            if (x[i] != x[0]) return false;
        return true;
    }

    private Way fixed() {
        int order = fixedOrder();
        LinearPredictor predictor = new LinearPredictor(FlacKernel.FIXED_COEFFICIENTS[order], 0, 0);
        predictor.isLeft(x, count, residuals[0]);
        return way(FlacKernel.FIXED + order, predictor, residuals[0], 0);
    }

    private Optional<Way> linear() {
        int precision = bits > 16 ? PRECISION_24 : PRECISION_16;
        LinearPredictor.Orders orders = LinearPredictor.orders(x, count, Math.min(MOST_ORDER, count / SHORTEST_PREDICTED));
        int order = orders.best(count, bits + precision);
        if (order == 0) return Optional.empty();
        return LinearPredictor.rounded(orders.coefficients()[order - 1], precision).filter(p -> p.isLeft(x, count, residuals[1]))
                .map(p -> way(FlacKernel.LINEAR + order - 1, p, residuals[1], PRECISION_AND_SHIFT_BITS + order * precision));
    }

    private Way way(int kind, LinearPredictor predictor, int[] residual, int predictorBits) {
        RiceParts parts = RiceParts.of(residual, predictor.order(), count);
        return new Way(kind, predictor, residual, parts, KIND_BITS + predictorBits + (double) predictor.order() * bits + parts.bits());
    }

    void write(BitWriter out) {
        int kind = way.map(Way::kind).orElse(isConstant() ? FlacKernel.CONSTANT : FlacKernel.VERBATIM);
        out.bits(kind << 1 | (wasted > 0 ? 1 : 0), KIND_BITS);
        if (wasted > 0) out.bits(1, wasted);
        int plain = way.map(w -> w.predictor.order()).orElse(kind == FlacKernel.CONSTANT ? 1 : count);
        for (int i = 0; i < plain; i++)
            out.bits(x[i], bits);
        if (way.isEmpty()) return;
        LinearPredictor predictor = way.get().predictor;
        if (kind >= FlacKernel.LINEAR) {
            out.bits(predictor.precision() - 1, 4);
            out.bits(predictor.shift(), 5);
            for (int coefficient : predictor.coefficients())
                out.bits(coefficient, predictor.precision());
        }
        way.get().parts.write(out, way.get().residual, predictor.order(), count);
    }

    /// The fixed predictor whose residual is smallest.
    private int fixedOrder() {
        int most = Math.min(FlacKernel.MOST_FIXED, count - 1);
        long[] sums = new long[FlacKernel.MOST_FIXED + 1];
        long a = 0, b = 0, c = 0, d = 0;
        for (int i = 0; i < count; i++) {
            // Differences of differences.
            long first = x[i] - a, second = first - b, third = second - c, fourth = third - d;
            if (i >= most) {
                sums[0] += Math.abs((long) x[i]);
                sums[1] += Math.abs(first);
                sums[2] += Math.abs(second);
                sums[3] += Math.abs(third);
                sums[4] += Math.abs(fourth);
            }
            a = x[i];
            b = first;
            c = second;
            d = third;
        }
        int best = 0;
        for (int order = 1; order <= most; order++)
            if (sums[order] < sums[best]) best = order;
        return best;
    }
}
