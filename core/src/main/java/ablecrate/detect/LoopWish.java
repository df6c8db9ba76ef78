package ablecrate.detect;

import ablecrate.instrument.LoopMode;
import java.util.Collections;
import java.util.EnumSet;
import java.util.Set;

/// Which loops are looked for, in frames.
/// @param shortest that is wanted
/// @param least that may be, where longer ones are heard
/// @param longest that may be
/// @param levelled whether a decay within a loop that goes forward may be made up for
/// @param modes forward, alternating, or both: then one that alternates is looked for where none that goes forward passes
public record LoopWish(long shortest, long least, long longest, boolean levelled, Set<LoopMode> modes) {
    private static final double USUAL_SECONDS = 0.25;

    public LoopWish {
        modes = Collections.unmodifiableSet(EnumSet.copyOf(modes));
    }

    /// A quarter of a second or more, forward.
    public static LoopWish usual(int rateHz) {
        return new LoopWish((long) (USUAL_SECONDS * rateHz), 2, Long.MAX_VALUE, false, EnumSet.of(LoopMode.FORWARD));
    }

    public LoopWish from(long frames) { return new LoopWish(Math.max(shortest, frames), Math.max(least, frames), longest, levelled, modes); }

    public LoopWish upTo(long frames) { return new LoopWish(Math.min(shortest, frames / 2), Math.min(least, frames), frames, levelled, modes); }

    public LoopWish levelled(boolean l) { return new LoopWish(shortest, least, longest, l, modes); }

    public LoopWish in(Set<LoopMode> m) { return new LoopWish(shortest, least, longest, levelled, m); }

    LoopWish startingFrom(long frames) { return new LoopWish(frames, least, longest, levelled, modes); }
}
