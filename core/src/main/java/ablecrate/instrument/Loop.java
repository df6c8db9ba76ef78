package ablecrate.instrument;

import ablecrate.audio.FrameRange;
import java.util.List;

/// One loop of a sound.
/// @param playCount how often it is played; 0 is endless
/// @param tuningFraction fine position of the loop as `smpl` has it, in 1/2³² frame; kept, not interpreted
/// @param cueId ties the loop to the label of a cue point where the format has such a tie, otherwise 0
public record Loop(FrameRange frames, LoopMode mode, Use use, long playCount, long tuningFraction, long cueId) {
    /// When a loop is played: while the key is held, or after it was let go.
    public enum Use { SUSTAIN, RELEASE }

    public static Loop sustain(FrameRange frames, LoopMode mode) { return new Loop(frames, mode, Use.SUSTAIN, 0, 0, 0); }

    /// With uses as they are taken where a format has no word for them: a loop that lies behind the first is played after the release (common practice).
    public static List<Loop> usedByPlace(List<Loop> loops) {
        return loops.stream().map(l -> l.withUse(l.frames().start() >= loops.getFirst().frames().end() ? Use.RELEASE : Use.SUSTAIN)).toList();
    }

    public Loop withUse(Use other) { return new Loop(frames, mode, other, playCount, tuningFraction, cueId); }

    public Loop withFrames(FrameRange moved) { return new Loop(moved, mode, use, playCount, tuningFraction, cueId); }

    public Loop withMode(LoopMode other) { return new Loop(frames, other, use, playCount, tuningFraction, cueId); }

    public Loop withPlayCount(long count) { return new Loop(frames, mode, use, count, tuningFraction, cueId); }
}
