package ablecrate.audio;

import java.io.IOException;
import java.util.Arrays;
import java.util.function.LongConsumer;

/// A stream of floats in which each sample that is no number, or infinite, is replaced by the one before it: it costs its own frame, and not all that
/// a filter makes of it.
public final class FiniteSource implements SeekableSource {
    private final SeekableSource source;
    private final LongConsumer replaced;
    private final double[] last;
    private long position;
    private boolean knowsLast = true;

    /// @param replaced told of the frames, in the order of the stream
    public FiniteSource(SeekableSource source, LongConsumer replaced) {
        this.source = source;
        this.replaced = replaced;
        last = new double[source.channels()];
    }

    @Override public int channels() { return source.channels(); }

    @Override public int rateHz() { return source.rateHz(); }

    @Override public long frames() { return source.frames(); }

    @Override public void seek(long frame) throws IOException {
        source.seek(frame);
        position = frame;
        knowsLast = frame == 0;
        Arrays.fill(last, 0);
    }

    @Override public int read(double[][] planes, int at, int count) throws IOException {
        int n = source.read(planes, at, count);
        if (!knowsLast && n > 0) findLast(planes, at, n);
        for (int channel = 0; channel < last.length; channel++)
            mend(planes[channel], at, n, channel);
        position += n;
        return n;
    }

    /// What reading on from before would have held where the first sample is none.
    private void findLast(double[][] planes, int at, int read) throws IOException {
        knowsLast = true;
        double[][] before = new double[last.length][1];
        for (int channel = 0; channel < last.length; channel++)
            for (long frame = position - 1; frame >= 0 && !Double.isFinite(planes[channel][at]); frame--) {
                source.seek(frame);
                source.readFully(before, 0, 1);
                if (Double.isFinite(before[channel][0])) {
                    last[channel] = before[channel][0];
                    break;
                }
            }
        source.seek(position + read);
    }

    private void mend(double[] plane, int at, int count, int channel) {
        double sum = 0;
        for (int i = at; i < at + count; i++)
            sum += plane[i] - plane[i]; // 0, but for what is no number
        if (Double.isNaN(sum))
            for (int i = at; i < at + count; i++)
                if (!Double.isFinite(plane[i])) {
                    plane[i] = i == at ? last[channel] : plane[i - 1];
                    replaced.accept(position + i - at);
                }
        if (count > 0) last[channel] = plane[at + count - 1];
    }

    @Override public void close() throws IOException { source.close(); }
}
