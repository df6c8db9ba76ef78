package ablecrate.dsp;

import java.util.Arrays;

/// The three points between two samples, at a quarter, a half and three quarters, by a windowed sinc; for finding peaks between samples.
///
/// Two lengths: 48 coefficients a phase, for all samples, find where a peak may be; 512 and eight points, at these places alone, say how high it is. The short ones read up to
/// 0.7 dB wrong where a sound reaches up to Nyquist (white noise, a tone at 0.47 of the rate), the long ones 0.03 dB in tones, and 0.1 dB on the mean in white noise.
///
/// Source: ITU-R BS.1770-5, annex 2 (at least four times; 12 coefficients a phase there).
final class Oversampler {
    static final int FACTOR = 4, TAPS = 48, LONG = 512;
    private static final int LONG_FACTOR = 8;
    /// Samples before and after a point that it is made of, at most.
    static final int BEFORE = LONG / 2 - 1, AFTER = LONG / 2;
    private static final int SHORT_BEFORE = TAPS / 2 - 1;
    /// Of the Kaiser windows: the short one has a ripple of 0.02 dB, the long one reaches closer to Nyquist.
    private static final double SHAPE = 5, LONG_SHAPE = 4;
    /// Where the short coefficients find less than the height sought by this factor, there is no such peak.
    static final double NEAR = 1.35;

    /// `[phase - 1][tap]`
    private static final double[][] SETS = sets(TAPS, FACTOR, SHAPE), LONG_SETS = sets(LONG, LONG_FACTOR, LONG_SHAPE);
    /// No point between samples is further from 0 than this times the farthest sample around it; with room for a parabola's top above the points it goes
    /// through, and for what the short coefficients miss.
    static final double BOUND = Arrays.stream(SETS).mapToDouble(set -> Arrays.stream(set).map(Math::abs).sum()).max().orElseThrow() * NEAR;

    private static double[][] sets(int taps, int factor, double shape) {
        double[][] sets = new double[factor - 1][taps];
        for (int phase = 1; phase < factor; phase++) {
            double total = 0;
            for (int tap = 0; tap < taps; tap++) {
                double x = tap - (taps / 2 - 1) - (double) phase / factor, window = KaiserSinc.window(x / (taps / 2.0), shape);
                total += sets[phase - 1][tap] = window * Math.sin(Math.PI * x) / (Math.PI * x);
            }
            for (int tap = 0; tap < taps; tap++)
                sets[phase - 1][tap] /= total;
        }
        return sets;
    }

    /// Coefficients that are added up in one loop.
    private static final int TOGETHER = 8;

    /// The samples as each coefficient sees them, so that all arrays of a loop have one index, see [ComplexRows].
    private final double[][] shifted;
    private final double[][] points;
    private final double[] heights;

    /// @param capacity the most samples at a time
    Oversampler(int capacity) {
        shifted = new double[TOGETHER][capacity];
        points = new double[FACTOR - 1][capacity];
        heights = new double[capacity];
    }

    /// What lies after samples `[from, from + count)` of `x`; `BEFORE` samples before them and `AFTER` behind must be there.
    /// @return `[phase - 1][i]`, good until the next call
    double[][] between(double[] x, int from, int count) {
        for (double[] point : points)
            Arrays.fill(point, 0, count, 0);
        for (int tap = 0; tap < TAPS; tap += TOGETHER) {
            for (int t = 0; t < TOGETHER; t++)
                System.arraycopy(x, from - SHORT_BEFORE + tap + t, shifted[t], 0, count);
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

    /// Makes of the points that [#between] gave the height of each sample and what lies between it and the next.
    void heights(double[] x, int from, int count) {
        double[] p1 = points[0], p2 = points[1], p3 = points[2];
        for (int i = 0; i < count; i++)
            heights[i] = Math.max(Math.max(Math.abs(x[from + i]), Math.abs(p1[i])), Math.max(Math.abs(p2[i]), Math.abs(p3[i])));
    }

    double height(int i) { return heights[i]; }

    /// Whether a peak of some height may lie at sample `from + i` of `x` or before the next: it is higher than its neighbours, or the signal turns over
    /// from one sample to the next, as it does where it reaches Nyquist, and the short coefficients cannot tell which of them is.
    /// @param near see [#NEAR]
    boolean mayPeak(double[] x, int from, int i, int count, double near) {
        if (heights[i] <= near) return false;
        boolean isTop = (i == 0 || heights[i] >= heights[i - 1]) && (i == count - 1 || heights[i] >= heights[i + 1]);
        return isTop || x[from + i] * x[from + i + 1] < 0 || x[from + i] * x[from + i - 1] < 0;
    }

    /// The highest peak at sample `at` of `x` and from there to the next, by the long coefficients; `BEFORE + 1` samples before and `AFTER` behind must be there.
    static double peak(double[] x, int at) {
        double before = Math.abs(at(LONG_SETS[LONG_FACTOR - 2], x, at - 1)), middle = Math.abs(x[at]), highest = middle;
        for (int phase = 1; phase <= LONG_FACTOR; phase++) {
            double after = phase == LONG_FACTOR ? Math.abs(x[at + 1]) : Math.abs(at(LONG_SETS[phase - 1], x, at));
            if (middle >= before && middle >= after) highest = Math.max(highest, top(before, middle, after));
            before = middle;
            middle = after;
        }
        return highest;
    }

    /// How much of a sound around sample `at` lies so near to Nyquist that the long coefficients cannot tell where it goes between samples: the mean of what
    /// changes its sign from each sample to the next.
    static double besideNyquist(double[] x, int at) {
        double even = 0, odd = 0;
        for (int i = at - BEFORE - 1; i < at + AFTER - 1; i += 2) {
            even += x[i];
            odd += x[i + 1];
        }
        return Math.abs(even - odd) / LONG;
    }

    private static double at(double[] set, double[] x, int at) {
        int first = at - BEFORE;
        double s0 = 0, s1 = 0, s2 = 0, s3 = 0;
        for (int tap = 0; tap < LONG; tap += 4) {
            s0 += set[tap] * x[first + tap];
            s1 += set[tap + 1] * x[first + tap + 1];
            s2 += set[tap + 2] * x[first + tap + 2];
            s3 += set[tap + 3] * x[first + tap + 3];
        }
        return s0 + s1 + (s2 + s3);
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
