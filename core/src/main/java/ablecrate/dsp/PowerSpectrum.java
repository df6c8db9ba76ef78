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
        // As near to a square as two powers of two come.
        int rows = 1 << Integer.numberOfTrailingZeros(length) / 2;
        fft = new Fft(rows, length / rows);
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
        for (int i = 0; i < length; i++) {
            int at = from + i;
            windowed[i] = at < 0 || at >= plane.length ? 0 : plane[at] * window[i];
        }
        ComplexRows.spread(windowed, 0, block.re());
        for (double[] row : block.im())
            Arrays.fill(row, 0);
        fft.forward(block, bins);
        for (int k = 0; k < bins(); k++) {
            double re = bins.re()[k / fft.rows()][k % fft.rows()], im = bins.im()[k / fft.rows()][k % fft.rows()];
            power[k] += (re * re + im * im) * weight;
        }
    }
}
