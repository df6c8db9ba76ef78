package ablecrate.dsp;

import ablecrate.audio.FrameSource;
import java.io.IOException;
import java.util.Arrays;

/// Converts a stream to another rate in the frequency domain: exact in time, memory independent of length.
///
/// Blocks overlap by the reach of the filter (overlap-save). A block's spectrum is filtered, cut or filled up with zeros to the
/// length that the other rate asks for, and transformed back: filter and interpolation in one, at a cost that does not grow with the
/// filter's length. Two channels go through one complex transform as its real and imaginary part, since the filter is real and
/// symmetric; of a mono stream two blocks do.
///
/// Frame `n` of the output is the source at `n * inputStep / outputStep` exactly, the length is `ceil(frames * outputStep / inputStep)`.
/// Before its start and after its end the source counts as silent.
///
/// Source of overlap-save: A. V. Oppenheim, R. W. Schafer, *Discrete-Time Signal Processing*, section 8.7 (from memory).
final class SpectralConverter implements FrameSource {
    private final FrameSource source;
    private final SpectralDesign design;
    private final int rateHz, channels, blocks;
    private final long frames;
    /// `[channel][frame]`: a margin before, `blocks` hops, a margin after.
    private final double[][] input;
    private final double[][] output;
    /// A block, its spectrum, that of the output, and the output.
    private final ComplexRows block, spectrum, cut, result;
    private long position;
    private int outputAt, outputFilled;
    private boolean started;

    SpectralConverter(FrameSource source, SpectralDesign design, int rateHz) {
        this.source = source;
        this.design = design;
        this.rateHz = rateHz;
        channels = source.channels();
        blocks = channels == 1 ? 2 : 1;
        frames = RateConverters.lengthAfter(source.frames(), design.outputStep, design.inputStep);
        input = new double[channels][2 * design.margin + blocks * design.hop()];
        output = new double[channels][blocks * design.yield()];
        block = new ComplexRows(design.forward.rows(), design.forward.columns());
        spectrum = new ComplexRows(block.columns(), block.rows());
        cut = new ComplexRows(design.backward.rows(), design.backward.columns());
        result = new ComplexRows(cut.columns(), cut.rows());
    }

    @Override public int channels() { return channels; }

    @Override public int rateHz() { return rateHz; }

    @Override public long frames() { return frames; }

    @Override public int read(double[][] planes, int at, int count) throws IOException {
        if (position == frames) return 0;
        if (outputAt == outputFilled) nextBlocks();
        int n = (int) Math.min(Math.min(count, outputFilled - outputAt), frames - position);
        for (int channel = 0; channel < channels; channel++)
            System.arraycopy(output[channel], outputAt, planes[channel], at, n);
        outputAt += n;
        position += n;
        return n;
    }

    private void nextBlocks() throws IOException {
        int length = input[0].length, keep = started ? 2 * design.margin : design.margin;
        if (started)
            for (double[] plane : input)
                System.arraycopy(plane, length - keep, plane, 0, keep);
        started = true; // the first margin is the silence before the sound
        int got = source.readFully(input, keep, length - keep);
        for (double[] plane : input)
            Arrays.fill(plane, keep + got, length, 0);
        if (channels == 1) {
            transform(input[0], 0, input[0], design.hop());
            take(result.re(), output[0], 0);
            take(result.im(), output[0], design.yield());
        } else
            for (int channel = 0; channel < channels; channel += 2) {
                boolean isPair = channel + 1 < channels;
                transform(input[channel], 0, isPair ? input[channel + 1] : null, 0);
                take(result.re(), output[channel], 0);
                if (isPair) take(result.im(), output[channel + 1], 0);
            }
        outputAt = 0;
        outputFilled = output[0].length;
    }

    private void take(double[][] rows, double[] into, int at) {
        ComplexRows.gather(rows, design.margin / design.inputStep * design.outputStep, design.yield(), into, at);
    }

    /// One block of two signals through filter and interpolation, into `result`.
    /// @param second null where there is only one signal
    private void transform(double[] first, int firstAt, double[] second, int secondAt) {
        ComplexRows.spread(first, firstAt, block.re());
        if (second == null)
            for (double[] row : block.im())
                Arrays.fill(row, 0);
        else
            ComplexRows.spread(second, secondAt, block.im());
        design.forward.forward(block, spectrum);
        design.carry(spectrum.re(), cut.re());
        design.carry(spectrum.im(), cut.im());
        design.backward.backward(cut, result);
    }

    @Override public void close() throws IOException { source.close(); }
}
