package ablecrate.dsp;

import java.util.ArrayList;
import java.util.List;

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
    private static final int TILE = 4;

    private final Pass down, across;
    /// Row k of the transformed columns by `exp(−2πi kn / N)` in column n.
    private final FftStep[] twists;

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
        down = new Pass(rows);
        across = columns == rows ? down : new Pass(columns);
        twists = new FftStep[rows];
        for (int k = 0; k < rows; k++) {
            double[] cos = new double[columns], sin = new double[columns];
            for (int n = 0; n < columns; n++) {
                double angle = -2 * Math.PI * (k * n % (rows * columns)) / (rows * columns);
                cos[n] = Math.cos(angle);
                sin[n] = Math.sin(angle);
            }
            twists[k] = new FftStep.Twist(k, cos, sin);
        }
    }

    int rows() { return down.rows; }

    int columns() { return across.rows; }

    int length() { return rows() * columns(); }

    /// `X[k] = Σ x[n] exp(−2πi kn / N)`, not scaled.
    /// @param from rows × columns; lost
    /// @param to columns × rows
    void forward(ComplexRows from, ComplexRows to) {
        down.run(from);
        run(twists, from);
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
        // Four rows at a time, so that both sides are read and written in pieces.
        for (; row + TILE <= from.length; row += TILE)
            transpose(from[row], from[row + 1], from[row + 2], from[row + 3], to, row);
        for (; row < from.length; row++)
            for (int q = 0; q < to.length; q++)
                to[q][row] = from[row][q];
    }

    private static void transpose(double[] a, double[] b, double[] c, double[] d, double[][] to, int row) {
        for (int q = 0; q < to.length; q++) {
            double[] into = to[q];
            into[row] = a[q];
            into[row + 1] = b[q];
            into[row + 2] = c[q];
            into[row + 3] = d[q];
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
            List<Radix> stages = new ArrayList<>();
            List<FftStep> planned = new ArrayList<>();
            int left = rows;
            for (Radix radix : Radix.values())
                for (; left % radix.size == 0; left /= radix.size) {
                    stages.add(radix);
                    int gap = left / radix.size;
                    for (int group = 0; group < rows; group += left)
                        for (int p = 0; p < gap; p++)
                            radix.plan(group + p, gap, -2 * Math.PI * p / left, planned);
                }
            steps = planned.toArray(FftStep[]::new);
            places = new int[rows];
            for (int k = 0; k < rows; k++) {
                int rest = k, size = rows;
                for (Radix radix : stages) {
                    size /= radix.size;
                    places[k] += rest % radix.size * size;
                    rest /= radix.size;
                }
            }
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
