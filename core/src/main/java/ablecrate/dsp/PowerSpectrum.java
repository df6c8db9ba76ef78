package ablecrate.dsp;

import java.util.Arrays;

/// The power of a stretch of sound by frequency, seen through a Hann window. One per thread.
public final class PowerSpectrum {
    private final Fft fft;
    private final int length;
    private final double[] window, windowed;
    private final ComplexRows block, bins;

    /// @param length of the window in frames, a power of two from 64
    public PowerSpectrum(int length) {
        if (length < 64 || Integer.bitCount(length) != 1) throw new IllegalArgumentException("no window of " + length + " frames");
        this.length = length;
        fft = Fft.ofLength(length);
        block = new ComplexRows(fft.rows(), fft.columns());
        bins = new ComplexRows(fft.columns(), fft.rows());
        windowed = new double[length];
        window = new double[length];
        for (int i = 0; i < length; i++)
            window[i] = 0.5 - 0.5 * Math.cos(2 * Math.PI * i / length);
    }

    public int length() { return length; }

    /// From 0 Hz to half the rate.
    public int bins() { return length / 2 + 1; }

    /// What a sine of amplitude 1 has in its bin.
    public double fullScale() { return length / 4.0 * (length / 4.0); }

    /// Adds the powers of a stretch.
    /// @param plane samples; those outside of it count as silence
    /// @param from index of the window's first frame, below 0 where it begins before them
    /// @param weight by which powers are multiplied
    /// @param power one value a bin, added to
    public void add(double[] plane, int from, double weight, double[] power) {
        window(plane, from, block.re());
        for (double[] row : block.im())
            Arrays.fill(row, 0);
        fft.forward(block, bins);
        int shift = Integer.numberOfTrailingZeros(fft.rows()), mask = fft.rows() - 1;
        for (int k = 0; k < bins(); k++) {
            double re = bins.re()[k >> shift][k & mask], im = bins.im()[k >> shift][k & mask];
            power[k] += (re * re + im * im) * weight;
        }
    }

    /// Adds the powers of two stretches at once: one transform tells both apart, as each is real.
    /// Source: W. H. Press et al., *Numerical Recipes*, 3rd edition, section 12.3 (two real functions in one transform).
    /// @param powerA,powerB one value a bin, added to
    public void add(double[] planeA, int fromA, double[] planeB, int fromB, double[] powerA, double[] powerB) {
        window(planeA, fromA, block.re());
        window(planeB, fromB, block.im());
        fft.forward(block, bins);
        int columns = fft.rows(), rows = fft.columns();
        // Bin k stands in row k / columns; its mirror, length − k, in the row as far from the end, and for the first bin of a row in the one behind that.
        for (int row = 0; row <= rows / 2; row++) {
            add(row, 0, rows - row & rows - 1, 0, powerA, powerB);
            for (int column = 1; column < columns && row < rows / 2; column++)
                add(row, column, rows - 1 - row, columns - column, powerA, powerB);
        }
    }

    private void add(int row, int column, int mirrorRow, int mirrorColumn, double[] powerA, double[] powerB) {
        double re = bins.re()[row][column], im = bins.im()[row][column], mirrorRe = bins.re()[mirrorRow][mirrorColumn],
                mirrorIm = bins.im()[mirrorRow][mirrorColumn];
        double evenRe = re + mirrorRe, oddIm = im - mirrorIm, evenIm = im + mirrorIm, oddRe = mirrorRe - re;
        int k = row * fft.rows() + column;
        powerA[k] += (evenRe * evenRe + oddIm * oddIm) / 4;
        powerB[k] += (evenIm * evenIm + oddRe * oddRe) / 4;
    }

    private void window(double[] plane, int from, double[][] rows) {
        int columns = rows[0].length, first = Math.max(0, -from), last = Math.clamp(plane.length - from, 0, length);
        if (first > 0 || last < length) {
            Arrays.fill(windowed, 0);
            for (int i = first; i < last; i++)
                windowed[i] = plane[from + i] * window[i];
            ComplexRows.spread(windowed, 0, rows);
            return;
        }
        for (int r = 0, at = 0; r < rows.length; r++, at += columns) {
            double[] row = rows[r];
            for (int i = 0; i < columns; i++)
                row[i] = plane[from + at + i] * window[at + i];
        }
    }
}
