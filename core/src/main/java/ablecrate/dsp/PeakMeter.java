package ablecrate.dsp;

/// The greatest sample and the greatest true peak of one channel.
/// Memory independent of length; not for two threads.
final class PeakMeter {
    private static final int BLOCK = 1024;

    /// What went before, then the block, then room for what comes after.
    private final double[] window = new double[Oversampler.BEFORE + BLOCK + Oversampler.AFTER + 40];
    private final double[][] points = new double[Oversampler.FACTOR - 1][BLOCK + 24];
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
        double highest = 0;
        for (int i = 0; i < filled; i++)
            highest = Math.max(highest, Math.abs(window[i]));
        samplePeak = Math.max(samplePeak, highest);
        truePeak = Math.max(truePeak, samplePeak);
        // Most blocks cannot hold a higher peak, which the samples alone show.
        if (highest * Oversampler.BOUND <= truePeak) return;
        Oversampler.between(window, Oversampler.BEFORE, count + 7 & -8, points);
        double before = Double.POSITIVE_INFINITY; // not known at the start of a block, where a top is told by its other neighbour
        for (int i = 0; i < count; i++) {
            double s = Math.abs(window[Oversampler.BEFORE + i]), next = Math.abs(window[Oversampler.BEFORE + i + 1]);
            double p1 = Math.abs(points[0][i]), p2 = Math.abs(points[1][i]), p3 = Math.abs(points[2][i]);
            if (Math.max(Math.max(s, p1), Math.max(p2, p3)) * 1.1 > truePeak) {
                rise(before, s, p1);
                rise(s, p1, p2);
                rise(p1, p2, p3);
                rise(p2, p3, next);
            }
            before = p3;
        }
    }

    private void rise(double before, double middle, double after) {
        if (middle >= before && middle >= after) truePeak = Math.max(truePeak, Oversampler.top(before, middle, after));
    }

    /// The end of the stream: silence follows.
    void finish() {
        java.util.Arrays.fill(window, filled, window.length, 0);
        int count = Math.max(0, filled - Oversampler.BEFORE);
        filled = Math.min(window.length, filled + Oversampler.AFTER);
        measure(Math.min(BLOCK + Oversampler.AFTER, count) + 7 & -8);
    }

    double samplePeak() { return samplePeak; }

    double truePeak() { return truePeak; }
}
