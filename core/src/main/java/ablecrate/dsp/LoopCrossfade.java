package ablecrate.dsp;

import ablecrate.audio.FrameRange;
import ablecrate.audio.FrameSource;
import java.io.IOException;

/// Blends the end of a loop into what comes before its start, so that the seam is passed without a step.
///
/// The last `length` frames of the loop fade out while the `length` frames before the loop's start fade in: at the seam the sound is
/// what leads to the start. The two gains follow a power law that keeps the level for whatever likeness the two stretches have: linear where
/// they are alike, equal power where they have nothing in common. With correlation c and gains a, b of a linear fade the power is
/// a² + b² + 2abc; both gains are divided by its root.
///
/// A stretch before the loop's start and one before its end are held, nothing else.
public final class LoopCrossfade implements FrameSource {
    private final FrameSource source;
    private final FrameRange loop;
    private final int length;
    private final double riseDb;
    private final double[][] lead, blend;
    private long position;
    private boolean blended;

    public LoopCrossfade(FrameSource source, FrameRange loop, int length) { this(source, loop, length, 0); }

    /// @param length at most the loop's length, and what lies before it
    /// @param riseDb by which a [LoopLevel] raises the source within the loop; what leads to the loop's start is lowered to match
    public LoopCrossfade(FrameSource source, FrameRange loop, int length, double riseDb) {
        if (length < 1 || length > loop.length() || length > loop.start() || loop.end() > source.frames())
            throw new IllegalArgumentException("crossfade of " + length + " frames in loop " + loop + " of " + source.frames());
        this.source = source;
        this.loop = loop;
        this.length = length;
        this.riseDb = riseDb;
        lead = new double[source.channels()][length];
        blend = new double[source.channels()][length];
    }

    @Override public int channels() { return source.channels(); }

    @Override public int rateHz() { return source.rateHz(); }

    @Override public long frames() { return source.frames(); }

    @Override public int read(double[][] planes, int at, int count) throws IOException {
        long blendStart = loop.end() - length;
        if (position >= blendStart && position < loop.end()) {
            if (!blended) blend();
            int from = (int) (position - blendStart), n = Math.min(count, length - from);
            for (int channel = 0; channel < blend.length; channel++)
                System.arraycopy(blend[channel], from, planes[channel], at, n);
            position += n;
            return n;
        }
        // Up to the stretch that is blended, not into it.
        int n = source.read(planes, at, position < blendStart ? (int) Math.min(count, blendStart - position) : count);
        long leadStart = loop.start() - length, from = Math.max(position, leadStart), to = Math.min(position + n, loop.start());
        for (int channel = 0; channel < lead.length && from < to; channel++)
            System.arraycopy(planes[channel], at + (int) (from - position), lead[channel], (int) (from - leadStart), (int) (to - from));
        position += n;
        return n;
    }

    private void blend() throws IOException {
        blended = true;
        if (source.readFully(blend, 0, length) < length) throw new IOException("the sound ended inside its loop");
        LoopLevel.raise(lead, loop, riseDb, loop.start() - length);
        blend(blend, lead);
    }

    /// Blends what lies before a loop's end into what lies before its start.
    /// @param tail `[channel][frame]`, the last frames of the loop; overwritten
    /// @param lead as many frames before its start
    public static void blend(double[][] tail, double[][] lead) {
        double both = 0, first = 0, second = 0;
        int length = tail[0].length;
        for (int channel = 0; channel < tail.length; channel++)
            for (int i = 0; i < length; i++) {
                both += tail[channel][i] * lead[channel][i];
                first += tail[channel][i] * tail[channel][i];
                second += lead[channel][i] * lead[channel][i];
            }
        double likeness = first > 0 && second > 0 ? Math.clamp(both / Math.sqrt(first * second), 0, 1) : 1;
        for (int i = 0; i < length; i++) {
            double in = (i + 1.0) / (length + 1), out = 1 - in, level = Math.sqrt(in * in + out * out + 2 * in * out * likeness);
            for (int channel = 0; channel < tail.length; channel++)
                tail[channel][i] = (tail[channel][i] * out + lead[channel][i] * in) / level;
        }
    }

    @Override public void close() throws IOException { source.close(); }
}
