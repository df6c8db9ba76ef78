package ablecrate.signal;

import ablecrate.dsp.FadeShape;
import java.util.OptionalDouble;

/// What is done to a sound from the level stage on: gain, fades, ceiling.
/// @param fadeInFrames of the result, as `fadeOutFrames`; 0 for none
/// @param ceilingDbtp where a limiter holds true peaks; empty where there is nothing to hold
public record Finish(double gainDb, long fadeInFrames, FadeShape fadeInShape, long fadeOutFrames, FadeShape fadeOutShape, OptionalDouble ceilingDbtp) {
    public static final Finish NONE = new Finish(0, 0, FadeShape.LINEAR, 0, FadeShape.LINEAR, OptionalDouble.empty());

    public boolean isNone() { return gainDb == 0 && fadeInFrames == 0 && fadeOutFrames == 0 && ceilingDbtp.isEmpty(); }
}
