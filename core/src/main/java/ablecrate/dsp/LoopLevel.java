package ablecrate.dsp;

import ablecrate.audio.FrameRange;
import ablecrate.audio.FrameSource;
import java.io.IOException;

/// Makes up for the decay within a loop, so that it does not pulse (common practice): from the loop's start to its end the sound is raised by so many dB, in
/// even steps of dB, and behind it by all of them. What lies before the loop stays as it is.
public final class LoopLevel implements FrameSource {
    /// More would raise what lies below the sound as well.
    public static final double MOST_DB = 12;

    private final FrameSource source;
    private final FrameRange loop;
    private final double riseDb;
    private long position;

    public LoopLevel(FrameSource source, FrameRange loop, double riseDb) {
        if (loop.length() < 1 || !Double.isFinite(riseDb)) throw new IllegalArgumentException("a rise of " + riseDb + " dB in loop " + loop);
        this.source = source;
        this.loop = loop;
        this.riseDb = riseDb;
    }

    /// The factor at a frame. Before the loop it goes on falling: so much is what is blended into the loop's end.
    public static double factor(FrameRange loop, double riseDb, long frame) {
        return Decibels.toFactor(riseDb * Math.min(1, (double) (frame - loop.start()) / loop.length()));
    }

    /// Raises some frames as the loop raises them; what leads to the loop, to be as loud as the loop's end that it is blended into.
    /// @param planes `[channel][frame]`; overwritten
    /// @param from the first of them, of which none lies behind the loop
    public static void raise(double[][] planes, FrameRange loop, double riseDb, long from) {
        if (riseDb == 0) return;
        double factor = factor(loop, riseDb, from), step = Decibels.toFactor(riseDb / loop.length());
        for (int i = 0; i < planes[0].length; i++, factor *= step)
            for (double[] plane : planes)
                plane[i] *= factor;
    }

    @Override public int channels() { return source.channels(); }

    @Override public int rateHz() { return source.rateHz(); }

    @Override public long frames() { return source.frames(); }

    @Override public int read(double[][] planes, int at, int count) throws IOException {
        int got = source.read(planes, at, count);
        int from = Math.clamp(loop.start() - position, 0, got), behind = Math.clamp(loop.end() - position, 0, got);
        double step = Decibels.toFactor(riseDb / loop.length()), factor = from < behind ? factor(loop, riseDb, position + from) : 1;
        for (int i = from; i < behind; i++, factor *= step)
            for (double[] plane : planes)
                plane[at + i] *= factor;
        double all = Decibels.toFactor(riseDb);
        for (int i = behind; i < got; i++)
            for (double[] plane : planes)
                plane[at + i] *= all;
        position += got;
        return got;
    }

    @Override public void close() throws IOException { source.close(); }
}
