package ablecrate.signal;

import ablecrate.audio.FrameRange;

/// A loop on its way into the result.
/// @param from where it is in the used part of the source
/// @param to where it is in the result before anything is added to it; both lengths stand in the ratio of the conversion exactly, or `to` is rounded
/// @param alternates whether it goes back and forth
/// @param crossfadeFrames frames of the source, before the loop's end, that are blended into what lies before its start; 0 for none
/// @param riseDb by which the sound is raised within it, see [ablecrate.dsp.LoopLevel]; 0 for none
/// @param room added to it, at the rate of the result
public record LoopCarry(FrameRange from, FrameRange to, boolean alternates, int crossfadeFrames, double riseDb, LoopRoom room) {
    public LoopCarry with(LoopRoom other) { return new LoopCarry(from, to, alternates, crossfadeFrames, riseDb, other); }

    /// Where the result has it.
    public FrameRange place() { return room.place(to); }

    /// Whether frames that the sound has differ for its sake.
    public boolean changesSound() { return crossfadeFrames > 0 || riseDb != 0; }
}
