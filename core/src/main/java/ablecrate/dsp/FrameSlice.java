package ablecrate.dsp;

import ablecrate.audio.FrameSource;
import java.io.IOException;

/// Frames `[from, to)` of a stream.
public final class FrameSlice implements FrameSource {
    private final FrameSource source;
    private final long frames;
    private long skip, left;

    public FrameSlice(FrameSource source, long from, long to) {
        if (from < 0 || to < from || to > source.frames()) throw new IllegalArgumentException(from + " … " + to + " of " + source.frames());
        this.source = source;
        this.skip = from;
        this.frames = this.left = to - from;
    }

    @Override public int channels() { return source.channels(); }

    @Override public int rateHz() { return source.rateHz(); }

    @Override public long frames() { return frames; }

    @Override public int read(double[][] planes, int at, int count) throws IOException {
        if (skip > 0 && left > 0) skip -= source.skip(skip);
        int n = source.read(planes, at, (int) Math.min(count, left));
        left -= n;
        return n;
    }

    @Override public void close() throws IOException { source.close(); }
}
