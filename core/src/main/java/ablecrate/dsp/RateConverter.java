package ablecrate.dsp;

import ablecrate.audio.FrameSource;
import java.io.IOException;
import java.util.Arrays;

/// Converts a stream to another rate: exact in time, any rational ratio, memory independent of length.
///
/// Frame `n` of the output is the source at `n * inputStep / outputStep` exactly, the length is
/// `ceil(frames * outputStep / inputStep)`. Before its start and after its end the source counts as silent.
///
/// Polyphase: one set of coefficients for each of the `outputStep` positions between input frames. Ratios with more
/// positions than [#MAX_EXACT_PHASES] interpolate coefficients between [#TABLE_PHASES] stored positions, by a cubic;
/// with 512 of them its error lies below −200 dB (9/384 · (2π · 0.475 / 512)⁴).
public final class RateConverter implements FrameSource {
    private static final int MAX_EXACT_PHASES = 1024, TABLE_PHASES = 512, BLOCK = 4096;

    private final FrameSource source;
    private final int rateHz, channels, reach, taps, phases;
    private final long inputStep, outputStep, frames;
    private final boolean isExact;
    /// `[phase * taps + tap]`; in a table for interpolation one row before and two after the phases.
    private final double[] coefficients;
    private final double[] row;
    /// `[channel][frame]`, frame 0 of it is `bufferStart` of the source.
    private final double[][] buffer;
    private long bufferStart, position;
    private int filled;

    /// From rate to rate.
    public static FrameSource to(int rateHz, FrameSource source) {
        if (rateHz == source.rateHz()) return source;
        return new RateConverter(source, rateHz, source.rateHz(), rateHz);
    }

    /// @param inputStep with `outputStep` the ratio `outputStep / inputStep` of output to input frames
    /// @param rateHz what the result is called; the ratio alone decides the sound
    public RateConverter(FrameSource source, long outputStep, long inputStep, int rateHz) {
        if (outputStep < 1 || inputStep < 1) throw new IllegalArgumentException("ratio " + outputStep + ":" + inputStep);
        long divisor = gcd(outputStep, inputStep);
        this.source = source;
        this.outputStep = outputStep / divisor;
        this.inputStep = inputStep / divisor;
        this.rateHz = rateHz;
        channels = source.channels();
        frames = lengthAfter(source.frames(), outputStep, inputStep);
        KaiserSinc kernel = new KaiserSinc((double) outputStep / inputStep);
        reach = kernel.reach();
        taps = 2 * reach;
        isExact = this.outputStep <= MAX_EXACT_PHASES;
        phases = isExact ? (int) this.outputStep : TABLE_PHASES;
        coefficients = table(kernel);
        row = new double[taps];
        buffer = new double[channels][taps + BLOCK];
        bufferStart = 1 - reach;
        filled = reach - 1; // silence before the first frame
    }

    /// `ceil(frames * outputStep / inputStep)`.
    public static long lengthAfter(long frames, long outputStep, long inputStep) { return Math.ceilDiv(Math.multiplyExact(frames, outputStep), inputStep); }

    private double[] table(KaiserSinc kernel) {
        int before = isExact ? 0 : 1, rows = isExact ? phases : phases + 3;
        double[] table = new double[rows * taps];
        for (int r = 0; r < rows; r++) {
            double fraction = (double) (r - before) / phases;
            for (int tap = 0; tap < taps; tap++)
                table[r * taps + tap] = kernel.at(tap - (reach - 1) - fraction);
        }
        return table;
    }

    @Override public int channels() { return channels; }

    @Override public int rateHz() { return rateHz; }

    @Override public long frames() { return frames; }

    @Override public int read(double[][] planes, int at, int count) throws IOException {
        int n = (int) Math.min(Math.min(count, BLOCK), frames - position);
        for (int i = 0; i < n; i++, position++) {
            long scaled = Math.multiplyExact(position, inputStep), whole = scaled / outputStep, rest = scaled - whole * outputStep;
            int first = (int) (whole - reach + 1 - bufferStart);
            if (first + taps > filled) {
                refill(first);
                first = (int) (whole - reach + 1 - bufferStart);
            }
            double[] set = coefficients;
            int from = (int) rest * taps;
            if (!isExact) {
                interpolate((double) rest / outputStep);
                set = row;
                from = 0;
            }
            for (int channel = 0; channel < channels; channel++)
                planes[channel][at + i] = dot(set, from, buffer[channel], first, taps);
        }
        return n;
    }

    /// Four sums, since one alone waits for each addition to finish.
    private static double dot(double[] a, int aFrom, double[] b, int bFrom, int count) {
        double s0 = 0, s1 = 0, s2 = 0, s3 = 0;
        int i = 0;
        for (; i + 3 < count; i += 4) {
            s0 += a[aFrom + i] * b[bFrom + i];
            s1 += a[aFrom + i + 1] * b[bFrom + i + 1];
            s2 += a[aFrom + i + 2] * b[bFrom + i + 2];
            s3 += a[aFrom + i + 3] * b[bFrom + i + 3];
        }
        for (; i < count; i++)
            s0 += a[aFrom + i] * b[bFrom + i];
        return s0 + s1 + (s2 + s3);
    }

    /// Cubic Lagrange between the two rows before and the two after a position.
    private void interpolate(double fraction) {
        double scaled = fraction * phases;
        int r = (int) scaled;
        double x = scaled - r;
        double c0 = -x * (x - 1) * (x - 2) / 6, c1 = (x + 1) * (x - 1) * (x - 2) / 2, c2 = -(x + 1) * x * (x - 2) / 2, c3 = (x + 1) * x * (x - 1) / 6;
        int at0 = r * taps, at1 = at0 + taps, at2 = at1 + taps, at3 = at2 + taps;
        for (int tap = 0; tap < taps; tap++)
            row[tap] = c0 * coefficients[at0 + tap] + c1 * coefficients[at1 + tap] + c2 * coefficients[at2 + tap] + c3 * coefficients[at3 + tap];
    }

    /// Drops what lies before `first` and fills up with what the source has, then with silence.
    private void refill(int first) throws IOException {
        // Going down by a large ratio the next frame can lie beyond all that is held.
        while (first > filled) {
            bufferStart += filled;
            first -= filled;
            filled = source.readFully(buffer, 0, buffer[0].length);
            if (filled == 0) break;
        }
        int keep = Math.max(0, filled - first), drop = Math.min(first, filled);
        for (double[] plane : buffer)
            System.arraycopy(plane, drop, plane, 0, keep);
        bufferStart += first;
        int got = source.readFully(buffer, keep, buffer[0].length - keep);
        filled = keep + got;
        if (filled < taps) {
            for (double[] plane : buffer)
                Arrays.fill(plane, filled, taps, 0);
            filled = taps;
        }
    }

    private static long gcd(long a, long b) { return b == 0 ? a : gcd(b, a % b); }

    @Override public void close() throws IOException { source.close(); }
}
