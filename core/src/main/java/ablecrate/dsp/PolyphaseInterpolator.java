package ablecrate.dsp;

import ablecrate.audio.FrameSource;
import java.io.IOException;
import java.util.Arrays;

/// Reads a stream that holds nothing above a quarter of its rate at any evenly spaced instants: one weighted sum of its frames for each.
///
/// As the stream is oversampled, [#TAPS] frames are enough for [#ATTENUATION_DB]. Their weights are interpolated by a cubic between the
/// [#PHASES] rows of a table; the error of that lies below −200 dB (Lagrange's remainder, 3/128 · (2π · 0.5 / 512)⁴).
final class PolyphaseInterpolator implements FrameSource {
    /// The highest frequency that the stream may hold, in cycles per frame.
    static final double HIGHEST = 0.25;
    private static final double ATTENUATION_DB = 200;
    private static final int PHASES = 512, BLOCK = 4096;
    private static final KaiserSinc KERNEL = new KaiserSinc(HIGHEST, 1 - HIGHEST, ATTENUATION_DB);
    /// Frames of the stream on each side of an instant that take part.
    static final int REACH = KERNEL.reach();
    private static final int TAPS = 2 * REACH;

    /// `[1 + phase][tap]`: one row before and two after the phases.
    private static final double[][] TABLE = new double[PHASES + 3][TAPS];
    static {
        for (int row = 0; row < TABLE.length; row++) {
            double sum = 0;
            for (int tap = 0; tap < TAPS; tap++)
                sum += TABLE[row][tap] = KERNEL.at(tap - (REACH - 1) - (row - 1.0) / PHASES);
            for (int tap = 0; tap < TAPS; tap++)
                TABLE[row][tap] /= sum; // exactly 1 at DC
        }
    }

    private final FrameSource source;
    private final long wholeStep, restStep, divisor, frames;
    private final double phasesPerRest;
    private final int rateHz;
    private final double[] weights = new double[TAPS];
    /// `[channel][frame]`, frame 0 of it is `bufferStart` of the source.
    private final double[][] buffer;
    private long bufferStart, position;
    private int filled;
    /// The first of the source's frames that the next frame is made of, and the part of a frame, in 1/`divisor`, that it lies further.
    private long from, rest;

    /// @param source from `first` on, which is at least [#REACH], frame n of the result is its frame `first + n * step / divisor`; behind its end it counts as silent
    /// @param rateHz what the result is called
    PolyphaseInterpolator(FrameSource source, long first, long step, long divisor, long frames, int rateHz) {
        this.source = source;
        this.wholeStep = step / divisor;
        this.restStep = step % divisor;
        this.divisor = divisor;
        this.phasesPerRest = (double) PHASES / divisor;
        this.from = first - (REACH - 1);
        this.frames = frames;
        this.rateHz = rateHz;
        buffer = new double[source.channels()][TAPS + BLOCK];
    }

    @Override public int channels() { return buffer.length; }

    @Override public int rateHz() { return rateHz; }

    @Override public long frames() { return frames; }

    @Override public int read(double[][] planes, int at, int count) throws IOException {
        int n = (int) Math.min(Math.min(count, BLOCK), frames - position);
        for (int i = 0; i < n; i++, position++) {
            if (from + TAPS > bufferStart + filled) refill();
            weigh(rest * phasesPerRest);
            for (int channel = 0; channel < buffer.length; channel++)
                planes[channel][at + i] = dot(weights, buffer[channel], (int) (from - bufferStart));
            from += wholeStep;
            rest += restStep;
            if (rest >= divisor) {
                rest -= divisor;
                from++;
            }
        }
        return n;
    }

    @Override public long skip(long count) {
        long wanted = Math.min(count, frames - position);
        for (long left = wanted, n; left > 0; left -= n) {
            // So few that no product leaves the 64 bits.
            n = Math.min(left, SKIPPED_AT_ONCE);
            long rests = rest + n * restStep;
            from += n * wholeStep + rests / divisor;
            rest = rests % divisor;
        }
        position += wanted;
        return wanted;
    }

    /// Cubic Lagrange between the two rows before and the two after a position.
    private void weigh(double phase) {
        int row = (int) phase;
        double x = phase - row;
        double c0 = -x * (x - 1) * (x - 2) / 6, c1 = (x + 1) * (x - 1) * (x - 2) / 2, c2 = -(x + 1) * x * (x - 2) / 2, c3 = (x + 1) * x * (x - 1) / 6;
        blend(c0, TABLE[row], c1, TABLE[row + 1], c2, TABLE[row + 2], c3, TABLE[row + 3], weights);
    }

    private static void blend(double c0, double[] r0, double c1, double[] r1, double c2, double[] r2, double c3, double[] r3, double[] to) {
        for (int tap = 0; tap < to.length; tap++)
            to[tap] = c0 * r0[tap] + c1 * r1[tap] + c2 * r2[tap] + c3 * r3[tap];
    }

    /// Four sums, since one alone waits for each addition to finish.
    private static double dot(double[] weights, double[] x, int at) {
        double s0 = 0, s1 = 0, s2 = 0, s3 = 0;
        int tap = 0;
        for (; tap + 4 <= weights.length; tap += 4) {
            s0 += weights[tap] * x[at + tap];
            s1 += weights[tap + 1] * x[at + tap + 1];
            s2 += weights[tap + 2] * x[at + tap + 2];
            s3 += weights[tap + 3] * x[at + tap + 3];
        }
        for (; tap < weights.length; tap++)
            s0 += weights[tap] * x[at + tap];
        return s0 + s1 + (s2 + s3);
    }

    /// Drops what lies before `from` and fills up with what the source has, then with silence.
    private void refill() throws IOException {
        // After frames that were skipped, and going down by a large ratio, the next one can lie beyond all that is held.
        if (from > bufferStart + filled) {
            bufferStart += filled + source.skip(from - bufferStart - filled);
            filled = 0;
        }
        int drop = (int) Math.min(from - bufferStart, filled), keep = filled - drop;
        for (double[] plane : buffer)
            System.arraycopy(plane, drop, plane, 0, keep);
        bufferStart = from;
        filled = keep + source.readFully(buffer, keep, buffer[0].length - keep);
        for (double[] plane : buffer)
            Arrays.fill(plane, filled, plane.length, 0);
        filled = Math.max(filled, TAPS);
    }

    @Override public void close() throws IOException { source.close(); }
}
