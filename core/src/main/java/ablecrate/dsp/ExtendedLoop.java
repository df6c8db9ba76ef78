package ablecrate.dsp;

import ablecrate.audio.FrameRange;
import ablecrate.audio.FrameSource;
import java.io.IOException;

/// A sound whose loop goes on behind its end, forward, before what lies behind it follows; and once more behind its last frame, as a player goes on.
///
/// What lies behind the loop follows where it would be after a whole number of turns: frames of it in whose place the loop went on are left out.
public final class ExtendedLoop implements FrameSource {
    private static final int SKIPPED = 256;

    private final FrameSource source;
    private final FrameRange loop;
    private final long onward, skipped, followed, frames;
    private final double[][] memory;
    private long position;

    /// @param onward frames that the loop goes on for between its end and what lies behind it
    /// @param behind frames that it goes on for behind the last frame
    public ExtendedLoop(FrameSource source, FrameRange loop, long onward, long behind) {
        if (loop.length() == 0 || loop.end() > source.frames())
            throw new IllegalArgumentException("loop " + loop + " in " + source.frames() + " frames");
        this.source = source;
        this.loop = loop;
        this.onward = onward;
        long rest = source.frames() - loop.end();
        skipped = Math.min(rest, onward % loop.length());
        followed = loop.end() + onward + rest - skipped;
        frames = followed + behind;
        memory = new double[source.channels()][Math.toIntExact(Math.min(loop.length(), frames - loop.end()))];
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
        long from = Math.max(position, loop.start()), to = Math.min(position + n, loop.start() + memory[0].length);
        for (int channel = 0; channel < memory.length && from < to; channel++)
            System.arraycopy(planes[channel], at + (int) (from - position), memory[channel], (int) (from - loop.start()), (int) (to - from));
        return n;
    }

    private int again(double[][] planes, int at, int count) {
        for (int i = 0; i < count; i++) {
            int frame = (int) ((position + i - loop.end()) % loop.length());
            for (int channel = 0; channel < memory.length; channel++)
                planes[channel][at + i] = memory[channel][frame];
        }
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
