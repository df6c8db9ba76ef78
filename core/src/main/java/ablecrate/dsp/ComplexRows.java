package ablecrate.dsp;

/// Complex numbers in rows, real and imaginary parts apart; number `n` lies in row `n / columns` at `n % columns`.
///
/// Each row is an array of its own. Loops over a column index then reach every array at that same index, which is what lets the
/// virtual machine compile them into vector instructions: two arrays are either the same or do not overlap.
///
/// @param re,im `[row][column]`; whoever transforms the numbers may exchange rows
record ComplexRows(double[][] re, double[][] im) {
    ComplexRows(int rows, int columns) { this(new double[rows][columns], new double[rows][columns]); }

    int rows() { return re.length; }

    int columns() { return re[0].length; }

    /// The same numbers, their real and imaginary parts exchanged.
    ComplexRows exchanged() { return new ComplexRows(im, re); }

    /// Copies a run of numbers into the rows of one of the parts.
    static void spread(double[] from, int at, double[][] rows) {
        for (double[] row : rows) {
            System.arraycopy(from, at, row, 0, row.length);
            at += row.length;
        }
    }

    /// Copies numbers `[first, first + count)` of the rows of one of the parts.
    static void gather(double[][] rows, int first, int count, double[] into, int at) {
        int columns = rows[0].length;
        for (int n = first; n < first + count;) {
            int column = n % columns, run = Math.min(columns - column, first + count - n);
            System.arraycopy(rows[n / columns], column, into, at + n - first, run);
            n += run;
        }
    }
}
