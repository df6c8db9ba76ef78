package ablecrate.detect;

import ablecrate.audio.FrameRange;

/// A place to loop.
/// @param crossfadeFrames that it needs at its seam
/// @param riseDb by which the sound has to be raised within it, as it decays, see [ablecrate.dsp.LoopLevel]; 0 for not at all
/// @param stepDb at the seam as played, see [ablecrate.dsp.Seam]
public record FoundLoop(FrameRange frames, int crossfadeFrames, double riseDb, double stepDb, LoopQuality quality) {}
