package ablecrate.dsp;

import java.util.Arrays;

/// The greatest sample and the greatest true peak of one channel.
/// Memory independent of length; not for two threads.
final class PeakMeter {
    private static final int BLOCK = 1024;

    /// What went before, then the block, then room for what comes after.
    private final double[] window = new double[Oversampler.BEFORE + BLOCK + 2 * Oversampler.AFTER];
    private final Oversampler oversampler = new Oversampler(BLOCK + Oversampler.AFTER);
    private int filled = Oversampler.BEFORE; // silence before the first sample
    private double samplePeak, truePeak;

    void add(double[] x, int from, int count) {
        for (int done = 0; done < count;) {
            int n = Math.min(count - done, Oversampler.BEFORE + BLOCK + Oversampler.AFTER - filled);
            System.arraycopy(x, from + done, window, filled, n);
            filled += n;
            done += n;
            if (filled == Oversampler.BEFORE + BLOCK + Oversampler.AFTER) {
                measure(BLOCK);
                System.arraycopy(window, BLOCK, window, 0, Oversampler.BEFORE + Oversampler.AFTER);
                filled = Oversampler.BEFORE + Oversampler.AFTER;
            }
        }
    }

    private void measure(int count) {
        double highest = Oversampler.highest(window, 0, filled);
        samplePeak = Math.max(samplePeak, highest);
        truePeak = Math.max(truePeak, samplePeak);
        // Most blocks cannot hold a higher peak, which the samples alone show.
        if (highest * Oversampler.BOUND <= truePeak) return;
        double[][] points = oversampler.between(window, Oversampler.BEFORE, count);
        double between = 0;
        for (double[] phase : points)
            between = Math.max(between, Oversampler.highest(phase, 0, count));
        // A parabola's top is less than a tenth above its points.
        if (Math.max(highest, between) * 1.1 <= truePeak) return;
        double before = Double.POSITIVE_INFINITY; // not known at the start of a block, where a top is told by its other neighbour
        double near = truePeak / 1.1;
        for (int i = 0; i < count; i++) {
            double s = Math.abs(window[Oversampler.BEFORE + i]), p1 = Math.abs(points[0][i]), p2 = Math.abs(points[1][i]), p3 = Math.abs(points[2][i]);
            if (s > near || p1 > near || p2 > near || p3 > near) {
                rise(before, s, p1);
                rise(s, p1, p2);
                rise(p1, p2, p3);
                rise(p2, p3, Math.abs(window[Oversampler.BEFORE + i + 1]));
            }
            before = p3;
        }
    }

    private void rise(double before, double middle, double after) {
        if (middle >= before && middle >= after) truePeak = Math.max(truePeak, Oversampler.top(before, middle, after));
    }

    /// The end of the stream: silence follows.
    void finish() {
        Arrays.fill(window, filled, window.length, 0);
        int count = filled - Oversampler.BEFORE;
        filled += Oversampler.AFTER;
        measure(count);
    }

    double samplePeak() { return samplePeak; }

    double truePeak() { return truePeak; }
}
