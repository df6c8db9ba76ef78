package ablecrate.desktop.compare;

import ablecrate.audio.FrameSource;
import ablecrate.dsp.Decibels;
import ablecrate.signal.AbComparison;
import java.io.IOException;
import java.util.function.Supplier;

/// Plays source, result or their difference, and goes from one to the other without a gap: all of them run on, and a short crossfade turns over.
final class SwitchedSource implements FrameSource {
    private static final int FADE = 256;

    private final AbComparison both;
    private final Supplier<CompareModel.Heard> heard;
    private final double resultGain, differenceGain;
    private final double[] weights = {1, 0, 0};
    private double[][] source, result;

    /// @param heard asked for every block, from the player's thread
    /// @param matchDb brings the result to the source's level
    /// @param liftDb makes the difference audible
    SwitchedSource(AbComparison both, Supplier<CompareModel.Heard> heard, double matchDb, double liftDb) {
        this.both = both;
        this.heard = heard;
        resultGain = Decibels.toFactor(matchDb);
        differenceGain = Decibels.toFactor(liftDb);
        source = new double[both.channels()][0];
        result = new double[both.channels()][0];
        for (CompareModel.Heard h : CompareModel.Heard.values())
            weights[h.ordinal()] = h == heard.get() ? 1 : 0;
    }

    @Override public int channels() { return both.channels(); }

    @Override public int rateHz() { return both.rateHz(); }

    @Override public long frames() { return both.frames(); }

    @Override public int read(double[][] planes, int at, int count) throws IOException {
        if (source[0].length < count) {
            source = new double[channels()][count];
            result = new double[channels()][count];
        }
        int n = both.read(source, result, count), now = heard.get().ordinal();
        for (int i = 0; i < n; i++) {
            for (int way = 0; way < weights.length; way++)
                weights[way] = Math.clamp(weights[way] + (way == now ? 1.0 : -1.0) / FADE, 0, 1);
            double sum = weights[0] + weights[1] + weights[2];
            for (int channel = 0; channel < planes.length; channel++) {
                double s = source[channel][i], r = result[channel][i] * resultGain;
                planes[channel][at + i] = (weights[0] * s + weights[1] * r + weights[2] * (s - r) * differenceGain) / sum;
            }
        }
        return n;
    }

    @Override public void close() throws IOException { both.close(); }
}
