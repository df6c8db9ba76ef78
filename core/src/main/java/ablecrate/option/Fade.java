package ablecrate.option;

import ablecrate.dsp.FadeShape;

/// @param ms 0 for none
public record Fade(double ms, FadeShape shape) {
    private static final double LONGEST_MS = 60_000;
    /// Shapes that spare what a fade is laid on: an attack rises at once, a tail falls softly.
    public static final Fade NONE_IN = new Fade(0, FadeShape.FAST_START), NONE_OUT = new Fade(0, FadeShape.S);

    public Fade {
        Bounds.require(ms >= 0 && ms <= LONGEST_MS, "a fade lasts from 0 to 60000 ms, not", ms);
    }

    public Fade withMs(double length) { return new Fade(length, shape); }

    public Fade withShape(FadeShape other) { return new Fade(ms, other); }

    /// Whole frames at a rate.
    public long frames(int rateHz) { return Math.round(ms * rateHz / 1000); }
}
