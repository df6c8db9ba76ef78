package ablecrate.codec;

import ablecrate.audio.FrameRange;
import ablecrate.audio.SeekableSource;
import java.io.IOException;

/// Some frames of a sound, with a raised cosine at both ends.
final class SliceSource implements SeekableSource {
    private final SeekableSource whole;
    private final FrameRange range;
    private final int fadeIn, fadeOut;
    private long position;
    private boolean isPlaced;

    SliceSource(SeekableSource whole, FrameRange range, int fadeIn, int fadeOut) {
        this.whole = whole;
        this.range = range;
        this.fadeIn = fadeIn;
        this.fadeOut = fadeOut;
    }

    @Override public int channels() { return whole.channels(); }

    @Override public int rateHz() { return whole.rateHz(); }

    @Override public long frames() { return range.length(); }

    @Override public void seek(long frame) throws IOException {
        whole.seek(range.start() + frame);
        position = frame;
        isPlaced = true;
    }

    @Override public int read(double[][] planes, int at, int count) throws IOException {
        if (!isPlaced) seek(0);
        int wanted = (int) Math.min(count, range.length() - position), got = wanted <= 0 ? 0 : whole.read(planes, at, wanted);
        for (int i = 0; i < got; i++) {
            long fromEnd = range.length() - 1 - position - i;
            double gain = position + i < fadeIn ? rise((position + i + 0.5) / fadeIn) : 1;
            if (fromEnd < fadeOut) gain *= rise((fromEnd + 0.5) / fadeOut);
            if (gain < 1)
                for (double[] plane : planes)
                    plane[at + i] *= gain;
        }
        position += got;
        return got;
    }

    private static double rise(double x) { return 0.5 - 0.5 * Math.cos(Math.PI * x); }

    @Override public void close() throws IOException { whole.close(); }
}
