package ablecrate.dsp;

import java.util.OptionalDouble;

/// Counts readings of loudness in steps of 0.01 LU, with the sum of their powers.
final class LoudnessHistogram {
    private static final double STEP = 0.01, HIGHEST = 40;

    private final double lowest;
    private final int[] counts;
    private final double[] powers;

    /// @param lowest readings at or below are not counted
    LoudnessHistogram(double lowest) {
        this.lowest = lowest;
        int bins = (int) Math.round((HIGHEST - lowest) / STEP);
        counts = new int[bins];
        powers = new double[bins];
    }

    void add(double lufs, double power) {
        if (!(lufs > lowest)) return;
        int bin = Math.min(counts.length - 1, (int) ((lufs - lowest) / STEP));
        counts[bin]++;
        powers[bin] += power;
    }

    private int firstAbove(double gate) { return Double.isNaN(gate) || gate <= lowest ? 0 : (int) Math.min(counts.length, Math.ceil((gate - lowest) / STEP)); }

    /// The mean power of readings above a gate; 0 where there are none.
    double meanAbove(double gate) {
        double sum = 0;
        long n = 0;
        for (int bin = firstAbove(gate); bin < counts.length; bin++) {
            sum += powers[bin];
            n += counts[bin];
        }
        return n == 0 ? 0 : sum / n;
    }

    /// The distance between two percentiles of the readings above a gate; empty where there are none.
    OptionalDouble spreadAbove(double gate, double low, double high) {
        int first = firstAbove(gate);
        long n = 0;
        for (int bin = first; bin < counts.length; bin++)
            n += counts[bin];
        return n == 0
                ? OptionalDouble.empty()
                : OptionalDouble.of(percentile(first, Math.round((n - 1) * high)) - percentile(first, Math.round((n - 1) * low)));
    }

    /// The reading of a rank, 0 the lowest.
    private double percentile(int first, long rank) {
        long passed = 0;
        for (int bin = first; bin < counts.length; bin++) {
            passed += counts[bin];
            if (passed > rank) return lowest + (bin + 0.5) * STEP;
        }
        throw new IllegalArgumentException("rank " + rank + " of " + passed);
    }
}
