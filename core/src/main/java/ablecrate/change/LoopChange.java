package ablecrate.change;

import ablecrate.audio.Figures;
import ablecrate.audio.FrameRange;
import ablecrate.codec.Capabilities;
import ablecrate.dsp.Seam;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Loop;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;

/// What becomes of loops.
public sealed interface LoopChange extends Change {
    @Override default Property property() { return Property.LOOPS; }

    /// @param format that has no loops, where that is why
    record LoopsDropped(int count, Lack why, String format) implements LoopChange {
        @Override public Verdict verdict() { return Verdict.REDUCED; }

        @Override public Text text() {
            String loops = Told.count(count, "loop");
            return new Text(loops, "none", loops + " dropped: " + switch (why) {
                case CHOSEN -> Told.AS_CHOSEN;
                case DESTINATION -> "the destination plays no loops";
                case FORMAT -> format + " carries no loops";
            });
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(count, 0, "loops")); }
    }

    /// A format that holds fewer loops, or simpler ones.
    /// @param madeForward loops that went backward or to and fro
    /// @param madeEndless loops that were to be played a number of times
    record LoopsReduced(int from, int to, int tooShort, int tooLong, int madeForward, int madeEndless, String format) implements LoopChange {
        @Override public Verdict verdict() { return Verdict.REDUCED; }

        @Override public Text text() {
            List<String> told = new ArrayList<>();
            if (tooShort > 0) told.add(Told.count(tooShort, "loop") + " dropped: shorter than the destination plays");
            if (tooLong > 0) told.add(Told.count(tooLong, "loop") + " dropped: longer than the destination plays");
            if (to + tooShort + tooLong < from)
                told.add(Told.count(from - to - tooShort - tooLong, "loop") + " dropped: " + format + " holds one for the held key and one for release");
            if (madeForward > 0) told.add(Told.count(madeForward, "loop") + " that went back and forth, or backward, made forward");
            if (madeEndless > 0) told.add("play count of " + Told.count(madeEndless, "loop") + " made endless");
            return new Text(Told.count(from, "loop"), Told.count(to, "loop"), String.join("; ", told));
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(from, to, "loops")); }
    }

    /// Loops that the user set; positions in frames of the source.
    /// @param from,to absent where there is none
    record LoopsSet(Optional<Place> from, Optional<Place> to) implements LoopChange {
        public static LoopsSet of(List<Loop> before, List<Loop> after) { return new LoopsSet(place(before), place(after)); }

        private static Optional<Place> place(List<Loop> loops) {
            return loops.isEmpty() ? Optional.empty() : Optional.of(new Place(loops.getFirst().frames(), loops.size()));
        }

        @Override public Verdict verdict() { return Verdict.CONVERTED; }

        @Override public Text text() {
            return new Text(from.map(Place::told).orElse("none"), to.map(Place::told).orElse("none"),
                    Told.count(Math.max(from.map(Place::count).orElse(0), to.map(Place::count).orElse(0)), "loop") + " "
                            + (from.isEmpty() ? "added" : to.isEmpty() ? "removed" : "set") + " by hand");
        }

        @Override public Optional<Numbers> numbers() {
            return from.isEmpty() || to.isEmpty()
                    ? Optional.empty()
                    : Optional.of(new Numbers(from.get().first().start(), to.get().first().start(), "frames"));
        }
    }

    /// A loop that was found by listening.
    /// @param loop in frames of the source
    /// @param riseDb by which the sound is raised within the loop; 0 for not at all
    /// @param bump change across the seam over what the sound changes by itself; 1 and less passes
    record LoopFound(FrameRange loop, LoopMode mode, double crossfadeMs, double riseDb, double bump, double centsOff) implements LoopChange {
        @Override public Verdict verdict() { return Verdict.ADJUSTED; }

        @Override public Text text() {
            return new Text("none", new Place(loop, 1).told(),
                    mode == LoopMode.ALTERNATING
                            ? String.format(Locale.ROOT, "loop found, alternating; its turns change the sound %.1f times as much as it changes by itself",
                                    bump)
                            : String.format(Locale.ROOT,
                                    "loop found, %s; its seam changes the sound %.1f times as much as it changes by itself, %.1f cents off",
                                    seam(crossfadeMs, riseDb), bump, centsOff));
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(0, 1, "loops")); }
    }

    /// How fast sounds die away for which loops were found.
    /// @param zones that play them
    /// @param leastDb,mostDb by which they fall, in a second
    record Falls(int zones, double leastDb, double mostDb) {
        private String told() {
            String least = String.format(Locale.ROOT, "%.1f", leastDb), most = String.format(Locale.ROOT, "%.1f dB a second", mostDb);
            return most.startsWith(least + " ") ? most : least + " to " + most;
        }

        private Numbers numbers() { return new Numbers(leastDb, mostDb, "dB a second"); }
    }

    /// Zones that play a loop which was found, and whose envelope makes notes die away as their sounds did.
    record LoopsDieAway(Falls falls, List<String> each) implements LoopChange {
        @Override public Verdict verdict() { return Verdict.ADJUSTED; }

        @Override public Text text() {
            return new Text("no decay", falls.told(), "notes in found loops die away as their sounds did: the envelope of " + Told.count(falls.zones, "zone")
                    + " falls by " + falls.told());
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(falls.numbers()); }
    }

    /// The same where the format has no envelope.
    record LoopsGoOn(Falls falls, String format, List<String> each) implements LoopChange {
        @Override public Verdict verdict() { return Verdict.ADJUSTED; }

        @Override public Text text() {
            return new Text(falls.told(), "no decay", "notes in found loops go on as loud while a key is held: " + format + " has no envelope for "
                    + Told.count(falls.zones, "zone") + ", whose sounds fall by " + falls.told());
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(falls.numbers()); }
    }

    /// @param best how much the best that was found is heard, 1 being where it begins; empty where nothing was found
    record NoLoopFound(Optional<Double> best) implements LoopChange {
        @Override public Verdict verdict() { return Verdict.KEPT; }

        @Override public Text text() {
            return new Text("none", "none",
                    "no loop was found whose seam passes" + best.map(b -> String.format(Locale.ROOT, "; the best is %.1f times what passes", b)).orElse(""));
        }
    }

    /// A loop that is heard, and the better one that takes its place.
    /// @param old,renewed in frames of the source
    /// @param costBefore,costAfter how much they are heard; 1 is the most that passes
    record LoopRenewed(FrameRange old, FrameRange renewed, double crossfadeMs, double riseDb, double costBefore, double costAfter) implements LoopChange {
        @Override public Verdict verdict() { return Verdict.ADJUSTED; }

        @Override public Text text() {
            return new Text(new Place(old, 1).told(), new Place(renewed, 1).told(),
                    String.format(Locale.ROOT, "its seam was heard, %.1f times what passes; a better loop was found, %s, %.1f times", costBefore,
                            seam(crossfadeMs, riseDb), costAfter));
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(old.start(), renewed.start(), "frames")); }
    }

    /// One loop for both sides of a sound that have each their own.
    /// @param left,right,taken in frames of the source
    /// @param costLeft,costRight how much each is heard on the worse side; 1 is the most that passes
    /// @param costTaken likewise
    record SideLoopsUnited(FrameRange left, FrameRange right, FrameRange taken, double crossfadeMs, double riseDb, double costLeft, double costRight,
            double costTaken)
            implements
                LoopChange {
        @Override public Verdict verdict() { return Verdict.ADJUSTED; }

        @Override public Text text() {
            String sides = String.format(Locale.ROOT,
                    "left and right loop differ; on both sides the left one is heard %.1f, the right one %.1f times what passes",
                    costLeft, costRight);
            return new Text("L " + new Place(left, 1).told() + ", R " + new Place(right, 1).told(), new Place(taken, 1).told(),
                    sides + (taken.equals(left)
                            ? ": the left one is taken"
                            : taken.equals(right)
                                    ? ": the right one is taken"
                                    : String.format(Locale.ROOT, ": another that was found is taken, %s, %.1f times", seam(crossfadeMs, riseDb), costTaken)));
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(left.start(), taken.start(), "frames")); }
    }

    /// A loop that is heard, for which no better one was found.
    /// @param cost how much it is heard, 1 being where it begins
    record LoopStaysHeard(FrameRange loop, double cost) implements LoopChange {
        @Override public Verdict verdict() { return Verdict.KEPT; }

        @Override public Text text() {
            String place = new Place(loop, 1).told();
            return new Text(place, place, String.format(Locale.ROOT, "its seam is heard, %.1f times what passes; no loop was found that is not", cost));
        }
    }

    /// A loop in which the decay of the sound is made up for, by the user's choice.
    record LoopRaised(double riseDb) implements LoopChange {
        @Override public Verdict verdict() { return Verdict.ADJUSTED; }

        @Override public Text text() { return new Text("decays", "even", raised(riseDb)); }
    }

    private static String raised(double riseDb) {
        return String.format(Locale.ROOT, "raised by %.1f dB up to its end, as the sound decays", riseDb);
    }

    private static String seam(double crossfadeMs, double riseDb) {
        return (crossfadeMs > 0 ? String.format(Locale.ROOT, "crossfade of %.0f ms", crossfadeMs) : "no crossfade")
                + (riseDb > 0 ? ", " + raised(riseDb) : "");
    }

    /// The first of several loops, and how many there are.
    record Place(FrameRange first, int count) {
        private String told() {
            return Figures.grouped(first.start()) + "…" + Figures.grouped(first.end()) + (count > 1 ? " and " + (count - 1) + " more" : "");
        }
    }

    /// What is known of the seam.
    /// @param crossfadeMs what is blended into it; 0 for nothing
    /// @param beforeDb,afterDb its step, in dB of the sound; empty where nobody listened
    record SeamSteps(double crossfadeMs, OptionalDouble beforeDb, OptionalDouble afterDb) {
        public static final SeamSteps UNKNOWN = new SeamSteps(0, OptionalDouble.empty(), OptionalDouble.empty());

        public boolean isTold() { return crossfadeMs > 0 || beforeDb.isPresent() && afterDb.isPresent(); }

        private String told() {
            List<String> told = new ArrayList<>();
            if (crossfadeMs > 0) told.add(String.format(Locale.ROOT, "crossfade of %.0f ms", crossfadeMs));
            if (beforeDb.isPresent() && afterDb.isPresent())
                told.add("step at the seam " + step(beforeDb.getAsDouble()) + " → " + step(afterDb.getAsDouble()));
            return String.join("; ", told);
        }

        private static String step(double db) { return db <= Seam.NONE_DB ? "none" : String.format(Locale.ROOT, "%.1f dB", db); }
    }

    /// What a fitted ratio of rates does to the loop that rules it.
    /// @param tuningCents what the player is told to add
    record Fitted(long fromFrames, long toFrames, double tuningCents) {}

    /// Loops that moved with the rate.
    /// @param shiftFrames how far the farthest end is from where it would be exactly
    /// @param leftCents of pitch that nothing pays for
    record LoopsMoved(Place from, Place to, double shiftFrames, double leftCents, Optional<Fitted> fitted, SeamSteps seam) implements LoopChange {
        /// Positions nearer to a whole frame than this are whole; errors of pitch below this are none.
        private static final double WHOLE = 1e-9, HEARD_CENTS = 0.005;

        private boolean isExact() { return shiftFrames < WHOLE && Math.abs(leftCents) < HEARD_CENTS; }

        @Override public Verdict verdict() { return isExact() ? Verdict.CONVERTED : Verdict.ADJUSTED; }

        @Override public Text text() {
            List<String> told = new ArrayList<>();
            String loops = Told.count(to.count(), "loop");
            told.add(isExact()
                    ? loops + " moved with the rate, exactly"
                    : String.format(Locale.ROOT, "%s moved, at most %.1f frames", loops, Math.max(shiftFrames, 0.05)));
            fitted.ifPresent(f -> told.add(String.format(Locale.ROOT, "%,d → %,d frames long", f.fromFrames(), f.toFrames())));
            fitted.filter(f -> f.tuningCents() != 0).ifPresent(f -> told.add(String.format(Locale.ROOT, "%+.2f cents moved to tuning", f.tuningCents())));
            if (!isExact()) told.add(String.format(Locale.ROOT, "%.2f cents left over", Math.abs(leftCents)));
            if (seam.isTold()) told.add(seam.told());
            return new Text(from.told(), to.told(), String.join("; ", told));
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(from.first().start(), to.first().start(), "frames")); }
    }

    /// Loops that stay where they are while something is done at their seam.
    record SeamBlended(Place from, Place to, SeamSteps seam) implements LoopChange {
        @Override public Verdict verdict() { return Verdict.CONVERTED; }

        @Override public Text text() { return new Text(from.told(), to.told(), seam.told()); }
    }

    /// A loop that goes on for some frames, so that its destination plays it. It sounds as before.
    /// @param frames that are added to the sound
    /// @param wanted of loops at the destination
    record LoopExtended(Place from, Place to, long frames, Capabilities.Loops.Frames wanted) implements LoopChange {
        @Override public Verdict verdict() { return Verdict.CONVERTED; }

        @Override public Text text() {
            List<String> asked = new ArrayList<>();
            if (wanted.shortest() > 1) asked.add("loops of at least " + Told.count(wanted.shortest(), "frame"));
            if (wanted.around() > 0) asked.add(Told.count(wanted.around(), "frame") + " in front of a loop and behind it");
            return new Text(from.told(), to.told(),
                    "goes on for " + Told.count(frames, "more frame") + ", copied from the loop: the destination wants " + String.join(", and ", asked));
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(from.first().length(), to.first().length(), "frames")); }
    }

    /// An alternating loop, written out as one that goes forward: there and back. It sounds as before.
    /// @param frames that are added to the sound
    record LoopWrittenOut(Place from, Place to, long frames) implements LoopChange {
        @Override public Verdict verdict() { return Verdict.CONVERTED; }

        @Override public Text text() {
            return new Text(from.told() + ", alternating", to.told() + ", forward",
                    "alternating loop written out there and back, " + Told.count(frames, "more frame") + ": the destination plays loops forward only");
        }

        @Override public Optional<Numbers> numbers() { return Optional.of(new Numbers(from.first().length(), to.first().length(), "frames")); }
    }

    /// @param alternates whether the loop goes back and forth
    record CrossfadeRefused(double askedMs, boolean alternates) implements LoopChange {
        @Override public Verdict verdict() { return Verdict.ADJUSTED; }

        @Override public Text text() {
            return new Text(String.format(Locale.ROOT, "%.0f ms crossfade asked for", askedMs), "none",
                    alternates ? "a loop that goes back and forth has no seam to blend" : "no room for a crossfade before the loop");
        }
    }
}
