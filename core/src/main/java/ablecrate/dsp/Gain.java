package ablecrate.dsp;

import ablecrate.audio.FrameSource;
import java.io.IOException;

/// A stream made louder or softer.
public final class Gain implements FrameSource {
    private final FrameSource source;
    private final double factor;

    public Gain(FrameSource source, double gainDb) {
        this.source = source;
        this.factor = Decibels.toFactor(gainDb);
    }

    @Override public int channels() { return source.channels(); }

    @Override public int rateHz() { return source.rateHz(); }

    @Override public long frames() { return source.frames(); }

    @Override public int read(double[][] planes, int at, int count) throws IOException {
        int n = source.read(planes, at, count);
        for (double[] plane : planes)
            for (int i = at; i < at + n; i++)
                plane[i] *= factor;
        return n;
    }

    @Override public void close() throws IOException { source.close(); }
}
