package ablecrate.dsp;

import java.util.ArrayList;
import java.util.List;
import java.util.function.BiFunction;
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
    private static final int TILE = 8;

    private final Pass down, across;

    /// Whether a number of rows or columns can be transformed.
    static boolean isPossible(int count) {
        if (count < 1) return false;
        int rest = count;
        for (Radix radix : Radix.values())
            while (rest % radix.size == 0)
                rest /= radix.size;
        return rest == 1;
    }

    Fft(int rows, int columns) {
        if (!isPossible(rows) || !isPossible(columns)) throw new IllegalArgumentException("no transform of " + rows + " × " + columns);
        down = new Pass(rows, (place, k) -> twist(place, k, rows, columns));
        across = new Pass(columns, null);
    }

    /// The result `k` of all columns by `exp(−2πi kn / N)` in column n.
    private static FftStep twist(int row, int k, int rows, int columns) {
        double[] cos = new double[columns], sin = new double[columns];
        for (int n = 0; n < columns; n++) {
            double angle = -2 * Math.PI * (k * n % (rows * columns)) / (rows * columns);
            cos[n] = Math.cos(angle);
            sin[n] = Math.sin(angle);
        }
        return new FftStep.Twist(row, cos, sin);
    }

    int rows() { return down.rows; }

    int columns() { return across.rows; }

    int length() { return rows() * columns(); }

    /// `X[k] = Σ x[n] exp(−2πi kn / N)`, not scaled.
    /// @param from rows × columns; lost
    /// @param to columns × rows
    void forward(ComplexRows from, ComplexRows to) {
        down.run(from);
        transpose(from.re(), to.re());
        transpose(from.im(), to.im());
        across.run(to);
    }

    /// `x[n] = Σ X[k] exp(+2πi kn / N)`, not scaled: the forward transform with real and imaginary parts exchanged.
    void backward(ComplexRows from, ComplexRows to) { forward(from.exchanged(), to.exchanged()); }

    private static void run(FftStep[] steps, ComplexRows x) {
        for (FftStep step : steps)
            step.run(x.re(), x.im());
    }

    private static void transpose(double[][] from, double[][] to) {
        int row = 0;
        // A cache line's worth of rows at a time, so that both sides are read and written by whole lines.
        for (; row + TILE <= from.length; row += TILE)
            transpose(from, to, row);
        for (; row < from.length; row++)
            for (int q = 0; q < to.length; q++)
                to[q][row] = from[row][q];
    }

    private static void transpose(double[][] from, double[][] to, int row) {
        double[] a = from[row], b = from[row + 1], c = from[row + 2], d = from[row + 3], e = from[row + 4], f = from[row + 5], g = from[row + 6],
                h = from[row + 7];
        for (int q = 0; q < to.length; q++) {
            double[] into = to[q];
            into[row] = a[q];
            into[row + 1] = b[q];
            into[row + 2] = c[q];
            into[row + 3] = d[q];
            into[row + 4] = e[q];
            into[row + 5] = f[q];
            into[row + 6] = g[q];
            into[row + 7] = h[q];
        }
    }

    /// The transforms of all columns, of one number of rows.
    private static final class Pass {
        private final int rows;
        private final FftStep[] steps;
        /// `[k]`: the row in which result k comes to lie.
        private final int[] places;

        /// @param last what is still done with row `place` of a result `k`; null for nothing
        Pass(int rows, BiFunction<Integer, Integer, FftStep> last) {
            this.rows = rows;
            places = new int[rows];
            List<FftStep> planned = new ArrayList<>();
            plan(0, rows, 0, 1, planned, last);
            steps = planned.toArray(FftStep[]::new);
        }

        /// A part's butterflies, then those of its parts one after the other: what is small enough stays in the nearest cache.
        /// @param k of the part's first result; the next is `stride` on
        private void plan(int first, int size, int k, int stride, List<FftStep> planned, BiFunction<Integer, Integer, FftStep> last) {
            if (size == 1) {
                places[k] = first;
                if (last != null) planned.add(last.apply(first, k));
                return;
            }
            Radix radix = Stream.of(Radix.values()).filter(r -> size % r.size == 0).findFirst().orElseThrow();
            int gap = size / radix.size;
            for (int p = 0; p < gap; p++)
                radix.plan(first + p, gap, -2 * Math.PI * p / size, planned);
            for (int j = 0; j < radix.size; j++)
                plan(first + j * gap, gap, k + j * stride, stride * radix.size, planned, last);
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
