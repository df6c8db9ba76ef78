package ablecrate.signal;

import ablecrate.dsp.FadeShape;

/// Fades at the ends of a result.
/// @param fadeInFrames of the result, as `fadeOutFrames`; 0 for none
public record Ends(long fadeInFrames, FadeShape fadeInShape, long fadeOutFrames, FadeShape fadeOutShape) {
    public static final Ends NONE = new Ends(0, FadeShape.LINEAR, 0, FadeShape.LINEAR);

    public Ends {
        if (fadeInFrames < 0 || fadeOutFrames < 0) throw new IllegalArgumentException("fades of " + fadeInFrames + " and " + fadeOutFrames + " frames");
    }

    public boolean isNone() { return fadeInFrames == 0 && fadeOutFrames == 0; }
}
