package ablecrate.dsp;

import java.util.Arrays;

/// How alike a stretch of sound is to every place of a longer one: cross-correlation, plain or normalised, by Fourier transform. One per thread.
///
/// Two channels go as real and imaginary part of one signal, so that both count; of more, the first two.
///
/// Source: J. P. Lewis, *Fast Normalized Cross-Correlation*, Vision Interface 1995.
public final class Correlation {
    private final double[][] planes;
    private final int frames;
    private final Fft fft;
    private final ComplexRows spectrum, block, bins;
    /// Energy of all frames before each.
    private final double[] energyBefore;

    /// @param planes `[channel][frame]`
    /// @param longest frames of the stretches that will be looked for
    public Correlation(double[][] planes, int longest) {
        this.planes = planes;
        frames = planes[0].length;
        fft = Fft.ofLength(Math.max(64, Integer.highestOneBit(frames + longest) << 1));
        block = new ComplexRows(fft.rows(), fft.columns());
        bins = new ComplexRows(fft.columns(), fft.rows());
        spectrum = new ComplexRows(fft.columns(), fft.rows());
        load(planes, 0, frames);
        fft.forward(block, spectrum);
        energyBefore = new double[frames + 1];
        for (int i = 0; i < frames; i++) {
            double energy = 0;
            for (int channel = 0; channel < Math.min(2, planes.length); channel++)
                energy += planes[channel][i] * planes[channel][i];
            energyBefore[i + 1] = energyBefore[i] + energy;
        }
    }

    private void load(double[][] from, int at, int count) {
        double[] flat = new double[fft.length()];
        System.arraycopy(from[0], at, flat, 0, count);
        ComplexRows.spread(flat, 0, block.re());
        if (from.length > 1) {
            System.arraycopy(from[1], at, flat, 0, count);
            ComplexRows.spread(flat, 0, block.im());
        } else
            for (double[] row : block.im())
                Arrays.fill(row, 0);
    }

    /// @param from first frame of the stretch
    /// @param count its length
    /// @return for each first frame of a stretch as long, how alike they are: −1…1, 0 where one is silent
    public double[] with(int from, int count) {
        double[] out = products(from, count);
        double own = energyBefore[from + count] - energyBefore[from];
        for (int i = 0; i < out.length; i++) {
            double energy = own * (energyBefore[i + count] - energyBefore[i]);
            out[i] = energy <= 0 ? 0 : Math.clamp(out[i] / Math.sqrt(energy), -1, 1);
        }
        return out;
    }

    /// @return for each first frame of a stretch as long, the sum of the products of their frames
    double[] products(int from, int count) {
        load(planes, from, count);
        fft.forward(block, bins);
        // Times the conjugate of the stretch, and back: numbers lie as the first transform left them, so the second reads them in natural order.
        ComplexRows product = new ComplexRows(fft.rows(), fft.columns());
        double[] re = new double[fft.length()], im = new double[fft.length()];
        for (int n = 0, row = 0; row < bins.rows(); row++)
            for (int column = 0; column < bins.columns(); column++, n++) {
                double a = spectrum.re()[row][column], b = spectrum.im()[row][column], c = bins.re()[row][column], d = bins.im()[row][column];
                re[n] = (a * c + b * d) / fft.length();
                im[n] = (b * c - a * d) / fft.length();
            }
        ComplexRows.spread(re, 0, product.re());
        ComplexRows.spread(im, 0, product.im());
        ComplexRows sums = new ComplexRows(fft.columns(), fft.rows());
        fft.backward(product, sums);
        double[] out = new double[frames - count + 1];
        ComplexRows.gather(sums.re(), 0, out.length, out, 0);
        return out;
    }
}
