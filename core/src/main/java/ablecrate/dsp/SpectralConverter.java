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
    /// A block, its spectrum, and that of the output.
    private final ComplexRows block, spectrum, cut;
    /// The output: of each pair of channels, of a mono stream of a pair of blocks.
    private final ComplexRows[] results;
    private long position;
    private int outputAt;
    private boolean started, isTransformed;
    /// Of silence before the sound.
    private final int silentLead;

    SpectralConverter(FrameSource source, SpectralDesign design, int rateHz) { this(source, design, rateHz, design.margin); }

    /// From the start of one of its stretches on.
    /// @param source from their lead before it on
    static SpectralConverter goingOn(FrameSource source, SpectralDesign design, int rateHz) { return new SpectralConverter(source, design, rateHz, 0); }

    /// Its rounds of blocks.
    static RateConverters.Stretches stretches(SpectralDesign design, int channels) {
        int blocks = blocks(channels);
        return new RateConverters.Stretches(blocks * design.hop(), blocks * design.yield(), design.margin);
    }

    private static int blocks(int channels) { return channels == 1 ? 2 : 1; }

    private SpectralConverter(FrameSource source, SpectralDesign design, int rateHz, int silentLead) {
        this.silentLead = silentLead;
        this.source = source;
        this.design = design;
        this.rateHz = rateHz;
        channels = source.channels();
        blocks = blocks(channels);
        frames = RateConverters.lengthAfter(source.frames(), design.outputStep, design.inputStep);
        input = new double[channels][2 * design.margin + blocks * design.hop()];
        outputAt = blocks * design.yield();
        block = new ComplexRows(design.forward.rows(), design.forward.columns());
        spectrum = new ComplexRows(block.columns(), block.rows());
        cut = new ComplexRows(design.backward.rows(), design.backward.columns());
        results = new ComplexRows[Math.ceilDiv(channels, 2)];
        Arrays.setAll(results, _ -> new ComplexRows(cut.columns(), cut.rows()));
    }

    @Override public int channels() { return channels; }

    @Override public int rateHz() { return rateHz; }

    @Override public long frames() { return frames; }

    @Override public int read(double[][] planes, int at, int count) throws IOException {
        if (position == frames) return 0;
        int yield = design.yield();
        if (outputAt == blocks * yield) nextBlocks();
        if (!isTransformed) transform();
        int inBlock = outputAt % yield, n = (int) Math.min(Math.min(count, yield - inBlock), frames - position);
        for (int channel = 0; channel < channels; channel++) {
            ComplexRows result = results[channel / 2];
            boolean isFirst = channels == 1 ? outputAt < yield : channel % 2 == 0;
            ComplexRows.gather(isFirst ? result.re() : result.im(), design.margin / design.inputStep * design.outputStep + inBlock, n, planes[channel], at);
        }
        outputAt += n;
        position += n;
        return n;
    }

    /// Blocks of which nothing is wanted are not transformed.
    @Override public long skip(long count) throws IOException {
        long wanted = Math.min(count, frames - position);
        for (long left = wanted; left > 0;) {
            if (outputAt == blocks * design.yield()) nextBlocks();
            int n = (int) Math.min(left, blocks * design.yield() - outputAt);
            outputAt += n;
            position += n;
            left -= n;
        }
        return wanted;
    }

    private void nextBlocks() throws IOException {
        int length = input[0].length, keep = started ? 2 * design.margin : silentLead;
        if (started)
            for (double[] plane : input)
                System.arraycopy(plane, length - keep, plane, 0, keep);
        started = true;
        int got = source.readFully(input, keep, length - keep);
        for (double[] plane : input)
            Arrays.fill(plane, keep + got, length, 0);
        outputAt = 0;
        isTransformed = false;
    }

    private void transform() {
        isTransformed = true;
        if (channels == 1)
            transform(input[0], 0, input[0], design.hop(), results[0]);
        else
            for (int channel = 0; channel < channels; channel += 2)
                transform(input[channel], 0, channel + 1 < channels ? input[channel + 1] : null, 0, results[channel / 2]);
    }

    /// One block of two signals through filter and interpolation.
    /// @param second null where there is only one signal
    private void transform(double[] first, int firstAt, double[] second, int secondAt, ComplexRows result) {
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
