package ablecrate.change;

import ablecrate.audio.Depth;
import ablecrate.audio.Figures;
import ablecrate.dsp.Decibels;
import ablecrate.dsp.Dither;
import ablecrate.dsp.FadeShape;
import ablecrate.option.MonoLaw;
import ablecrate.signal.Measurement;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/// What becomes of the samples: damage, levels and loops aside.
public sealed interface AudioChange extends Change {
    /// @param by which field says it
    record EncoderDelayRemoved(long frames, String by) implements AudioChange {
        @Override public Property property() { return Property.START; }

        @Override public Verdict verdict() { return Verdict.CONVERTED; }

        @Override public Text text() {
            return new Text(Figures.grouped(frames) + " frames late", "exact", "the encoder's delay is taken off, as its " + by + " says");
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(frames, 0, "frames")); }
    }

    /// The file does not say how late its sound starts.
    /// @param removedFrames what is taken off all the same; 0 for nothing
    record EncoderDelayUnknown(long likelyFrames, int rateHz, long removedFrames) implements AudioChange {
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
    record Trimmed(long frames, long startFrames, long endFrames, int rateHz, boolean isUpToLoop, By by) implements AudioChange {
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
    record StartPadded(double seconds, double silenceSeconds) implements AudioChange {
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
    record TempoMatched(double fromBpm, double toBpm, double cents, boolean isHeard, boolean losesKey) implements AudioChange {
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
    record TempoKept(String why) implements AudioChange {
        @Override public Property property() { return Property.TEMPO; }

        @Override public Verdict verdict() { return Verdict.KEPT; }

        @Override public Text text() { return new Text("as it is", "as it is", why); }
    }

    /// A sound in which nothing begins that could be started on.
    record AttackNotFound() implements AudioChange {
        @Override public Property property() { return Property.TRIM; }

        @Override public Verdict verdict() { return Verdict.ADJUSTED; }

        @Override public Text text() { return new Text("as it is", "as it is", "no attack is heard; its start stays"); }
    }

    /// A piece of a clip, with the fades that keep its ends from clicking.
    record Sliced(double clipSeconds, double startSeconds, double endSeconds, double fadeInMs, double fadeOutMs) implements AudioChange {
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

    /// @param factor of the channel that is off the most; 1 is full scale
    record OffsetRemoved(double factor) implements AudioChange {
        @Override public Property property() { return Property.OFFSET; }

        @Override public Verdict verdict() { return Verdict.CONVERTED; }

        @Override public Text text() {
            return new Text(String.format(Locale.ROOT, "%.2f %%", factor * 100), "none",
                    String.format(Locale.ROOT, "offset of %.1f dBFS taken off", Decibels.ofFactor(factor)));
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(factor * 100, 0, "%")); }
    }

    /// Stereo becomes mono.
    /// @param sides how they go together; empty where nobody listened, or only one of them is taken
    record Folded(MonoLaw law, Optional<Measurement.Sides> sides) implements AudioChange {
        /// What folding to the middle may lose before it is told (sides that have nothing in common lose 3 dB), what leaves nothing but the rounding of samples,
        /// and what a single second may lose.
        private static final double FOLD_LOSS_DB = 4.5, NOTHING_LEFT_DB = 120, CANCELLED_SECOND_DB = 9;

        private boolean isHarmless() { return sides.filter(Measurement.Sides::areTheSame).isPresent(); }

        @Override public Property property() { return Property.CHANNELS; }

        @Override public Verdict verdict() { return isHarmless() ? Verdict.CONVERTED : Verdict.REDUCED; }

        @Override public Text text() {
            return new Text("stereo", "mono", isHarmless() ? "both sides are the same" : sides.flatMap(Folded::loss).orElse(usual()));
        }

        private String usual() {
            return switch (law) {
                case MID -> "both sides folded to the middle, (L+R)/2";
                case LEFT -> "right channel dropped";
                case RIGHT -> "left channel dropped";
            };
        }

        private static Optional<String> loss(Measurement.Sides s) {
            if (s.isLeftSilent() || s.isRightSilent()) {
                String silent = s.isLeftSilent() ? "left" : "right", other = s.isLeftSilent() ? "right" : "left";
                return Optional.of("the " + silent + " side is silent, so the middle is 6 dB softer; take the " + other + " side alone");
            }
            if (s.foldLossDb() > FOLD_LOSS_DB)
                return Optional.of((s.foldLossDb() > NOTHING_LEFT_DB
                        ? "the sides cancel, nothing is left"
                        : String.format(Locale.ROOT, "the sides cancel, %.1f dB lost", s.foldLossDb())) + "; take the left or the right side instead");
            if (s.worstDb() > CANCELLED_SECOND_DB)
                return Optional.of(String.format(Locale.ROOT, "the sides cancel for a second at %.1f s, %s; take the left or the right side instead",
                        s.worstAtSeconds(),
                        s.worstDb() > NOTHING_LEFT_DB ? "nothing is left there" : String.format(Locale.ROOT, "%.1f dB lost there", s.worstDb())));
            return Optional.empty();
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(2, 1, "channels")); }
    }

    /// Mono becomes stereo.
    record Doubled() implements AudioChange {
        @Override public Property property() { return Property.CHANNELS; }

        @Override public Verdict verdict() { return Verdict.CONVERTED; }

        @Override public Text text() { return new Text("mono", "stereo", "the same on both sides"); }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(1, 2, "channels")); }
    }

    record ChannelsSplit(int channels) implements AudioChange {
        @Override public Property property() { return Property.CHANNELS; }

        @Override public Verdict verdict() { return Verdict.CONVERTED; }

        @Override public Text text() { return new Text(Told.channels(channels), channels + " × mono", "each channel a file of its own"); }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(channels, 1, "channels")); }
    }

    record ChannelsRefused(int channels) implements AudioChange {
        @Override public Property property() { return Property.CHANNELS; }

        @Override public Verdict verdict() { return Verdict.BLOCKED; }

        @Override public Text text() {
            return new Text(Told.channels(channels), "–", Told.channels(channels) + " do not fit; split them into mono files");
        }
    }

    /// @param roundedTo the depth that samples are rounded to where no change of depth tells it
    record RateConverted(int fromHz, int toHz, Optional<Depth> roundedTo, Dither dither) implements AudioChange {
        /// A rate that keeps less than this of the audible band loses something one can hear.
        private static final double AUDIBLE_HZ = 20_000;
        /// Of Nyquist, what rate conversion keeps whole; the converter's own figure.
        private static final double KEPT_BAND = 0.95;

        private double bandHz() { return KEPT_BAND * Math.min(fromHz, toHz) / 2; }

        @Override public Property property() { return Property.RATE; }

        @Override public Verdict verdict() { return toHz < fromHz && bandHz() < AUDIBLE_HZ ? Verdict.REDUCED : Verdict.CONVERTED; }

        @Override public Text text() {
            List<String> told = new ArrayList<>();
            if (toHz < fromHz) told.add(String.format(Locale.ROOT, "the band above %.1f kHz goes", bandHz() / 1000));
            roundedTo.ifPresent(depth -> told.add("rounded to " + depth.label() + ", " + Told.dither(dither)));
            return new Text(Figures.grouped(fromHz) + " Hz", Figures.grouped(toHz) + " Hz", String.join("; ", told));
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(fromHz, toHz, "Hz")); }
    }

    /// @param from empty for what was compressed with loss and has no depth of its own
    /// @param said the depth as the source has it, in words
    /// @param rounded the dither that samples are rounded with; empty where they are not rounded
    record DepthConverted(Optional<Depth> from, String said, Depth to, Optional<Dither> rounded) implements AudioChange {
        /// Fewer bits than these and the noise of rounding is heard.
        private static final int QUIET_BITS = 16;

        @Override public Property property() { return Property.DEPTH; }

        @Override public Verdict verdict() { return !to.isFloat() && to.bits() < QUIET_BITS && rounded.isPresent() ? Verdict.REDUCED : Verdict.CONVERTED; }

        @Override public Text text() {
            List<String> told = new ArrayList<>();
            if (from.isEmpty()) told.add("decoded, no bit depth of its own");
            rounded.ifPresent(dither -> told.add("rounded with " + Told.dither(dither)
                    + (dither == Dither.SHAPED ? "" : ", noise at " + Math.round(noiseDbfs(dither) * 10) / 10.0 + " dBFS")));
            return new Text(said, to.label(), String.join("; ", told));
        }

        /// 6.02 N + 1.76 dB for plain rounding, 4.77 dB more noise with triangular dither (Lipshitz, Wannamaker, Vanderkooy 1992).
        private double noiseDbfs(Dither dither) { return -(6.02 * to.bits() + 1.76) + (dither == Dither.NONE ? 0 : 4.77); }

        @Override public Optional<Numbers> numbers() { return from.map(f -> new Numbers(f.bits(), to.bits(), "bit")); }
    }

    /// Sounds of several depths that are joined in one.
    /// @param from each once
    record DepthsUnited(List<Depth> from, Depth to) implements AudioChange {
        public DepthsUnited {
            from = List.copyOf(from);
        }

        @Override public Property property() { return Property.DEPTH; }

        @Override public Verdict verdict() { return Verdict.CONVERTED; }

        @Override public Text text() {
            return new Text(from.stream().map(Depth::label).collect(Collectors.joining(", ")), to.label(), "one depth for all");
        }
    }

    /// Samples that turned out, while they were written, to need no more bits than they get.
    record DepthExact(Depth from, String said, Depth to) implements AudioChange {
        @Override public Property property() { return Property.DEPTH; }

        @Override public Verdict verdict() { return Verdict.CONVERTED; }

        @Override public Text text() {
            return new Text(said, to.label(), "its samples need no more bits than " + to.bits() + ": written exactly, without dither");
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(from.bits(), to.bits(), "bit")); }
    }

    record DepthRefused(Depth from, String format, List<Depth> accepted) implements AudioChange {
        @Override public Property property() { return Property.DEPTH; }

        @Override public Verdict verdict() { return Verdict.BLOCKED; }

        @Override public Text text() {
            return new Text(from.label(), "–", format + " has no depth that the destination takes ("
                    + accepted.stream().map(Depth::label).collect(Collectors.joining(", ")) + "); choose another container");
        }
    }

    record TooLong(double seconds, double mostSeconds) implements AudioChange {
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

    record Faded(FadedEnd start, FadedEnd end, int rateHz) implements AudioChange {
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
    record AttackFaded(double lostDb, int ofMs) implements AudioChange {
        @Override public Property property() { return Property.FADES; }

        @Override public Verdict verdict() { return Verdict.ADJUSTED; }

        @Override public Text text() {
            return new Text("none", "faded", String.format(Locale.ROOT, "the fade-in eats the attack: %.1f dB of its first %d ms", lostDb, ofMs));
        }
    }
}
