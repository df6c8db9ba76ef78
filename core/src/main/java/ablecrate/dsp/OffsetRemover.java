package ablecrate.dsp;

import ablecrate.audio.FrameSource;
import java.io.IOException;

/// A stream without the constant that was measured in each of its channels.
public final class OffsetRemover implements FrameSource {
    private final FrameSource source;
    private final double[] offsets;

    /// @param offsets of each channel, full scale is 1
    public OffsetRemover(FrameSource source, double[] offsets) {
        if (offsets.length != source.channels()) throw new IllegalArgumentException(offsets.length + " offsets for " + source.channels() + " channels");
        this.source = source;
        this.offsets = offsets.clone();
    }

    @Override public int channels() { return source.channels(); }

    @Override public int rateHz() { return source.rateHz(); }

    @Override public long frames() { return source.frames(); }

    @Override public int read(double[][] planes, int at, int count) throws IOException {
        int n = source.read(planes, at, count);
        for (int channel = 0; channel < offsets.length; channel++)
            for (int i = at; i < at + n; i++)
                planes[channel][i] -= offsets[channel];
        return n;
    }

    @Override public void close() throws IOException { source.close(); }
}
