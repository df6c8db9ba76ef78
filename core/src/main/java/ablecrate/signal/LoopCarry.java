package ablecrate.signal;

import ablecrate.audio.FrameRange;

/// A loop on its way through a rate change.
/// @param from where it is in the used part of the source
/// @param to where it is in the result; both lengths stand in the ratio of the conversion exactly, or `to` is rounded
/// @param alternates whether it goes back and forth
/// @param crossfadeFrames frames of the source, before the loop's end, that are blended into what lies before its start; 0 for none
/// @param riseDb by which the sound is raised within it, see [ablecrate.dsp.LoopLevel]; 0 for none
public record LoopCarry(FrameRange from, FrameRange to, boolean alternates, int crossfadeFrames, double riseDb) {
    /// Whether frames of the sound differ for its sake.
    public boolean changesSound() { return crossfadeFrames > 0 || riseDb != 0; }
}
