package ablecrate.dsp;

import ablecrate.audio.FrameRange;
import ablecrate.audio.FrameSource;
import java.io.IOException;

/// A sound whose loop goes on behind its end, as a player goes on, before what lies behind it follows; and once more behind its last frame.
public final class ExtendedLoop implements FrameSource {
    private static final int SKIPPED = 256;

    private final FrameSource source;
    private final FrameRange loop;
    private final long onward, skipped, followed, frames;
    private final LoopMemory memory;
    private long position;

    /// @param alternates whether the loop goes back and forth
    /// @param onward frames that the loop goes on for between its end and what lies behind it
    /// @param skipped frames of what lies behind it that are left out
    /// @param behind frames that it goes on for behind the last frame
    public ExtendedLoop(FrameSource source, FrameRange loop, boolean alternates, long onward, long skipped, long behind) {
        if (loop.length() == 0 || loop.end() > source.frames())
            throw new IllegalArgumentException("loop " + loop + " in " + source.frames() + " frames");
        this.source = source;
        this.loop = loop;
        this.onward = onward;
        this.skipped = skipped;
        followed = source.frames() + onward - skipped;
        frames = followed + behind;
        memory = new LoopMemory(loop, alternates, source.channels(), frames - loop.end());
    }

    @Override public int channels() { return source.channels(); }

    @Override public int rateHz() { return source.rateHz(); }

    @Override public long frames() { return frames; }

    @Override public int read(double[][] planes, int at, int count) throws IOException {
        int n = (int) Math.min(count, frames - position);
        if (position < loop.end())
            n = remembered(planes, at, (int) Math.min(n, loop.end() - position));
        else
            if (position < loop.end() + onward)
                n = again(planes, at, (int) Math.min(n, loop.end() + onward - position));
            else
                if (position < followed) {
                    if (position == loop.end() + onward) skip();
                    n = source.read(planes, at, (int) Math.min(n, followed - position));
                } else
                    n = again(planes, at, n);
        position += n;
        return n;
    }

    private int remembered(double[][] planes, int at, int count) throws IOException {
        int n = source.read(planes, at, count);
        memory.keep(planes, at, position, n);
        return n;
    }

    private int again(double[][] planes, int at, int count) {
        memory.play(planes, at, position - loop.end(), count);
        return count;
    }

    private void skip() throws IOException {
        double[][] left = new double[source.channels()][SKIPPED];
        for (long more = skipped; more > 0;) {
            int got = source.read(left, 0, (int) Math.min(more, SKIPPED));
            if (got == 0) return;
            more -= got;
        }
    }

    @Override public void close() throws IOException { source.close(); }
}
