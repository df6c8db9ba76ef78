package ablecrate.planner.sound;

import ablecrate.signal.Measurement;
import java.util.Optional;

/// A question that only listening answers, and what is known of the answer.
/// @param isNeeded whether nothing is settled before it is answered; without, the answer only adds to what is told
/// @param known empty while nobody has listened
record Answer<T extends Measurement>(Measurement.Request request, Class<T> kind, boolean isNeeded, Optional<Measurement> known) {
    Optional<T> found() { return known.filter(kind::isInstance).map(kind::cast); }

    boolean isMissing() { return known.isEmpty(); }

    /// Whether what follows from it has to wait.
    boolean isAwaited() { return isNeeded && isMissing(); }

    /// Why the sound could not be read to its end.
    Optional<String> failure() { return known.filter(Measurement.Failed.class::isInstance).map(m -> ((Measurement.Failed) m).reason()); }
}
