package ablecrate.dsp;

import ablecrate.audio.FrameSource;
import java.io.IOException;
import java.util.Arrays;
import jdk.incubator.vector.DoubleVector;
import jdk.incubator.vector.VectorSpecies;

/// Converts a stream by any rational ratio, one weighted sum of the source for each output frame; memory independent of length.
///
/// Frame `n` of the output is the source at `n * inputStep / outputStep` exactly, the length is `ceil(frames * outputStep / inputStep)`.
/// Before its start and after its end the source counts as silent.
final class PolyphaseConverter implements FrameSource {
    /// Fixed, so that sums are added in the same order on every machine.
    private static final VectorSpecies<Double> SPECIES = DoubleVector.SPECIES_256;
    private static final int BLOCK = 4096;

    private final FrameSource source;
    private final PolyphaseDesign design;
    private final int rateHz, channels, reach, taps, phases;
    private final long inputStep, outputStep, frames;
    private final double[] coefficients;
    private final double[] row;
    /// `[channel][frame]`, frame 0 of it is `bufferStart` of the source.
    private final double[][] buffer;
    private long bufferStart, position;
    private int filled;

    PolyphaseConverter(FrameSource source, PolyphaseDesign design, int rateHz) {
        this.source = source;
        this.design = design;
        this.rateHz = rateHz;
        channels = source.channels();
        reach = design.reach;
        taps = design.taps;
        phases = design.phases;
        inputStep = design.inputStep;
        outputStep = design.outputStep;
        coefficients = design.coefficients;
        frames = RateConverters.lengthAfter(source.frames(), outputStep, inputStep);
        row = new double[taps];
        buffer = new double[channels][taps + BLOCK];
        bufferStart = 1 - reach;
        filled = reach - 1; // silence before the first frame
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
            if (!design.isExact) {
                interpolate((double) rest / outputStep);
                set = row;
                from = 0;
            }
            for (int channel = 0; channel < channels; channel++)
                planes[channel][at + i] = dot(set, from, buffer[channel], first, taps);
        }
        return n;
    }

    /// Two vectors of sums, since one alone waits for each addition to finish.
    private static double dot(double[] a, int aFrom, double[] b, int bFrom, int count) {
        DoubleVector s0 = DoubleVector.zero(SPECIES), s1 = s0;
        int i = 0, step = 2 * SPECIES.length();
        for (; i + step <= count; i += step) {
            s0 = DoubleVector.fromArray(SPECIES, a, aFrom + i).mul(DoubleVector.fromArray(SPECIES, b, bFrom + i)).add(s0);
            s1 = DoubleVector.fromArray(SPECIES, a, aFrom + i + SPECIES.length()).mul(DoubleVector.fromArray(SPECIES, b, bFrom + i + SPECIES.length())).add(s1);
        }
        DoubleVector s = s0.add(s1);
        // Lane by lane: a reduction may add in another order once it is compiled.
        double sum = s.lane(0) + s.lane(1) + (s.lane(2) + s.lane(3));
        for (; i < count; i++)
            sum += a[aFrom + i] * b[bFrom + i];
        return sum;
    }

    /// Cubic Lagrange between the two rows before and the two after a position.
    private void interpolate(double fraction) {
        double scaled = fraction * phases;
        int r = (int) scaled;
        double x = scaled - r;
        double c0 = -x * (x - 1) * (x - 2) / 6, c1 = (x + 1) * (x - 1) * (x - 2) / 2, c2 = -(x + 1) * x * (x - 2) / 2, c3 = (x + 1) * x * (x - 1) / 6;
        int at0 = r * taps, at1 = at0 + taps, at2 = at1 + taps, at3 = at2 + taps;
        int tap = 0;
        for (; tap + SPECIES.length() <= taps; tap += SPECIES.length())
            load(at0 + tap).mul(c0).add(load(at1 + tap).mul(c1)).add(load(at2 + tap).mul(c2)).add(load(at3 + tap).mul(c3)).intoArray(row, tap);
        for (; tap < taps; tap++)
            row[tap] = c0 * coefficients[at0 + tap] + c1 * coefficients[at1 + tap] + c2 * coefficients[at2 + tap] + c3 * coefficients[at3 + tap];
    }

    private DoubleVector load(int at) { return DoubleVector.fromArray(SPECIES, coefficients, at); }

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

    @Override public void close() throws IOException { source.close(); }
}
