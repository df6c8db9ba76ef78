package ablecrate.dsp;

import ablecrate.audio.FrameSource;
import java.io.IOException;

/// Makes each output channel a weighted sum of the input channels.
///
/// Stereo to mono is `(L + R) / 2`: it never clips, keeps what both sides share, loses 3 dB of what they do not
/// and all of what they hold in opposite phase.
public final class ChannelMixer implements FrameSource {
    private static final int BLOCK = 4096;

    private final FrameSource source;
    private final double[][] weights;
    private final double[][] input;

    /// @param weights `[output channel][input channel]`
    public ChannelMixer(FrameSource source, double[][] weights) {
        this.source = source;
        this.weights = weights;
        this.input = new double[source.channels()][BLOCK];
    }

    @Override public int channels() { return weights.length; }

    @Override public int rateHz() { return source.rateHz(); }

    @Override public long frames() { return source.frames(); }

    @Override public int read(double[][] planes, int at, int count) throws IOException {
        int n = source.read(input, 0, Math.min(count, BLOCK));
        for (int out = 0; out < weights.length; out++)
            for (int i = 0; i < n; i++) {
                double sum = 0;
                for (int in = 0; in < input.length; in++)
                    sum += weights[out][in] * input[in][i];
                planes[out][at + i] = sum;
            }
        return n;
    }

    @Override public void close() throws IOException { source.close(); }
}
