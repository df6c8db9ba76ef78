package ablecrate.change;

import ablecrate.audio.Figures;
import ablecrate.dsp.FadeShape;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/// What part of a sound is taken: where it starts and ends, how fast it goes, and how its ends are faded.
public sealed interface PartChange extends Change {
    /// @param by which field says it
    record EncoderDelayRemoved(long frames, String by) implements PartChange {
        @Override public Property property() { return Property.START; }

        @Override public Verdict verdict() { return Verdict.CONVERTED; }

        @Override public Text text() {
            return new Text(Figures.grouped(frames) + " frames late", "exact", "the encoder's delay is taken off, as its " + by + " says");
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(frames, 0, "frames")); }
    }

    /// The file does not say how late its sound starts.
    /// @param removedFrames what is taken off all the same; 0 for nothing
    record EncoderDelayUnknown(long likelyFrames, int rateHz, long removedFrames) implements PartChange {
        @Override public Property property() { return Property.START; }

        @Override public Verdict verdict() { return Verdict.ADJUSTED; }

        @Override public Text text() {
            return removedFrames > 0
                    ? new Text("unknown", "lined up",
                            "the file does not say where its sound starts: " + Figures.grouped(removedFrames) + " frames are taken off")
                    : new Text("unknown", "as it is", String.format(Locale.ROOT,
                            "the file does not say where its sound starts, likely %,d frames (%.0f ms) late; line it up", likelyFrames,
                            likelyFrames * 1000.0 / rateHz));
        }
    }

    /// @param endFrames that are taken off; below 0 as many of silence are added
    /// @param isUpToLoop whether less is taken off than asked, as a loop lies there
    record Trimmed(long frames, long startFrames, long endFrames, int rateHz, boolean isUpToLoop, By by) implements PartChange {
        /// What decides where it starts and ends.
        public enum By {
            MARKS(""), SILENCE(""), STEMS("as all stems of the folder"), ATTACK("starts on its attack");

            private final String text;

            By(String text) { this.text = text; }
        }

        private double seconds(long frames) { return (double) frames / rateHz; }

        private long left() { return frames - startFrames - endFrames; }

        @Override public Property property() { return Property.TRIM; }

        @Override public Verdict verdict() { return Verdict.CONVERTED; }

        @Override public Text text() {
            return new Text(String.format(Locale.ROOT, "%.3f s", seconds(frames)), String.format(Locale.ROOT, "%.3f s", seconds(left())),
                    Stream.of(cut(startFrames, "start"), cut(endFrames, "end"), isUpToLoop ? "up to the loop" : by.text).filter(Predicate.not(String::isEmpty))
                            .collect(Collectors.joining(", ")));
        }

        private String cut(long frames, String side) {
            if (frames < 0) return String.format(Locale.ROOT, "%.3f s of silence added at the %s", -seconds(frames), side);
            return frames == 0 ? "" : String.format(Locale.ROOT, "%.1f ms off the %s", frames * 1000.0 / rateHz, side);
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(seconds(frames), seconds(left()), "s")); }
    }

    /// A stem that begins later than the first of its folder.
    /// @param silenceSeconds that come in front of it
    record StartPadded(double seconds, double silenceSeconds) implements PartChange {
        @Override public Property property() { return Property.START; }

        @Override public Verdict verdict() { return Verdict.CONVERTED; }

        @Override public Text text() {
            return new Text("by its time stamp", "with the first of the stems",
                    String.format(Locale.ROOT, "%.3f s of silence added at the start", silenceSeconds));
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(seconds, seconds + silenceSeconds, "s")); }
    }

    /// A clip that is played faster or slower.
    /// @param cents by which it sounds higher
    /// @param isHeard whether the tempo before was heard, and not said
    /// @param losesKey whether a key that it said is left out, as it is no longer true
    record TempoMatched(double fromBpm, double toBpm, double cents, boolean isHeard, boolean losesKey) implements PartChange {
        @Override public Property property() { return Property.TEMPO; }

        @Override public Verdict verdict() { return losesKey ? Verdict.REDUCED : Verdict.ADJUSTED; }

        @Override public Text text() {
            return new Text(String.format(Locale.ROOT, "%s bpm%s", Told.bpm(fromBpm), isHeard ? ", heard" : ""), Told.bpm(toBpm) + " bpm",
                    String.format(Locale.ROOT, "played %.4f times as fast, %.0f cents %s%s", toBpm / fromBpm, Math.abs(cents), cents < 0 ? "lower" : "higher",
                            losesKey ? "; the key that it says is left out" : ""));
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(fromBpm, toBpm, "bpm")); }
    }

    /// A clip that was to go at another tempo and does not.
    record TempoKept(String why) implements PartChange {
        @Override public Property property() { return Property.TEMPO; }

        @Override public Verdict verdict() { return Verdict.KEPT; }

        @Override public Text text() { return new Text("as it is", "as it is", why); }
    }

    /// A sound in which nothing begins that could be started on.
    record AttackNotFound() implements PartChange {
        @Override public Property property() { return Property.TRIM; }

        @Override public Verdict verdict() { return Verdict.ADJUSTED; }

        @Override public Text text() { return new Text("as it is", "as it is", "no attack is heard; its start stays"); }
    }

    /// A piece of a clip, with the fades that keep its ends from clicking.
    record Sliced(double clipSeconds, double startSeconds, double endSeconds, double fadeInMs, double fadeOutMs) implements PartChange {
        @Override public Property property() { return Property.TRIM; }

        @Override public Verdict verdict() { return Verdict.CONVERTED; }

        @Override public Text text() {
            return new Text(String.format(Locale.ROOT, "%.3f…%.3f of %.3f s", startSeconds, endSeconds, clipSeconds),
                    String.format(Locale.ROOT, "%.3f s", endSeconds - startSeconds),
                    String.format(Locale.ROOT, "from %.3f to %.3f s%s", startSeconds, endSeconds,
                            fadeInMs == 0 && fadeOutMs == 0 ? "" : String.format(Locale.ROOT, ", fades of %.0f and %.0f ms", fadeInMs, fadeOutMs)));
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(clipSeconds, endSeconds - startSeconds, "s")); }
    }

    record TooLong(double seconds, double mostSeconds) implements PartChange {
        @Override public Property property() { return Property.LENGTH; }

        @Override public Verdict verdict() { return Verdict.BLOCKED; }

        @Override public Text text() {
            return new Text(String.format(Locale.ROOT, "%.1f s", seconds), "–",
                    String.format(Locale.ROOT, "%.1f s long, the destination takes %.0f s; shorten it first", seconds, mostSeconds));
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(seconds, mostSeconds, "s")); }
    }

    /// One end of a sound.
    /// @param frames of the result that fade; fewer than asked for where a loop begins
    record FadedEnd(long askedFrames, long frames, FadeShape shape) {
        boolean isShort() { return frames < askedFrames; }

        private static String ms(double ms) { return String.format(Locale.ROOT, ms < 0.95 ? "%.1f" : "%.0f", ms); }

        private String told(String which, int rateHz) {
            return frames == 0
                    ? "no fade-" + which + ": the loop reaches there"
                    : String.format(Locale.ROOT, "%s ms %s, %s%s", ms(frames * 1000.0 / rateHz), which, shape.label(),
                            isShort() ? " (shortened, the loop begins there)" : "");
        }
    }

    record Faded(FadedEnd start, FadedEnd end, int rateHz) implements PartChange {
        @Override public Property property() { return Property.FADES; }

        @Override public Verdict verdict() { return start.isShort() || end.isShort() ? Verdict.ADJUSTED : Verdict.CONVERTED; }

        @Override public Text text() {
            List<String> told = new ArrayList<>();
            if (start.askedFrames() > 0) told.add(start.told("in", rateHz));
            if (end.askedFrames() > 0) told.add(end.told("out", rateHz));
            return new Text("none", start.frames() + end.frames() == 0 ? "none" : "faded", String.join("; ", told));
        }
    }

    /// A fade-in that takes too much of an attack.
    record AttackFaded(double lostDb, int ofMs) implements PartChange {
        @Override public Property property() { return Property.FADES; }

        @Override public Verdict verdict() { return Verdict.ADJUSTED; }

        @Override public Text text() {
            return new Text("none", "faded", String.format(Locale.ROOT, "the fade-in eats the attack: %.1f dB of its first %d ms", lostDb, ofMs));
        }
    }
}
