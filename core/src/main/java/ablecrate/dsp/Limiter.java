package ablecrate.dsp;

import ablecrate.audio.FrameSource;
import java.io.IOException;
import java.util.Arrays;

/// Holds the true peaks of a stream at a ceiling; what stays below it passes bit for bit.
///
/// All channels share one gain, so that the image stands. For each frame the gain that its peaks need is found, between samples as
/// well. It recovers slowly, so that it does not follow the wave itself; of the next few milliseconds the lowest is taken, and that is
/// smoothed over the same time: the gain is down when the peak comes, without a corner that would be heard. The smoothed
/// gain is a mean of values none of which lies above what is needed, so the ceiling holds.
///
/// Delay is removed. Memory independent of length. One reader; not for two threads.
public final class Limiter implements FrameSource {
    private static final double LOOKAHEAD_MS = 4, RECOVERY_MS = 90;
    /// Held below the ceiling, for what a reading at four times the rate misses and for the gain's slope between samples.
    private static final double MARGIN_DB = 0.05;
    /// How far what cannot be told between samples may raise a peak, in parts of what there is of it: found with white noise.
    private static final double UNTOLD = 3;
    /// Nearer to 1 than a thousandth of a decibel, the gain is 1 again.
    private static final double RECOVERED = 1e-4;
    private static final int BLOCK = 2048, PIECE = 64, BEFORE = Oversampler.BEFORE + 1;

    private final FrameSource source;
    private final boolean betweenSamples;
    private final double ceiling, recovery;
    private final int lookahead, firstMean, secondMean;
    /// `[channel][frame]`; frame `BEFORE` is frame `position` of the stream.
    private final double[][] audio;
    /// What is needed with recovery, and then the lowest ahead; frame `lookahead` is frame `position`.
    private final double[] recovering, lowest, sums, gains, peaks;
    private final Oversampler oversampler = new Oversampler(PIECE);
    private final int[] queue;
    private long position;
    private int filled, ready, readyAt;
    private boolean started;
    private double last = 1, deepest = 1;

    /// Holds true peaks.
    public Limiter(FrameSource source, double ceilingDbtp) { this(source, Decibels.toFactor(ceilingDbtp - MARGIN_DB), true); }

    /// Holds samples alone at full scale, for what an integer would cut off: what lies higher between samples stays.
    public static Limiter atFullScale(FrameSource source) { return new Limiter(source, 1, false); }

    private Limiter(FrameSource source, double ceiling, boolean betweenSamples) {
        this.source = source;
        this.ceiling = ceiling;
        this.betweenSamples = betweenSamples;
        recovery = Math.exp(-1000 / (RECOVERY_MS * source.rateHz()));
        lookahead = Math.max(2 * Oversampler.TAPS, (int) Math.round(LOOKAHEAD_MS * source.rateHz() / 1000));
        firstMean = lookahead / 2;
        secondMean = lookahead - firstMean;
        audio = new double[source.channels()][BEFORE + BLOCK + lookahead + Oversampler.AFTER + PIECE];
        peaks = new double[Math.max(BLOCK, lookahead) + PIECE];
        int length = BLOCK + 2 * lookahead;
        recovering = new double[length];
        Arrays.fill(recovering, 1);
        lowest = new double[length];
        gains = new double[length];
        sums = new double[length + 1];
        queue = new int[length];
    }

    @Override public int channels() { return source.channels(); }

    @Override public int rateHz() { return source.rateHz(); }

    @Override public long frames() { return source.frames(); }

    /// The deepest that peaks were lowered so far, in dB; 0 where none were.
    public double deepestDb() { return -Decibels.ofFactor(deepest); }

    @Override public int read(double[][] planes, int at, int count) throws IOException {
        if (readyAt == ready) next();
        int n = Math.min(count, ready - readyAt);
        for (int channel = 0; channel < planes.length; channel++) {
            double[] from = audio[channel], to = planes[channel];
            for (int i = 0; i < n; i++) {
                double gain = gains[lookahead + readyAt + i];
                to[at + i] = gain == 1 ? from[BEFORE + readyAt + i] : from[BEFORE + readyAt + i] * gain;
            }
        }
        readyAt += n;
        return n;
    }

