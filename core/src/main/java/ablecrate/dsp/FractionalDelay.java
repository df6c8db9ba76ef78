package ablecrate.dsp;

import ablecrate.audio.FrameSource;
import java.io.IOException;
import java.util.Arrays;

/// A stream that comes a part of a frame later, or earlier: of band-limited sound, the same sound. Flat to 0.47 of the rate, within −120 dB.
///
/// Source: T. I. Laakso et al., *Splitting the unit delay*, IEEE Signal Processing Magazine 13(1), 1996: the windowed sinc.
public final class FractionalDelay implements FrameSource {
    /// Frames on each side that take part in one.
    public static final int REACH = 160;
    private static final double BETA = 12.3;
    private static final int BLOCK = 4096;

    private final FrameSource source;
    private final double[] taps = new double[2 * REACH + 1];
    /// What was read: REACH frames behind, and what lies ahead.
    private final double[][] held;
    private final long frames;
    /// Of `held`: how many frames are there; the first of them is frame `position − REACH`.
    private int count = REACH;
    private long position;

    /// @param delay in frames, −1…1
    public FractionalDelay(FrameSource source, double delay) {
        this.source = source;
        frames = source.frames();
        held = new double[source.channels()][BLOCK + 3 * REACH];
        for (int k = -REACH; k <= REACH; k++) {
            double t = k - delay;
            double sinc = Math.abs(t) < 1e-12 ? 1 : Math.sin(Math.PI * t) / (Math.PI * t);
            taps[k + REACH] = sinc * KaiserSinc.window(Math.clamp(t / (REACH + 1), -1, 1), BETA);
        }
    }

    @Override public int channels() { return source.channels(); }

    @Override public int rateHz() { return source.rateHz(); }

    @Override public long frames() { return frames; }

    @Override public int read(double[][] planes, int at, int wanted) throws IOException {
        int n = (int) Math.min(Math.min(wanted, BLOCK), frames - position);
        if (n == 0) return 0;
        fill(n + 2 * REACH);
        for (int channel = 0; channel < held.length; channel++) {
            double[] from = held[channel], to = planes[channel];
            for (int i = 0; i < n; i++) {
                double sum = 0;
                for (int k = 0; k < taps.length; k++)
                    sum += from[i + k] * taps[taps.length - 1 - k];
                to[at + i] = sum;
            }
            System.arraycopy(from, n, from, 0, count - n);
        }
        count -= n;
        position += n;
        return n;
    }

    /// Until so many frames are held; behind the end lies silence.
    private void fill(int wanted) throws IOException {
        while (count < wanted) {
            int got = source.read(held, count, wanted - count);
            if (got == 0) {
                for (double[] plane : held)
                    Arrays.fill(plane, count, wanted, 0);
                count = wanted;
            } else
                count += got;
        }
    }

    @Override public void close() throws IOException { source.close(); }
}
