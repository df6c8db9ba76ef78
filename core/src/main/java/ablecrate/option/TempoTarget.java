package ablecrate.option;

import java.util.Optional;

/// The tempo that clips are brought to by playing them faster or slower.
public sealed interface TempoTarget {
    /// Of the session that is packed into.
    record OfSession() implements TempoTarget {}

    record Bpm(double bpm) implements TempoTarget {
        public Bpm {
            Bounds.require(bpm >= LOWEST_BPM && bpm <= HIGHEST_BPM, "a tempo lies from 20 to 400 bpm, not", bpm);
        }
    }

    double LOWEST_BPM = 20, HIGHEST_BPM = 400;
    String SESSION = "session";

    /// @param text beats a minute, `session`, or `none`
    static Optional<TempoTarget> read(String text) {
        if (text.equals(OptionKinds.NONE)) return Optional.empty();
        if (text.equals(SESSION)) return Optional.of(new OfSession());
        try {
            return Optional.of(new Bpm(Double.parseDouble(text.replace(" bpm", ""))));
        } catch (NumberFormatException e) {
            throw new IllegalArgumentException("'" + text + "' is no tempo; say beats a minute as 120, session, or none");
        }
    }

    static String write(Optional<TempoTarget> target) {
        return target.map(t -> switch (t) {
            case OfSession() -> SESSION;
            case Bpm(double bpm) -> OptionKinds.number(bpm);
        }).orElse(OptionKinds.NONE);
    }
}
