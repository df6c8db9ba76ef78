package ablecrate.dsp;

import ablecrate.audio.FrameRange;
import ablecrate.audio.FrameSource;
import java.io.IOException;

/// A sound up to the end of its loop, and then on as a player goes on: from the loop's start again, or back from its end.
///
/// What lies behind the loop in the file is not read. Of the loop only as much is kept as the continuation needs.
public final class ContinuedLoop implements FrameSource {
    private final FrameSource source;
    private final FrameRange loop;
    private final long frames;
    private final LoopMemory memory;
    private long position;

    /// @param alternates whether the loop goes back and forth
    /// @param more frames to go on for
    public ContinuedLoop(FrameSource source, FrameRange loop, boolean alternates, int more) {
        if (loop.length() == 0 || loop.end() > source.frames())
            throw new IllegalArgumentException("loop " + loop + " in " + source.frames() + " frames");
        this.source = source;
        this.loop = loop;
        memory = new LoopMemory(loop, alternates, source.channels(), more);
        frames = loop.end() + more;
    }

    @Override public int channels() { return source.channels(); }

    @Override public int rateHz() { return source.rateHz(); }

    @Override public long frames() { return frames; }

    @Override public int read(double[][] planes, int at, int count) throws IOException {
        int n = (int) Math.min(count, frames - position);
        if (position < loop.end()) {
            n = source.read(planes, at, (int) Math.min(n, loop.end() - position));
            memory.keep(planes, at, position, n);
        } else
            memory.play(planes, at, position - loop.end(), n);
        position += n;
        return n;
    }

    @Override public void close() throws IOException { source.close(); }

    /// The frames that a player plays before it comes to the loop's start again: `count` of them.
    /// @param source from its first frame on; read up to the end of the loop
    public static double[][] before(FrameSource source, FrameRange loop, boolean alternates, int count) throws IOException {
        int need = (int) Math.min(loop.length(), alternates ? count + 1L : count);
        long from = alternates ? loop.start() : loop.end() - need;
        double[][] memory = new double[source.channels()][need], played = new double[source.channels()][count];
        try (FrameSource piece = new FrameSlice(source, from, from + need)) {
            piece.readFully(memory, 0, need);
        }
        for (int back = 1; back <= count; back++) {
            // The turn at the start is the loop's length after the turn at the end, less one.
            long frame = alternates ? LoopMemory.back(loop, loop.length() - 1 - back) : loop.end() - 1 - (back - 1) % loop.length();
            for (int channel = 0; channel < played.length; channel++)
                played[channel][count - back] = memory[channel][(int) (frame - from)];
        }
        return played;
    }
}
