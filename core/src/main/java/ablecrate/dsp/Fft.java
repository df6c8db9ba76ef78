package ablecrate.dsp;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Stream;

/// The discrete Fourier transform of complex numbers in rows; both rows and columns are products of 2, 3, 5 and 7.
///
/// Columns are transformed first, all of them at once, so that every butterfly runs over whole rows. After one transposition the
/// same is done with what were rows, and the result lies in natural order, in as many rows as there were columns. Within a pass
/// everything stays in its place; what remains to be put in order are whole rows, which cost a reference each.
///
/// Sources: D. H. Bailey, *FFTs in external or hierarchical memory*, J. Supercomputing 4, 1990 (rows and columns); C. Van Loan,
/// *Computational Frameworks for the Fast Fourier Transform*, 1992, section 1.9 (decimation in frequency).
///
/// Immutable, safe for threads.
final class Fft {
    /// Rows that are transposed at once: as many as the processor has registers for.
    private static final int TILE = 4;
    private static final int LONGEST_KEPT = 1 << 14;
    private static final Map<Integer, Fft> KEPT = new ConcurrentHashMap<>();

    private final Pass down, across;
    /// `[k][2n]` and `[k][2n + 1]`: cosine and sine of `−2πkn / N`, which result `k` of column `n` is multiplied by.
    private final double[][] twists;

    /// Whether a number of rows or columns can be transformed.
    static boolean isPossible(int count) {
        if (count < 1) return false;
        int rest = count;
        for (Radix radix : Radix.values())
            while (rest % radix.size == 0)
                rest /= radix.size;
        return rest == 1;
    }

    /// A transform whose rows and columns are as near to each other as two powers of two come. Short ones are kept, as making them takes longer than one use.
    /// @param length a power of two
    static Fft ofLength(int length) { return length > LONGEST_KEPT ? made(length) : KEPT.computeIfAbsent(length, Fft::made); }

    private static Fft made(int length) {
        int rows = 1 << Integer.numberOfTrailingZeros(length) / 2;
        return new Fft(rows, length / rows);
    }

    Fft(int rows, int columns) {
        if (!isPossible(rows) || !isPossible(columns)) throw new IllegalArgumentException("no transform of " + rows + " × " + columns);
        down = new Pass(rows);
        across = new Pass(columns);
        twists = twists(rows, columns);
    }

    private static double[][] twists(int rows, int columns) {
        double[][] twists = new double[rows][2 * columns];
        for (int k = 0; k < rows; k++)
            for (int n = 0; n < columns; n++) {
                double angle = -2 * Math.PI * (k * n % (rows * columns)) / (rows * columns);
                twists[k][2 * n] = Math.cos(angle);
                twists[k][2 * n + 1] = Math.sin(angle);
            }
        return twists;
    }

    int rows() { return down.rows; }

    int columns() { return across.rows; }

    int length() { return rows() * columns(); }

    /// `X[k] = Σ x[n] exp(−2πi kn / N)`, not scaled.
    /// @param from rows × columns; lost
    /// @param to columns × rows
    void forward(ComplexRows from, ComplexRows to) {
        down.run(from);
        transpose(from.re(), from.im(), to.re(), to.im());
        across.run(to);
    }

    /// `x[n] = Σ X[k] exp(+2πi kn / N)`, not scaled: the forward transform with real and imaginary parts exchanged.
    void backward(ComplexRows from, ComplexRows to) { forward(from.exchanged(), to.exchanged()); }

    private static void run(FftStep[] steps, ComplexRows x) {
        for (FftStep step : steps)
            step.run(x.re(), x.im());
    }

    /// Each number is multiplied by its twist on the way, as it is at hand there.
    private void transpose(double[][] re, double[][] im, double[][] toRe, double[][] toIm) {
        int row = 0;
        for (; row + TILE <= re.length; row += TILE)
            transpose(re, im, twists, toRe, toIm, row);
        for (; row < re.length; row++)
            for (int q = 0; q < toRe.length; q++) {
                double r = re[row][q], i = im[row][q], c = twists[row][2 * q], s = twists[row][2 * q + 1];
                toRe[q][row] = r * c - i * s;
                toIm[q][row] = r * s + i * c;
            }
    }

    private static void transpose(double[][] re, double[][] im, double[][] twists, double[][] toRe, double[][] toIm, int row) {
        double[] r0 = re[row], r1 = re[row + 1], r2 = re[row + 2], r3 = re[row + 3];
        double[] i0 = im[row], i1 = im[row + 1], i2 = im[row + 2], i3 = im[row + 3];
        double[] t0 = twists[row], t1 = twists[row + 1], t2 = twists[row + 2], t3 = twists[row + 3];
        for (int q = 0; q < toRe.length; q++) {
            double[] intoRe = toRe[q], intoIm = toIm[q];
            int c = 2 * q, s = c + 1;
            // All are read before any is written: that the arrays do not overlap the compiler cannot know.
            double x0 = r0[q], x1 = r1[q], x2 = r2[q], x3 = r3[q], y0 = i0[q], y1 = i1[q], y2 = i2[q], y3 = i3[q];
            double c0 = t0[c], c1 = t1[c], c2 = t2[c], c3 = t3[c], s0 = t0[s], s1 = t1[s], s2 = t2[s], s3 = t3[s];
            intoRe[row] = x0 * c0 - y0 * s0;
            intoRe[row + 1] = x1 * c1 - y1 * s1;
            intoRe[row + 2] = x2 * c2 - y2 * s2;
            intoRe[row + 3] = x3 * c3 - y3 * s3;
            intoIm[row] = Math.fma(x0, s0, y0 * c0);
            intoIm[row + 1] = Math.fma(x1, s1, y1 * c1);
            intoIm[row + 2] = Math.fma(x2, s2, y2 * c2);
            intoIm[row + 3] = Math.fma(x3, s3, y3 * c3);
        }
    }

    /// The transforms of all columns, of one number of rows.
    private static final class Pass {
        private final int rows;
        private final FftStep[] steps;
        /// `[k]`: the row in which result k comes to lie.
        private final int[] places;

        Pass(int rows) {
            this.rows = rows;
            places = new int[rows];
            List<FftStep> planned = new ArrayList<>();
            plan(0, rows, 0, 1, planned);
            steps = planned.toArray(FftStep[]::new);
        }

        /// A part's butterflies, then those of its parts one after the other: what is small enough stays in the nearest cache.
        /// @param k of the part's first result; the next is `stride` on
        private void plan(int first, int size, int k, int stride, List<FftStep> planned) {
            if (size == 1) {
                places[k] = first;
                return;
            }
            Radix radix = Stream.of(Radix.values()).filter(r -> size % r.size == 0).findFirst().orElseThrow();
            int gap = size / radix.size;
            for (int p = 0; p < gap; p++)
                radix.plan(first + p, gap, -2 * Math.PI * p / size, planned);
            for (int j = 0; j < radix.size; j++)
                plan(first + j * gap, gap, k + j * stride, stride * radix.size, planned);
        }

        void run(ComplexRows x) {
            Fft.run(steps, x);
            order(x.re());
            order(x.im());
        }

        private void order(double[][] x) {
            double[][] placed = x.clone();
            for (int k = 0; k < rows; k++)
                x[k] = placed[places[k]];
        }
    }
}
