package ablecrate.change;

import ablecrate.dsp.FaultFinder;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;

/// Damage in the sound, and what becomes of it.
public sealed interface DamageChange extends Change {
    @Override default Property property() { return Property.DAMAGE; }

    /// What was decoded has another checksum than the file states.
    record ChecksumWrong() implements DamageChange {
        @Override public Verdict verdict() { return Verdict.REDUCED; }

        @Override public Text text() {
            return new Text("checksum", "wrong", "what was decoded is not what was coded: the file's own checksum differs");
        }
    }

    /// @param counts of each kind, in the order of kinds
    /// @param first the first few
    /// @param mendedClicks how many are filled in
    record DamageFound(Map<FaultFinder.Kind, Long> counts, List<FaultFinder.Fault> first, int rateHz, int mendedClicks) implements DamageChange {
        /// How many are told with their places.
        public static final int TOLD = 5;

        private long count() { return counts.values().stream().mapToLong(n -> n).sum(); }

        @Override public Verdict verdict() { return mendedClicks == 0 ? Verdict.KEPT : mendedClicks == count() ? Verdict.CONVERTED : Verdict.ADJUSTED; }

        @Override public Text text() {
            String before = counts.entrySet().stream().map(e -> Told.count(e.getValue(), e.getKey().label())).collect(Collectors.joining(", ")),
                    places = first.stream()
                            .map(f -> String.format(Locale.ROOT, "%s at %.3f s", f.kind().label(), (double) f.frames().start() / rateHz))
                            .collect(Collectors.joining(", "));
            return new Text(before, mendedClicks > 0 ? Told.count(mendedClicks, "click") + " mended" : "as they are",
                    places + (count() > first.size() ? " and more" : ""));
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(count(), count() - mendedClicks, "faults")); }
    }

    /// Frames of a float file that are no number.
    record FramesHeld(long frames) implements DamageChange {
        @Override public Verdict verdict() { return Verdict.REDUCED; }

        @Override public Text text() {
            String count = Told.count(frames, "frame");
            return new Text(count + " of no number", "held",
                    count + " of the source " + (frames == 1 ? "is" : "are") + " no number: each takes the value of the one before it");
        }
    }

    /// Stretches that cannot be decoded.
    record FramesSilenced(double seconds, int places, double firstAtSeconds) implements DamageChange {
        @Override public Verdict verdict() { return Verdict.REDUCED; }

        @Override public Text text() {
            String length = String.format(Locale.ROOT, "%.3f s", seconds), at = String.format(Locale.ROOT, "%.3f s", firstAtSeconds);
            return new Text(length + " that cannot be decoded", "silent", length + " of the source cannot be decoded and "
                    + (places == 1 ? "is silent, from " + at + " on" : "are silent, in " + places + " places from " + at + " on"));
        }
    }
}
