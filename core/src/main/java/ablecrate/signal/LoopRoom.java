package ablecrate.signal;

import ablecrate.audio.FrameRange;
import ablecrate.codec.Capabilities;

/// What is added to a loop that goes forward, so that a player takes it that plays no short ones, or that wants frames around it. It sounds as before.
/// @param shift frames that it starts later: the loop goes round from another of its frames
/// @param onward frames that it goes on for behind its end: the shift, and whole turns
/// @param behind frames that it goes on for behind the last frame of the sound
public record LoopRoom(long shift, long onward, long behind) {
    public static final LoopRoom NONE = new LoopRoom(0, 0, 0);

    /// @param loop in a sound of so many frames
    public static LoopRoom of(FrameRange loop, long frames, Capabilities.Loops.Frames wanted) {
        long shift = Math.max(0, wanted.around() - loop.start()), onward = shift + (Math.ceilDiv(wanted.shortest(), loop.length()) - 1) * loop.length();
        return new LoopRoom(shift, onward, Math.max(0, wanted.around() - left(loop, frames, onward)));
    }

    /// Frames of the sound that still follow, see [ablecrate.dsp.ExtendedLoop].
    private static long left(FrameRange loop, long frames, long onward) { return Math.max(0, frames - loop.end() - onward % loop.length()); }

    public boolean isNone() { return onward == 0 && behind == 0; }

    /// Where the loop is then.
    public FrameRange place(FrameRange loop) { return new FrameRange(loop.start() + shift, loop.end() + onward); }

    /// How long the sound is then.
    long frames(FrameRange loop, long frames) { return isNone() ? frames : loop.end() + onward + left(loop, frames, onward) + behind; }
}
