package ablecrate.dsp;

import jdk.incubator.vector.DoubleVector;
import jdk.incubator.vector.VectorOperators;
import jdk.incubator.vector.VectorSpecies;

/// The three points between two samples, at a quarter, a half and three quarters, by a windowed sinc; for finding peaks between samples.
///
/// Source: ITU-R BS.1770-5, annex 2 (at least four times; 12 coefficients a phase there, 48 here, which reads true closer to Nyquist).
final class Oversampler {
    static final int FACTOR = 4, TAPS = 48;
    /// Samples before and after a point that it is made of.
    static final int BEFORE = TAPS / 2 - 1, AFTER = TAPS / 2;
    private static final VectorSpecies<Double> SPECIES = DoubleVector.SPECIES_256;
    /// Of the Kaiser window: ripple of 0.02 dB.
    private static final double SHAPE = 5;
    private static final int LANES = SPECIES.length();

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

    private Oversampler() {}

    /// Fills `points[phase - 1][i]` with what lies after sample `from + i` of `x`; that and `BEFORE` samples before, `AFTER` behind must be there.
    /// @param count a multiple of 8; so many are computed
    static void between(double[] x, int from, int count, double[][] points) {
        for (int phase = 0; phase < FACTOR - 1; phase++) {
            double[] set = SETS[phase], out = points[phase];
            for (int i = 0; i < count; i += 2 * LANES) {
                DoubleVector a = DoubleVector.zero(SPECIES), b = a;
                int at = from + i - BEFORE;
                for (int tap = 0; tap < TAPS; tap++) {
                    DoubleVector h = DoubleVector.broadcast(SPECIES, set[tap]);
                    a = DoubleVector.fromArray(SPECIES, x, at + tap).fma(h, a);
                    b = DoubleVector.fromArray(SPECIES, x, at + tap + LANES).fma(h, b);
                }
                a.intoArray(out, i);
                b.intoArray(out, i + LANES);
            }
        }
    }

    /// The farthest from 0 among `count` samples.
    static double highest(double[] x, int from, int count) {
        DoubleVector most = DoubleVector.zero(SPECIES);
        int i = 0;
        for (; i + LANES <= count; i += LANES)
            most = DoubleVector.fromArray(SPECIES, x, from + i).abs().max(most);
        double highest = most.reduceLanes(VectorOperators.MAX);
        for (; i < count; i++)
            highest = Math.max(highest, Math.abs(x[from + i]));
        return highest;
    }

    /// The top of the parabola through three neighbouring heights, the middle one the highest.
    static double top(double before, double middle, double after) {
        double bend = before - 2 * middle + after;
        return bend < 0 ? middle - (before - after) * (before - after) / (8 * bend) : middle;
    }
}
