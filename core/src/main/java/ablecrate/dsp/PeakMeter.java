package ablecrate.dsp;

import java.util.Arrays;

/// The greatest sample and the greatest true peak of one channel.
/// Memory independent of length; not for two threads.
final class PeakMeter {
    private static final int BLOCK = 1024;

    private static final int BEFORE = Oversampler.BEFORE + 1;

    /// What went before, then the block, then room for what comes after.
    private final double[] window = new double[BEFORE + BLOCK + 2 * Oversampler.AFTER];
    private final Oversampler oversampler = new Oversampler(BLOCK + Oversampler.AFTER);
    private int filled = BEFORE; // silence before the first sample
    private double samplePeak, truePeak;

    void add(double[] x, int from, int count) {
        for (int done = 0; done < count;) {
            int n = Math.min(count - done, BEFORE + BLOCK + Oversampler.AFTER - filled);
            System.arraycopy(x, from + done, window, filled, n);
            filled += n;
            done += n;
            if (filled == BEFORE + BLOCK + Oversampler.AFTER) {
                measure(BLOCK);
                System.arraycopy(window, BLOCK, window, 0, BEFORE + Oversampler.AFTER);
                filled = BEFORE + Oversampler.AFTER;
            }
        }
    }

    private void measure(int count) {
        double highest = Oversampler.highest(window, 0, filled);
        samplePeak = Math.max(samplePeak, highest);
        truePeak = Math.max(truePeak, samplePeak);
        // Most blocks cannot hold a higher peak, which the samples alone show.
        if (highest * Oversampler.BOUND <= truePeak) return;
        double[][] points = oversampler.between(window, BEFORE, count);
        double between = 0;
        for (double[] phase : points)
            between = Math.max(between, Oversampler.highest(phase, 0, count));
        double near = truePeak / Oversampler.NEAR;
        if (Math.max(highest, between) <= near) return;
        oversampler.heights(window, BEFORE, count);
        for (int i = 0; i < count; i++)
            if (oversampler.mayPeak(window, BEFORE, i, count, near)) {
                truePeak = Math.max(truePeak, Oversampler.peak(window, BEFORE + i));
                near = truePeak / Oversampler.NEAR;
            }
    }

    /// The end of the stream: silence follows.
    void finish() {
        Arrays.fill(window, filled, window.length, 0);
        int count = filled - BEFORE;
        filled += Oversampler.AFTER;
        measure(count);
    }

    double samplePeak() { return samplePeak; }

    double truePeak() { return truePeak; }
}
