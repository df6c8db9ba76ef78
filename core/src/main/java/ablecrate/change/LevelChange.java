package ablecrate.change;

import ablecrate.dsp.LevelMeasure;
import ablecrate.option.LevelTarget;
import ablecrate.option.Limits;
import ablecrate.signal.Hold;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;

/// What becomes of the level.
public sealed interface LevelChange extends Change {
    @Override default Property property() { return Property.LEVEL; }

    /// What levels were to be set by.
    /// @param oneGainFor the folder or group that gets one gain together; empty where each sound has its own
    record Asked(Optional<LevelTarget> target, Optional<String> oneGainFor, Limits limits) {}

    /// @param deepestDb how far peaks are lowered at most
    record Limited(Hold hold, double deepestDb) {
        private String told() {
            String what = switch (hold) {
                case Hold.TruePeaks(double ceiling) -> String.format(Locale.ROOT, "limiter holds %.1f dBTP: ", ceiling);
                case Hold.Samples() -> "limiter holds full scale: ";
            };
            return what + "peaks lowered by " + (deepestDb < 0.1 ? "less than 0.1 dB" : String.format(Locale.ROOT, "up to %.1f dB", deepestDb));
        }
    }

    /// How a sound was measured.
    enum Measured {
        /// It is too short for the measure.
        NOT, PADDED, WHOLE
    }

    /// @param shown the measure of `from` and `to`
    /// @param missingDb what it is short of its target, negative where over it; empty where it is met
    /// @param clippedDb how far beyond full scale samples are cut off; empty where none are
    record Leveled(Asked asked, LevelMeasure shown, double from, double to, double gainDb, Measured measured, Optional<Limited> limited,
            OptionalDouble missingDb, OptionalDouble clippedDb) implements LevelChange {
        @Override public Verdict verdict() {
            return clippedDb.isPresent()
                    ? Verdict.REDUCED
                    : measured == Measured.NOT || limited.isPresent() || missingDb.isPresent() ? Verdict.ADJUSTED : Verdict.CONVERTED;
        }

        @Override public Text text() {
            List<String> told = new ArrayList<>();
            // What is missing comes first: a line in a list shows no more than its beginning.
            if (missingDb.isPresent() && asked.target().isPresent()) told.add(missing(asked.target().get(), missingDb.getAsDouble()));
            limited.ifPresent(l -> told.add(l.told()));
            told.add(gain());
            if (asked.oneGainFor().isPresent() && asked.target().isEmpty() && gainDb < 0) told.add("as one with its folder");
            if (clippedDb.isPresent()) told.add(String.format(Locale.ROOT, "%.2f dB beyond full scale are cut off", clippedDb.getAsDouble()));
            return new Text(figure(from), figure(to), String.join("; ", told));
        }

        private String gain() {
            StringBuilder told = new StringBuilder(String.format(Locale.ROOT, "gain %+.2f dB", gainDb));
            asked.target().ifPresent(target -> {
                told.append(" by ").append(target.measure().label());
                asked.oneGainFor().ifPresent(group -> told.append(", one gain for ").append(group.isEmpty() ? "the folder" : "'" + group + "'"));
                told.append(switch (measured) {
                    case NOT -> "; too short for " + target.measure().label() + ", level by another measure";
                    case PADDED -> ", padded to 400 ms";
                    case WHOLE -> "";
                });
            });
            return told.toString();
        }

        private String missing(LevelTarget target, double db) {
            String why = limited.isPresent()
                    ? String.format(Locale.ROOT, "more than %.1f dB of limiting would be needed", asked.limits().mostLimitingDb())
                    : asked.limits().ceilingDbtp().map(c -> String.format(Locale.ROOT, "held by the ceiling of %.1f dBTP", c)).orElse("held by full scale");
            return String.format(Locale.ROOT, "%.1f dB %s %.1f %s: %s", Math.abs(db), db > 0 ? "short of" : "over", target.value(), target.measure().unit(),
                    why);
        }

        private String figure(double value) { return String.format(Locale.ROOT, "%.1f %s", value, shown.unit()); }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(from, to, shown.unit())); }
    }

    /// A sound that is made louder, as zones play it louder than the target can say; they are as much softer.
    /// @param from,to peaks in dBFS
    /// @param wantedDb which it had no headroom for where it is more than `gainDb`
    record Raised(double from, double to, double gainDb, double wantedDb) implements LevelChange {
        @Override public Verdict verdict() { return Verdict.CONVERTED; }

        @Override public Text text() {
            String missing = wantedDb - gainDb > 0.1 ? String.format(Locale.ROOT, "; for %.1f dB more there is no headroom", wantedDb - gainDb) : "";
            return new Text(figure(from), figure(to),
                    String.format(Locale.ROOT, "gain %+.1f dB, and as much less in the zones that play it: they were louder than the target can say%s", gainDb,
                            missing));
        }

        private static String figure(double dbfs) { return String.format(Locale.ROOT, "%.1f dBFS", dbfs); }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(from, to, "dBFS")); }
    }

    /// A sound that has no level.
    record Silent() implements LevelChange {
        @Override public Verdict verdict() { return Verdict.KEPT; }

        @Override public Text text() { return new Text("silent", "silent", "nothing to set a level by"); }
    }

    record NotHeardYet() implements LevelChange {
        @Override public Verdict verdict() { return Verdict.KEPT; }

        @Override public Text text() { return new Text("not heard yet", "–", "it is being listened to"); }
    }

    /// Samples beyond full scale, found while planning or while packing.
    /// @param overDb how far the farthest
    /// @param clips whether they are cut off, as chosen, and not limited
    /// @param output in which it turned out while it was written; empty where it was known before
    record BeyondFullScale(double overDb, boolean clips, Optional<String> output) implements LevelChange {
        @Override public Verdict verdict() { return clips ? Verdict.REDUCED : Verdict.ADJUSTED; }

        @Override public Text text() {
            return new Text(String.format(Locale.ROOT, "%+.2f dBFS", overDb), "0.00 dBFS", clips
                    ? String.format(Locale.ROOT, "samples lie up to %.2f dB beyond full scale and are cut off, as chosen", overDb)
                    : String.format(Locale.ROOT, "samples would lie up to %.2f dB beyond full scale: the limiter takes just that", overDb));
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(overDb, 0, "dBFS")); }
    }
}
