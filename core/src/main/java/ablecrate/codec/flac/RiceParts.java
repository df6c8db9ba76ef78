package ablecrate.codec.flac;

import ablecrate.codec.BitWriter;

/// How a residual is parted, and with which parameter each part is written: the cheapest by their sums.
/// @param order of two: how often it is halved
/// @param bits that all parts take, about
record RiceParts(int order, int[] parameters, double bits) {
    private static final int MOST_ORDER = 6, MOST_PARAMETER = 30, SHORT_PARAMETER = 14;

    /// @param skipped samples at the start that have no residual
    static RiceParts of(int[] residual, int skipped, int count) {
        int finest = 0;
        while (finest < MOST_ORDER && count % (2 << finest) == 0 && count >> finest + 1 > skipped)
            finest++;
        long[] sums = sums(residual, skipped, count, finest);
        RiceParts best = null;
        for (int order = finest; order >= 0; order--) {
            RiceParts parts = of(sums, order, skipped, count);
            if (best == null || parts.bits < best.bits) best = parts;
            for (int i = 0; i < sums.length / 2; i++)
                sums[i] = sums[2 * i] + sums[2 * i + 1];
        }
        return best;
    }

    private static long[] sums(int[] residual, int skipped, int count, int order) {
        int length = count >> order;
        long[] out = new long[1 << order];
        for (int part = 0; part < out.length; part++) {
            long sum = 0;
            for (int i = Math.max(skipped, part * length); i < (part + 1) * length; i++)
                sum += folded(residual[i]) & 0xFFFF_FFFFL;
            out[part] = sum;
        }
        return out;
    }

    private static RiceParts of(long[] sums, int order, int skipped, int count) {
        int[] parameters = new int[1 << order];
        int length = count >> order, most = 0;
        double bits = 0;
        for (int part = 0; part < parameters.length; part++) {
            int n = length - (part == 0 ? skipped : 0);
            double least = Double.MAX_VALUE;
            // About the mean's logarithm is the best one.
            int near = n == 0 ? 0 : Math.clamp(Long.SIZE - 1 - Long.numberOfLeadingZeros(sums[part] / n | 1), 0, MOST_PARAMETER);
            for (int k = Math.max(0, near - 1); k <= Math.min(MOST_PARAMETER, near + 1); k++) {
                // What is cut off below the parameter's bits is half a step in the mean.
                double taken = n * (k == 0 ? 1 : k + 0.5) + Math.scalb((double) sums[part], -k);
                if (taken < least) {
                    least = taken;
                    parameters[part] = k;
                }
            }
            most = Math.max(most, parameters[part]);
            bits += least;
        }
        return new RiceParts(order, parameters, bits + parameters.length * (most > SHORT_PARAMETER ? 5 : 4) + 6);
    }

    /// 0, −1, 1, −2 … as 0, 1, 2, 3 …
    private static int folded(int x) { return x << 1 ^ x >> 31; }

    void write(BitWriter out, int[] residual, int skipped, int count) {
        boolean isLong = false;
        for (int parameter : parameters)
            isLong |= parameter > SHORT_PARAMETER;
        out.bits(isLong ? 1 : 0, 2);
        out.bits(order, 4);
        int length = count >> order;
        for (int part = 0; part < parameters.length; part++) {
            int parameter = parameters[part];
            out.bits(parameter, isLong ? 5 : 4);
            for (int i = Math.max(skipped, part * length); i < (part + 1) * length; i++)
                out.rice(folded(residual[i]) & 0xFFFF_FFFFL, parameter);
        }
    }
}
