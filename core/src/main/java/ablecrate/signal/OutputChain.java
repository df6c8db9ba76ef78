package ablecrate.signal;

import java.util.Optional;

/// What is done to a sound from the level stage on: gain, fades, limiter.
/// @param hold what a limiter holds; empty where there is nothing to hold
public record OutputChain(double gainDb, Ends ends, Optional<Hold> hold) {
    public static final OutputChain NONE = new OutputChain(0, Ends.NONE, Optional.empty());

    public OutputChain {
        if (!Double.isFinite(gainDb)) throw new IllegalArgumentException("a gain of " + gainDb + " dB");
    }

    public boolean isNone() { return gainDb == 0 && ends.isNone() && hold.isEmpty(); }

    public OutputChain holding(Hold what) { return new OutputChain(gainDb, ends, Optional.of(what)); }
}