    /// Makes the gains of the next block.
    private void next() throws IOException {
        if (!started) {
            started = true;
            filled = BEFORE; // silence before the first frame
            fill();
            need(0, lookahead);
        } else {
            position += ready;
            for (double[] plane : audio)
                System.arraycopy(plane, ready, plane, 0, filled - ready);
            filled -= ready;
            System.arraycopy(recovering, ready, recovering, 0, 2 * lookahead);
            fill();
        }
        need(lookahead, BLOCK);
        ready = (int) Math.min(BLOCK, frames() - position);
        readyAt = 0;
        smooth();
    }

    /// As much of the source as there is room for, then silence.
    private void fill() throws IOException {
        int room = audio[0].length, got = source.readFully(audio, filled, room - filled);
        for (double[] plane : audio)
            Arrays.fill(plane, filled + got, room, 0);
        filled = room;
    }

    /// The gains that `count` frames need, from `from` frames after `position` on.
    private void need(int from, int count) {
        Arrays.fill(peaks, 0, count + 1, 0);
        for (double[] plane : audio)
            for (int piece = 0; piece < count; piece += PIECE)
                peaks(plane, BEFORE + from + piece, Math.min(PIECE, count - piece), piece);
        for (int i = 0; i < count; i++) {
            double needed = peaks[i] > ceiling ? ceiling / peaks[i] : 1, recovered = last > 1 - RECOVERED ? 1 : 1 - (1 - last) * recovery;
            last = Math.min(needed, recovered);
            recovering[lookahead + from + i] = last;
        }
    }

    /// Raises `peaks[into …]` to the peaks around the frames of one channel.
    private void peaks(double[] x, int at, int count, int into) {
        if (!betweenSamples) {
            for (int i = 0; i < count; i++)
                peaks[into + i] = Math.max(peaks[into + i], Math.abs(x[at + i]));
            return;
        }
        double highest = Oversampler.highest(x, at - BEFORE, count + BEFORE + Oversampler.AFTER);
        if (highest * Oversampler.BOUND <= ceiling) return;
        oversampler.between(x, at, count);
        oversampler.heights(x, at, count);
        double near = ceiling / Oversampler.NEAR;
        for (int i = 0; i < count; i++) {
            double peak = oversampler.mayPeak(x, at, i, count, near)
                    ? Oversampler.peak(x, at + i) + UNTOLD * Oversampler.besideNyquist(x, at + i)
                    : oversampler.height(i);
            // A peak between two frames concerns both.
            peaks[into + i] = Math.max(peaks[into + i], peak);
            peaks[into + i + 1] = Math.max(peaks[into + i + 1], peak);
        }
    }

    private void smooth() {
        int length = recovering.length;
        boolean isIdle = true;
        for (int i = 0; i < length && isIdle; i++)
            isIdle = recovering[i] == 1;
        if (isIdle) {
            Arrays.fill(gains, 1);
            return;
        }
        // lowest[i] = min of recovering[i … i + lookahead], by a queue of rising values.
        int head = 0, tail = 0;
        for (int i = 0, end = 0; i < length - lookahead; i++) {
            for (; end <= i + lookahead; end++) {
                while (tail > head && recovering[queue[tail - 1]] >= recovering[end])
                    tail--;
                queue[tail++] = end;
            }
            while (queue[head] < i)
                head++;
            lowest[i] = recovering[queue[head]];
        }
        mean(lowest, length - lookahead, firstMean, gains);
        System.arraycopy(gains, 0, lowest, 0, length - lookahead);
        mean(lowest, length - lookahead, secondMean, gains);
        for (int i = lookahead; i < lookahead + ready; i++) {
            if (gains[i] > 1 - 1e-12) gains[i] = 1; // what sums of fractions leave behind
            deepest = Math.min(deepest, gains[i]);
        }
    }

    /// `to[i]` = mean of `from[i - before … i]`, as far as there is so much.
    private void mean(double[] from, int count, int before, double[] to) {
        sums[0] = 0;
        for (int i = 0; i < count; i++)
            sums[i + 1] = sums[i] + from[i];
        for (int i = 0; i < count; i++) {
            int first = Math.max(0, i - before);
            to[i] = (sums[i + 1] - sums[first]) / (i + 1 - first);
        }
    }

    @Override public void close() throws IOException { source.close(); }
}
