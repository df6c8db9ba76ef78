package ablecrate.codec.aac;

import ablecrate.codec.BitReader;

/// Temporal noise shaping: filters that run along the lines of a spectrum, and so shape the wave within a window.
///
/// For each window: 2 bits (short windows 1) for the number of filters; if there are any, 1 bit for the resolution (3 or 4 bits); for each filter 6 (4) bits
/// of length in bands, from the top down, 5 (3) bits of order, and where that is not 0, 1 bit of direction, 1 bit if the highest bit of each coefficient is
/// left out, and the coefficients.
///
/// Source: ISO/IEC 14496-3:2009, section 4.6.9 and table 4.48.
/// @param filters `[window][filter]`
record NoiseShaping(Filter[][] filters) {
    static final NoiseShaping NONE = new NoiseShaping(new Filter[0][]);

    /// @param bands it reaches over
    /// @param isDownward from the highest line to the lowest
    /// @param factors of the lines before, from the nearest on
    private record Filter(int bands, boolean isDownward, double[] factors) {}

    static NoiseShaping read(BitReader in, ChannelInfo info) {
        boolean isShort = info.isShort();
        Filter[][] filters = new Filter[info.windows()][];
        for (int window = 0; window < filters.length; window++) {
            filters[window] = new Filter[in.bits(isShort ? 1 : 2)];
            int resolution = filters[window].length > 0 ? 3 + in.bits(1) : 0;
            for (int i = 0; i < filters[window].length; i++) {
                int bands = in.bits(isShort ? 4 : 6), order = in.bits(isShort ? 3 : 5);
                boolean isDownward = order > 0 && in.flag();
                int bits = order > 0 ? resolution - in.bits(1) : 0;
                int[] coded = new int[order];
                for (int k = 0; k < order; k++)
                    coded[k] = in.signed(bits);
                filters[window][i] = new Filter(bands, isDownward, factors(coded, resolution));
            }
        }
        return new NoiseShaping(filters);
    }

    /// Reflection coefficients to those of a filter, step by step.
    private static double[] factors(int[] coded, int resolution) {
        double[] factors = new double[coded.length];
        double up = ((1 << resolution - 1) - 0.5) / (Math.PI / 2), down = ((1 << resolution - 1) + 0.5) / (Math.PI / 2);
        for (int m = 0; m < coded.length; m++) {
            double reflection = Math.sin(coded[m] / (coded[m] >= 0 ? up : down));
            for (int i = 0, j = m - 1; i <= j; i++, j--) {
                double a = factors[i], b = factors[j];
                factors[i] = a + reflection * b;
                if (i < j) factors[j] = b + reflection * a;
            }
            factors[m] = reflection;
        }
        return factors;
    }

    /// @param most bands that may be reached at this rate
    void apply(double[] spectrum, ChannelInfo info, int most) {
        int[] edges = info.edges();
        int reached = Math.min(most, info.bands());
        for (int window = 0; window < filters.length; window++) {
            int bottom = edges.length - 1, base = window * info.lines();
            for (Filter filter : filters[window]) {
                int top = bottom;
                bottom = Math.max(0, top - filter.bands());
                run(filter, spectrum, base + edges[Math.min(bottom, reached)], base + edges[Math.min(top, reached)]);
            }
        }
    }

    private static void run(Filter filter, double[] lines, int from, int to) {
        double[] factors = filter.factors();
        int step = filter.isDownward() ? -1 : 1, first = filter.isDownward() ? to - 1 : from;
        for (int done = 0, at = first; done < to - from; done++, at += step) {
            double value = lines[at];
            for (int k = Math.min(done, factors.length), before = at - step * k; k > 0; k--, before += step)
                value -= factors[k - 1] * lines[before];
            lines[at] = value;
        }
    }
}
