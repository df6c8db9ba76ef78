package ablecrate.dsp;

import ablecrate.audio.FrameRange;

/// Frames of a loop, kept as they are read, and the order in which a player plays them once it is past the loop's end.
///
/// A loop that goes back and forth turns on its last frame and on its first, each of which is played once (common practice).
final class LoopMemory {
    private final FrameRange loop, kept;
    private final boolean alternates;
    private final double[][] memory;

    /// @param more frames to go on for; only as much is kept as they need
    LoopMemory(FrameRange loop, boolean alternates, int channels, long more) {
        this.loop = loop;
        this.alternates = alternates;
        // The turn itself is played already.
        long need = Math.min(loop.length(), alternates ? more + 1 : more);
        kept = alternates ? new FrameRange(loop.end() - need, loop.end()) : new FrameRange(loop.start(), loop.start() + need);
        memory = new double[channels][Math.toIntExact(need)];
    }

    /// Keeps what there is of the loop in `count` frames of the sound, the first of which is `position`.
    void keep(double[][] planes, int at, long position, int count) {
        long from = Math.max(position, kept.start()), to = Math.min(position + count, kept.end());
        for (int channel = 0; channel < memory.length && from < to; channel++)
            System.arraycopy(planes[channel], at + (int) (from - position), memory[channel], (int) (from - kept.start()), (int) (to - from));
    }

    /// Plays on, `after` frames past the end of the loop.
    void play(double[][] planes, int at, long after, int count) {
        for (int i = 0; i < count; i++) {
            int frame = (int) (played(after + i) - kept.start());
            for (int channel = 0; channel < memory.length; channel++)
                planes[channel][at + i] = memory[channel][frame];
        }
    }

    private long played(long after) { return alternates ? back(loop, after + 1) : loop.start() + after % loop.length(); }

    /// Where one is so many frames after the turn at the end, or before it.
    static long back(FrameRange loop, long steps) {
        long way = loop.length() - 1, phase = way == 0 ? 0 : Math.floorMod(steps, 2 * way);
        return phase <= way ? loop.end() - 1 - phase : loop.start() + phase - way;
    }
}
