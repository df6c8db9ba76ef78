package ablecrate.detect;

import ablecrate.audio.FrameRange;

/// A place to loop.
/// @param crossfadeFrames that it needs at its seam
/// @param stepDb at the seam as played, see [ablecrate.dsp.Seam]
public record FoundLoop(FrameRange frames, int crossfadeFrames, double stepDb, LoopQuality quality) {}
