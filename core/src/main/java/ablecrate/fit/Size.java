package ablecrate.fit;

/// What of a sound is kept.
/// @param isFolded whether both sides become one
/// @param frames of the source that are kept, from its first on
public record Size(int rateHz, boolean isFolded, long frames) {
    /// What a sample is where two places want it differently.
    public static Size larger(Size a, Size b) {
        return new Size(Math.max(a.rateHz, b.rateHz), a.isFolded && b.isFolded, Math.max(a.frames, b.frames));
    }

    /// At this rate, if it is lower.
    Size atMost(int hertz) { return new Size(Math.min(hertz, rateHz), isFolded, frames); }

    /// Both sides as one.
    Size folded() { return new Size(rateHz, true, frames); }
}
