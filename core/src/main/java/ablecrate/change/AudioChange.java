package ablecrate.change;

import ablecrate.audio.Depth;
import ablecrate.audio.Figures;
import ablecrate.dsp.Decibels;
import ablecrate.dsp.Dither;
import ablecrate.option.MonoLaw;
import ablecrate.signal.Measurement;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;

/// What becomes of the samples: damage, levels, loops and ends aside.
public sealed interface AudioChange extends Change {
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
}
