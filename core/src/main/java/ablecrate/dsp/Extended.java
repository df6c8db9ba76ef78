package ablecrate.dsp;

import ablecrate.audio.FrameSource;
import java.io.IOException;
import java.util.Arrays;

/// A stream with silence behind its end.
public final class Extended implements FrameSource {
    private final FrameSource source;
    private final long frames;
    private long left;
    private boolean isEnded;

    /// @param frames that come in all; the source's own and silence
    public Extended(FrameSource source, long frames) {
        this.source = source;
        this.frames = this.left = frames;
    }

    @Override public int channels() { return source.channels(); }

    @Override public int rateHz() { return source.rateHz(); }

    @Override public long frames() { return frames; }

    @Override public int read(double[][] planes, int at, int count) throws IOException {
        int wanted = (int) Math.min(count, left), got = isEnded ? 0 : source.read(planes, at, wanted);
        if (got == 0 && wanted > 0) {
            isEnded = true;
            got = wanted;
            for (double[] plane : planes)
                Arrays.fill(plane, at, at + wanted, 0);
        }
        left -= got;
        return got;
    }

    @Override public void close() throws IOException { source.close(); }
}
