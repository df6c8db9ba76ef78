package ablecrate.dsp;

import java.util.Arrays;

/// What converting by one ratio of small steps needs and many streams share: block lengths, the transforms, the filter's spectrum.
/// Immutable, safe for threads.
///
/// A block of input has `inputRows * COLUMNS` frames, one of output `outputRows * COLUMNS`. Their spectra have rows of the same
/// length, so that a spectrum is cut or filled up by whole rows.
final class SpectralDesign {
    static final int COLUMNS = 64;
    /// Long enough that the overlap is a small part, short enough for the second-level cache; measured, see docs/speed.md.
    private static final int LEAST_LENGTH = 8192, BLOCKS_PER_MARGIN = 14;
    /// Larger steps would make blocks of megabytes.
    private static final int MAX_STEP = 2048;

    final int inputStep, outputStep, inputRows, outputRows;
    /// Input frames at each end of a block that are only heard as neighbours: at least the filter's reach, a whole number of steps.
    final int margin;
    final Fft forward, backward;
    /// `[row][column]`, real: the frequencies 0 … below the lower Nyquist, and with the last row first, −1 … above minus that. Zero from
    /// there on, which can be in the middle of a row. Scaled for the unscaled transforms.
    final double[][] rising, falling;

    static boolean isPossible(long inputStep, long outputStep) {
        return inputStep <= MAX_STEP && outputStep <= MAX_STEP && Fft.isPossible((int) inputStep) && Fft.isPossible((int) outputStep);
    }

    /// @param kernel reaches further than an input step, and holds back what neither rate can carry
    SpectralDesign(int inputStep, int outputStep, KaiserSinc kernel) {
        this.inputStep = inputStep;
        this.outputStep = outputStep;
        margin = inputStep * Math.ceilDiv(kernel.reach(), inputStep);
        int steps = 1;
        while (Math.max(inputStep, outputStep) * steps * COLUMNS < LEAST_LENGTH || inputStep * steps * COLUMNS < BLOCKS_PER_MARGIN * margin)
            steps *= 2;
        inputRows = inputStep * steps;
        outputRows = outputStep * steps;
        forward = new Fft(COLUMNS, inputRows);
        backward = new Fft(outputRows, COLUMNS);
        int rows = Math.ceilDiv(Math.min(inputRows, outputRows), 2);
        rising = new double[rows][COLUMNS];
        falling = new double[rows][COLUMNS];
        fill(kernel);
    }

    private void fill(KaiserSinc kernel) {
        int length = inputLength(), half = Math.min(length, outputLength()) / 2;
        double[] response = new double[length];
        response[0] = kernel.at(0);
        for (int n = 1; n < kernel.reach(); n++)
            response[n] = response[length - n] = kernel.at(n);
        ComplexRows frames = new ComplexRows(COLUMNS, inputRows), spectrum = new ComplexRows(inputRows, COLUMNS);
        ComplexRows.spread(response, 0, frames.re());
        forward.forward(frames, spectrum);
        double scale = 1 / spectrum.re()[0][0] / length; // exactly 1 at DC
        for (int k = 0; k < half; k++)
            rising[k / COLUMNS][k % COLUMNS] = spectrum.re()[k / COLUMNS][k % COLUMNS] * scale;
        for (int k = 1; k < half; k++) {
            int behind = k - 1; // from the end of the spectrum
            falling[behind / COLUMNS][COLUMNS - 1 - behind % COLUMNS] = rising[k / COLUMNS][k % COLUMNS];
        }
    }

    int inputLength() { return inputRows * COLUMNS; }

    int outputLength() { return outputRows * COLUMNS; }

    /// Input frames that a block moves on.
    int hop() { return inputLength() - 2 * margin; }

    /// Output frames that a block yields.
    int yield() { return hop() / inputStep * outputStep; }

    /// Filters the spectrum of a block of input and makes it that of a block of output.
    /// @param from inputRows × COLUMNS
    /// @param to outputRows × COLUMNS
    void carry(double[][] from, double[][] to) {
        int rows = rising.length;
        for (int row = rows; row < outputRows; row++)
            Arrays.fill(to[row], 0);
        for (int row = 0; row < rows; row++)
            product(from[row], rising[row], to[row]);
        // Added, as in the middle of a spectrum that was cut both ends can meet in a row.
        for (int row = 0; row < rows; row++)
            addProduct(from[inputRows - 1 - row], falling[row], to[outputRows - 1 - row]);
    }

    private static void product(double[] x, double[] factors, double[] to) {
        for (int q = 0; q < to.length; q++)
            to[q] = x[q] * factors[q];
    }

    private static void addProduct(double[] x, double[] factors, double[] to) {
        for (int q = 0; q < to.length; q++)
            to[q] += x[q] * factors[q];
    }
}
