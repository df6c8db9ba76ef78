package ablecrate.detect;

import ablecrate.audio.FrameRange;
import ablecrate.instrument.LoopMode;

/// A place to loop.
/// @param mode forward, or alternating
/// @param crossfadeFrames that it needs at its seam; 0 where it alternates
/// @param riseDb by which the sound has to be raised within it, as it decays, see [ablecrate.dsp.LoopLevel]; 0 for not at all
/// @param stepDb at the seam as played, at the worse of its turns where it alternates, see [ablecrate.dsp.Seam]
public record FoundLoop(FrameRange frames, LoopMode mode, int crossfadeFrames, double riseDb, double stepDb, LoopQuality quality) {}
