package ablecrate.dsp;

import java.util.Arrays;

/// The three points between two samples, at a quarter, a half and three quarters, by a windowed sinc; for finding peaks between samples.
///
/// Source: ITU-R BS.1770-5, annex 2 (at least four times; 12 coefficients a phase there, 48 here, which reads true closer to Nyquist).
final class Oversampler {
    static final int FACTOR = 4, TAPS = 48;
    /// Samples before and after a point that it is made of.
    static final int BEFORE = TAPS / 2 - 1, AFTER = TAPS / 2;
    /// Of the Kaiser window: ripple of 0.02 dB.
    private static final double SHAPE = 5;

    /// `[phase - 1][tap]`
    private static final double[][] SETS = new double[FACTOR - 1][TAPS];
    /// No point between samples is further from 0 than this times the farthest sample around it.
    static final double BOUND;
    static {
        double bound = 1;
        for (int phase = 1; phase < FACTOR; phase++) {
            double total = 0, spread = 0;
            for (int tap = 0; tap < TAPS; tap++) {
                double x = tap - BEFORE - (double) phase / FACTOR, window = KaiserSinc.window(x / (TAPS / 2.0), SHAPE);
                total += SETS[phase - 1][tap] = window * Math.sin(Math.PI * x) / (Math.PI * x);
            }
            for (int tap = 0; tap < TAPS; tap++)
                spread += Math.abs(SETS[phase - 1][tap] /= total);
            bound = Math.max(bound, spread);
        }
        // Room for a parabola's top above the points it goes through.
        BOUND = bound * 1.1;
    }

    /// Coefficients that are added up in one loop.
    private static final int TOGETHER = 8;

    /// The samples as each coefficient sees them, so that all arrays of a loop have one index, see [ComplexRows].
    private final double[][] shifted;
    private final double[][] points;

    /// @param capacity the most samples at a time
    Oversampler(int capacity) {
        shifted = new double[TOGETHER][capacity];
        points = new double[FACTOR - 1][capacity];
    }

    /// What lies after samples `[from, from + count)` of `x`; `BEFORE` samples before them and `AFTER` behind must be there.
    /// @return `[phase - 1][i]`, good until the next call
    double[][] between(double[] x, int from, int count) {
        for (double[] point : points)
            Arrays.fill(point, 0, count, 0);
        for (int tap = 0; tap < TAPS; tap += TOGETHER) {
            for (int t = 0; t < TOGETHER; t++)
                System.arraycopy(x, from - BEFORE + tap + t, shifted[t], 0, count);
            for (int phase = 0; phase < FACTOR - 1; phase++)
                addUp(SETS[phase], tap, shifted, points[phase], count);
        }
        return points;
    }

    private static void addUp(double[] set, int tap, double[][] shifted, double[] to, int count) {
        double[] x0 = shifted[0], x1 = shifted[1], x2 = shifted[2], x3 = shifted[3], x4 = shifted[4], x5 = shifted[5], x6 = shifted[6], x7 = shifted[7];
        double h0 = set[tap], h1 = set[tap + 1], h2 = set[tap + 2], h3 = set[tap + 3], h4 = set[tap + 4], h5 = set[tap + 5], h6 = set[tap + 6],
                h7 = set[tap + 7];
        for (int i = 0; i < count; i++)
            to[i] = to[i] + h0 * x0[i] + h1 * x1[i] + h2 * x2[i] + h3 * x3[i] + h4 * x4[i] + h5 * x5[i] + h6 * x6[i] + h7 * x7[i];
    }

    /// The farthest from 0 among `count` samples.
    static double highest(double[] x, int from, int count) {
        double highest = 0;
        for (int i = from; i < from + count; i++) {
            double distance = Math.abs(x[i]);
            if (distance > highest) highest = distance;
        }
        return highest;
    }

    /// The top of the parabola through three neighbouring heights, the middle one the highest.
    static double top(double before, double middle, double after) {
        double bend = before - 2 * middle + after;
        return bend < 0 ? middle - (before - after) * (before - after) / (8 * bend) : middle;
    }
}
