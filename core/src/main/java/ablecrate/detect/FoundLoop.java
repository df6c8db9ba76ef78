package ablecrate.detect;

import ablecrate.audio.FrameRange;
import ablecrate.instrument.LoopMode;

/// A place to loop.
/// @param mode forward, or alternating
/// @param crossfadeFrames that it needs at its seam; 0 where it alternates
/// @param riseDb by which the sound has to be raised within it, as it decays, see [ablecrate.dsp.LoopLevel]; 0 for not at all
/// @param stepDb at the seam as played, at the worse of its turns where it alternates, see [ablecrate.dsp.Seam]
/// @param fallDbPerSecond how fast the sound dies away by itself; 0 where it does not
public record FoundLoop(FrameRange frames, LoopMode mode, int crossfadeFrames, double riseDb, double stepDb, LoopQuality quality, double fallDbPerSecond) {
    FoundLoop(FrameRange frames, LoopMode mode, int crossfadeFrames, double riseDb, double stepDb, LoopQuality quality) {
        this(frames, mode, crossfadeFrames, riseDb, stepDb, quality, 0);
    }

    /// The same of a sound that dies away so fast.
    public FoundLoop falling(double dbPerSecond) { return new FoundLoop(frames, mode, crossfadeFrames, riseDb, stepDb, quality, dbPerSecond); }
}
