package ablecrate.signal;

import ablecrate.audio.FrameRange;
import ablecrate.codec.Capabilities;

/// What is added to a loop, so that a player takes it that plays no short ones, that wants frames around it, or that only goes forward. It sounds as before.
/// @param shift frames that it starts later: the loop goes round from another of its frames
/// @param longer frames by which it is longer: whole turns
/// @param onward frames that the sound goes on for behind the loop's end before what lies there follows
/// @param skipped frames of what lies there that are left out, as the loop went on in their place
/// @param behind frames that it goes on for behind the last frame of the sound
public record LoopRoom(long shift, long longer, long onward, long skipped, long behind) {
    public static final LoopRoom NONE = new LoopRoom(0, 0, 0, 0, 0);

    /// For a loop that goes forward.
    /// @param frames of the sound
    public static LoopRoom of(FrameRange loop, long frames, Capabilities.Loops.Frames wanted) {
        long shift = shift(loop, wanted), longer = (Math.ceilDiv(wanted.shortest(), loop.length()) - 1) * loop.length(), onward = shift + longer,
                rest = frames - loop.end(), skipped = Math.min(rest, onward % loop.length());
        return new LoopRoom(shift, longer, onward, skipped, Math.max(0, wanted.around() - (rest - skipped)));
    }

    /// For a loop of more than one frame that goes back and forth, where the player cannot: the way there and back becomes a loop that goes forward.
    public static LoopRoom writtenOut(FrameRange loop, long frames, Capabilities.Loops.Frames wanted) {
        // Both turns are played once.
        long turn = 2 * (loop.length() - 1), shift = shift(loop, wanted), longer = Math.ceilDiv(wanted.shortest(), turn) * turn - loop.length(),
                needed = shift + longer, rest = frames - loop.end();
        // What lies behind is left for at the loop's last frame, as before.
        long onward = rest == 0 ? needed : Math.ceilDiv(needed, turn) * turn;
        return new LoopRoom(shift, longer, onward, 0, Math.max(0, wanted.around() - (onward - needed + rest)));
    }

    private static long shift(FrameRange loop, Capabilities.Loops.Frames wanted) { return Math.max(0, wanted.around() - loop.start()); }

    public boolean isNone() { return onward == 0 && behind == 0; }

    /// Where the loop is then.
    public FrameRange place(FrameRange loop) { return new FrameRange(loop.start() + shift, loop.end() + shift + longer); }

    /// Frames that the sound has more.
    long added() { return onward - skipped + behind; }
}
