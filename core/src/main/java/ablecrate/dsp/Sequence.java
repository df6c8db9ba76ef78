package ablecrate.dsp;

import ablecrate.audio.FrameSource;
import java.io.IOException;
import java.util.List;

/// Streams of the same shape, one after the other.
public final class Sequence implements FrameSource {
    private final List<FrameSource> parts;
    private int at;

    public Sequence(List<FrameSource> parts) { this.parts = List.copyOf(parts); }

    @Override public int channels() { return parts.getFirst().channels(); }

    @Override public int rateHz() { return parts.getFirst().rateHz(); }

    @Override public long frames() { return parts.stream().mapToLong(FrameSource::frames).sum(); }

    @Override public int read(double[][] planes, int into, int count) throws IOException {
        for (; at < parts.size(); at++) {
            int n = parts.get(at).read(planes, into, count);
            if (n > 0) return n;
        }
        return 0;
    }

    @Override public void close() throws IOException {
        IOException first = null;
        for (FrameSource part : parts)
            try {
                part.close();
            } catch (IOException e) {
                if (first == null) first = e;
            }
        if (first != null) throw first;
    }
}
