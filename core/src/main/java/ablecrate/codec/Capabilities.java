package ablecrate.codec;

import ablecrate.audio.Depth;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.TextField;
import java.util.EnumSet;
import java.util.Set;

/// What a format can carry. The planner derives every verdict from this and the sound; the table
/// "what survives where" is printed from it.
/// @param maxFileBytes the largest file the container can describe
/// @param cues cue points, at most
public record Capabilities(Set<Depth> depths, int maxChannels, long maxFileBytes, Loops loops, FineTune fineTune, boolean rootKey,
        boolean ranges, GainDb gain, int cues, boolean cueLabels, boolean cueNotesAndLengths, boolean broadcast,
        Set<TextField> texts, Compressing compressing) {

    /// A format of plain samples at any rate.
    public Capabilities(Set<Depth> depths, int maxChannels, long maxFileBytes, Loops loops, FineTune fineTune, boolean rootKey, boolean ranges, GainDb gain,
            int cues, boolean cueLabels, boolean cueNotesAndLengths, boolean broadcast, Set<TextField> texts) {
        this(depths, maxChannels, maxFileBytes, loops, fineTune, rootKey, ranges, gain, cues, cueLabels, cueNotesAndLengths, broadcast, texts,
                Compressing.NONE);
    }

    /// @param isLossy whether something of the audio is lost; there is no bit depth then
    /// @param ratesHz that can be coded; empty is any
    public record Compressing(boolean isLossy, Set<Integer> ratesHz) {
        public static final Compressing NONE = new Compressing(false, Set.of());

        public Compressing {
            ratesHz = Set.copyOf(ratesHz);
        }
    }

    /// @param sustain loops while the key is held, at most
    /// @param release loops after it was let go, at most
    /// @param usedByPlace whether the format has no word for when a loop is played, see [ablecrate.instrument.Loop#usedByPlace]
    public record Loops(int sustain, int release, Set<LoopMode> modes, boolean playCount, boolean usedByPlace, Frames frames) {
        /// @param shortest,longest frames of a loop
        /// @param around frames that the sound has in front of its loop and behind it, at least
        public record Frames(long shortest, long longest, long around) {
            public static final Frames ANY = new Frames(1, Long.MAX_VALUE, 0);

            /// What both ask for.
            public Frames and(Frames other) {
                return new Frames(Math.max(shortest, other.shortest), Math.min(longest, other.longest), Math.max(around, other.around));
            }
        }

        public static final Loops NONE = new Loops(0, 0, Set.of(), false);

        /// In frames, both ways: it is held in memory.
        private static final long LONGEST_WRITTEN_OUT = 1 << 22;

        public Loops(int sustain, int release, Set<LoopMode> modes, boolean playCount) {
            this(sustain, release, modes, playCount, false, Frames.ANY);
        }

        public Loops with(Frames others) { return new Loops(sustain, release, modes, playCount, usedByPlace, others); }

        /// How a loop of a mode is written.
        public LoopMode written(LoopMode mode) { return modes.contains(mode) ? mode : LoopMode.FORWARD; }

        /// Whether a loop goes back and forth at the result as well: as it is, or written out as one that goes forward.
        /// @param length of it there, in frames
        public boolean alternates(LoopMode mode, long length) {
            return mode == LoopMode.ALTERNATING && (modes.contains(mode) || 2 * (length - 1) <= Math.min(frames.longest(), LONGEST_WRITTEN_OUT));
        }

        /// Whether a loop of a length can be played: one that goes forward may be made longer by whole turns.
        /// @param length of it at the result, in frames
        public boolean plays(LoopMode mode, long length) {
            return length <= frames.longest() && (length >= frames.shortest() || written(mode) == LoopMode.FORWARD);
        }

        /// Any number, in any mode, as `smpl` holds them.
        public static Loops any() {
            return new Loops(Integer.MAX_VALUE, Integer.MAX_VALUE, EnumSet.allOf(LoopMode.class), true, true, Frames.ANY);
        }
    }

    /// How finely a tuning offset is kept.
    public enum FineTune { NONE, WHOLE_CENTS, EXACT }

    /// Whole decibels between two bounds; empty when both are 0.
    public record GainDb(int lowest, int highest) {
        public static final GainDb NONE = new GainDb(0, 0);

        public boolean exists() { return lowest < highest; }
    }

    public Capabilities {
        depths = Set.copyOf(depths);
        texts = Set.copyOf(texts);
    }
}
