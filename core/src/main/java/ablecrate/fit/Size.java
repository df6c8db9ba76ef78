package ablecrate.fit;

import ablecrate.audio.Depth;
import java.util.Optional;

/// What of a sound is kept.
/// @param depth that it gets instead of its own at the destination; empty for its own
/// @param isFolded whether both sides become one
/// @param frames of the source that are kept, from its first on
public record Size(int rateHz, Optional<Depth> depth, boolean isFolded, long frames) {
    /// What a sample is where two places want it differently.
    public static Size larger(Size a, Size b) {
        Optional<Depth> depth = a.depth.flatMap(own -> b.depth.map(other -> own.compareTo(other) < 0 ? other : own));
        return new Size(Math.max(a.rateHz, b.rateHz), depth, a.isFolded && b.isFolded, Math.max(a.frames, b.frames));
    }

    /// At this rate, if it is lower.
    Size atMost(int hertz) { return new Size(Math.min(hertz, rateHz), depth, isFolded, frames); }

    /// In this depth; empty for its own.
    Size in(Optional<Depth> other) { return new Size(rateHz, other, isFolded, frames); }

    /// Both sides as one.
    Size folded() { return new Size(rateHz, depth, true, frames); }

    /// Only so much from its start.
    Size until(long end) { return new Size(rateHz, depth, isFolded, end); }
}
