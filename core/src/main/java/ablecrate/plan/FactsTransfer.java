package ablecrate.plan;

import ablecrate.audio.FrameRange;
import ablecrate.codec.Capabilities;
import ablecrate.destination.DestinationSheet;
import ablecrate.instrument.Broadcast;
import ablecrate.instrument.Cue;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Mapping;
import ablecrate.instrument.SoundFacts;
import ablecrate.instrument.Span;
import ablecrate.instrument.TextField;
import ablecrate.signal.Front;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeSet;

/// What a sound says of itself, carried to another rate, format and destination: moved, fitted, and each change told.
final class FactsTransfer {
    /// Positions nearer to a whole frame than this are whole.
    private static final double WHOLE = 1e-9;
    /// Errors of pitch below this are none.
    private static final double HEARD_CENTS = 0.005;

    private static final String AS_CHOSEN = "as chosen";

    private final SoundTarget target;
    private final Capabilities can;
    private final DestinationSheet.Keeps keeps, written;
    private final Front front;
    private final int fromHz;
    private final Optional<LoopFit> fit;
    private final String seam;
    private final List<Change> changes = new ArrayList<>();

    /// @param fit of the loop that rules the conversion
    /// @param seam what is known of the steps at its seam, in words; empty for nothing
    FactsTransfer(SoundTarget target, Front front, int fromHz, Optional<LoopFit> fit, String seam) {
        this.target = target;
        this.can = target.capabilities();
        this.keeps = target.keeps();
        this.written = target.written();
        this.front = front;
        this.fromHz = fromHz;
        this.fit = fit;
        this.seam = seam;
    }

    List<Change> changes() { return changes; }

    SoundFacts carry(SoundFacts facts) {
        return new SoundFacts(loops(facts.loops()), mapping(facts.mapping()), cues(facts.cues()), broadcast(facts.broadcast()), texts(facts.texts()));
    }

    private List<Loop> loops(List<Loop> loops) {
        if (loops.isEmpty()) return loops;
        String before = Told.count(loops.size(), "loop");
        if (!target.carriesLoops()) {
            reduced(Property.LOOPS, before, "none",
                    before + " dropped: " + (!written.loops()
                            ? AS_CHOSEN
                            : keeps.loops() ? target.name() + " carries no loops" : "the destination plays no loops"));
            return List.of();
        }
        List<Loop> kept = new ArrayList<>();
        List<String> losses = new ArrayList<>();
        int sustain = 0, release = 0, modes = 0, counts = 0;
        for (Loop loop : loops) {
            boolean fits = loop.use() == Loop.Use.SUSTAIN ? sustain++ < can.loops().sustain() : release++ < can.loops().release();
            if (!fits) continue;
            if (!can.loops().modes().contains(loop.mode())) {
                modes++;
                loop = loop.withMode(LoopMode.FORWARD);
            }
            if (loop.playCount() != 0 && !can.loops().playCount()) {
                counts++;
                loop = loop.withPlayCount(0);
            }
            kept.add(loop);
        }
        if (kept.size() < loops.size())
            losses.add(Told.count(loops.size() - kept.size(), "loop") + " dropped: " + target.name() + " holds one for the held key and one for release");
        if (modes > 0) losses.add(Told.count(modes, "backward loop") + " made forward");
        if (counts > 0) losses.add("play count of " + Told.count(counts, "loop") + " made endless");
        double worstShift = 0, worstCents = 0;
        boolean isFirst = true;
        List<Loop> moved = new ArrayList<>();
        for (Loop loop : kept) {
            double exactStart = scaled(loop.frames().start() - front.part().start()), exactLength = scaled(loop.frames().length());
            boolean rules = isFirst && loop.use() == Loop.Use.SUSTAIN && fit.isPresent();
            isFirst &= loop.use() != Loop.Use.SUSTAIN;
            // The length is rounded for itself: it is the loop's pitch. Rounding both ends could be off by two halves.
            long length = Math.max(1, Math.round(exactLength)), start = Math.clamp(Math.round(exactStart), 0, Math.max(0, front.frames() - length));
            FrameRange to = rules ? fit.get().to() : new FrameRange(start, Math.min(start + length, front.frames()));
            worstShift = Math.max(worstShift, Math.max(Math.abs(to.start() - exactStart), Math.abs(to.length() - exactLength)));
            double cents = rules ? fit.get().leftCents() : 1200 * Math.log(exactLength / to.length()) / Math.log(2);
            if (Math.abs(cents) > Math.abs(worstCents)) worstCents = cents;
            moved.add(loop.withFrames(to));
        }
        String after = Told.count(moved.size(), "loop");
        if (!losses.isEmpty()) reduced(Property.LOOPS, before, after, String.join("; ", losses));
        if (front.convertsRate()) {
            boolean isExact = worstShift < WHOLE && Math.abs(worstCents) < HEARD_CENTS;
            List<String> told = new ArrayList<>();
            told.add(isExact
                    ? after + " moved with the rate, exactly"
                    : String.format(Locale.ROOT, "%s moved, at most %.1f frames", after, Math.max(worstShift, 0.05)));
            fit.ifPresent(f -> told.add(String.format(Locale.ROOT, "%,d → %,d frames long", f.from().length(), f.to().length())));
            fit.filter(f -> f.tuningCents() != 0).ifPresent(f -> told.add(String.format(Locale.ROOT, "%+.2f cents moved to tuning", f.tuningCents())));
            if (!isExact) told.add(String.format(Locale.ROOT, "%.2f cents left over", Math.abs(worstCents)));
            if (!seam.isEmpty()) told.add(seam);
            changes.add(new Change(Property.LOOPS, positions(kept), positions(moved), isExact ? Verdict.CONVERTED : Verdict.ADJUSTED, String.join("; ", told))
                    .of(kept.getFirst().frames().start(), moved.getFirst().frames().start(), "frames"));
        } else
            if (!seam.isEmpty()) changes.add(new Change(Property.LOOPS, positions(kept), positions(moved), Verdict.CONVERTED, seam));
        return moved;
    }

    private static String positions(List<Loop> loops) {
        FrameRange first = loops.getFirst().frames();
        return String.format(Locale.ROOT, "%,d…%,d", first.start(), first.end()) + (loops.size() > 1 ? " +" + (loops.size() - 1) : "");
    }

    private Mapping mapping(Mapping mapping) {
        double tuned = fit.map(LoopFit::tuningCents).orElse(0.0);
        if (mapping.isEmpty() && tuned == 0) return mapping;
        if (!written.mapping() || !keeps.mapping() || !can.rootKey()) {
            reduced(Property.MAPPING, describe(mapping), "none",
                    "key mapping dropped: " + (written.mapping() ? "the destination has no use for it" : AS_CHOSEN));
            return Mapping.NONE;
        }
        // A tuning needs a root key to be told from; 60 is what players take where none is.
        Mapping fitted = tuned == 0 ? mapping : mapping.withRootKey(Optional.of(mapping.rootKey().orElse(60))).tunedBy(tuned);
        fitted = withinTheKeys(fitted);
        double cents = fitted.fineTuneCents();
        if (can.fineTune() == Capabilities.FineTune.WHOLE_CENTS && Math.abs(cents - Math.rint(cents)) > 1e-6) {
            fitted = fitted.withFineTune(Math.rint(cents));
            changes.add(new Change(Property.MAPPING, cents(cents), cents(Math.rint(cents)), Verdict.ADJUSTED,
                    String.format(Locale.ROOT, "fine tuning moved by %.2f cents", Math.abs(cents - Math.rint(cents)))).of(cents, Math.rint(cents), "cents"));
        } else if (can.fineTune() == Capabilities.FineTune.WHOLE_CENTS) fitted = fitted.withFineTune(Math.rint(cents));
        Capabilities.GainDb gain = can.gain();
        if (fitted.gainDb().isPresent()) {
            double db = fitted.gainDb().get(), held = Math.clamp(Math.rint(db), gain.lowest(), gain.highest());
            if (held != db) {
                changes.add(new Change(Property.MAPPING, db(db), db(held), Verdict.ADJUSTED,
                        String.format(Locale.ROOT, "gain moved by %.1f dB", Math.abs(db - held))).of(db, held, "dB"));
                fitted = fitted.withGain(Optional.of(held));
            }
        }
        return fitted;
    }

    /// A tuning beyond a key is told by another root; below the lowest and above the highest key there is none.
    private Mapping withinTheKeys(Mapping mapping) {
        double cents = mapping.fineTuneCents(), held = cents > 0 && mapping.rootKey().filter(k -> k == 0).isPresent() ? 0 : cents < -100 ? -50 : cents;
        if (held == cents) return mapping;
        changes.add(new Change(Property.MAPPING, cents(cents), cents(held), Verdict.ADJUSTED,
                String.format(Locale.ROOT, "tuning moved by %.2f cents: there is no key further", Math.abs(cents - held))).of(cents, held, "cents"));
        return mapping.withFineTune(held);
    }

    private static String cents(double cents) { return String.format(Locale.ROOT, "%+.2f cents", cents); }

    private static String db(double db) { return String.format(Locale.ROOT, "%+.1f dB", db); }

    /// `root 60, keys 36…59, velocities 1…80`
    static String describe(Mapping mapping) {
        List<String> parts = new ArrayList<>();
        mapping.rootKey().ifPresent(k -> parts.add("root " + k));
        mapping.keys().filter(s -> !s.equals(new Span(0, 127))).ifPresent(s -> parts.add("keys " + s.low() + "…" + s.high()));
        mapping.velocities().filter(s -> !s.equals(new Span(1, 127))).ifPresent(s -> parts.add("velocities " + s.low() + "…" + s.high()));
        return parts.isEmpty() ? "mapping" : String.join(", ", parts);
    }

    private List<Cue> cues(List<Cue> all) {
        List<Cue> cues = all.stream().filter(c -> c.frame() >= front.part().start() && c.frame() <= front.part().end()).toList();
        if (cues.size() < all.size())
            reduced(Property.CUES, Told.count(all.size(), "cue"), Told.count(cues.size(), "cue"),
                    Told.count(all.size() - cues.size(), "cue") + " dropped: outside of the part that is used");
        if (cues.isEmpty()) return cues;
        String before = Told.count(cues.size(), "cue");
        if (!written.cues() || !keeps.cues() || !can.cues()) {
            reduced(Property.CUES, before, "none", before + " dropped: " + (written.cues() ? "the destination has no use for them" : AS_CHOSEN));
            return List.of();
        }
        List<Cue> moved = new ArrayList<>();
        double worst = 0;
        long losses = 0;
        for (Cue cue : cues) {
            double exact = scaled(cue.frame() - front.part().start());
            long frame = Math.clamp(Math.round(exact), 0, front.frames()),
                    length = Math.clamp(Math.round(scaled(cue.lengthFrames())), 0, front.frames() - frame);
            worst = Math.max(worst, Math.abs(frame - exact));
            Cue placed = cue.at(frame, length);
            if (!can.cueNotesAndLengths() && (cue.note().isPresent() || cue.lengthFrames() > 0)) {
                losses++;
                placed = new Cue(cue.id(), frame, 0, cue.label(), Optional.empty());
            }
            moved.add(placed);
        }
        if (losses > 0)
            reduced(Property.CUES, before, before,
                    "note or length of " + Told.count(losses, "cue") + " dropped: " + target.name() + " has only points with names");
        if (front.convertsRate()) {
            boolean exact = worst < WHOLE;
            changes.add(new Change(Property.CUES, before, before, exact ? Verdict.CONVERTED : Verdict.ADJUSTED, exact
                    ? before + " moved with the rate, exactly"
                    : String.format(Locale.ROOT, "%s moved, at most %.1f frames", before, Math.max(worst, 0.05))));
        }
        return moved;
    }

    private Optional<Broadcast> broadcast(Optional<Broadcast> broadcast) {
        if (broadcast.isEmpty()) return broadcast;
        if (!written.broadcast() || !keeps.broadcast() || !can.broadcast()) {
            reduced(Property.BROADCAST, "present", "none",
                    "broadcast data dropped, time stamp with it: " + (!written.broadcast()
                            ? AS_CHOSEN
                            : can.broadcast()
                                    ? "the destination has no use for it"
                                    : target.name() + " cannot carry it"));
            return Optional.empty();
        }
        // Time of day goes on at the rate that is played, whatever a loop made of the ratio; a trimmed start is later.
        long time = broadcast.get().timeReferenceFrames();
        double wanted = (double) (time + front.part().start()) * front.rateHz() / fromHz;
        long moved = Math.round(wanted);
        if (moved == time) return broadcast;
        double shift = Math.abs(moved - wanted);
        boolean exact = shift < 1e-6;
        changes.add(new Change(Property.BROADCAST, String.format(Locale.ROOT, "%,d", time), String.format(Locale.ROOT, "%,d", moved),
                exact
                        ? Verdict.CONVERTED
                        : Verdict.ADJUSTED,
                exact ? "time stamp moved with the rate, exactly" : String.format(Locale.ROOT, "time stamp moved by %.1f frames", Math.max(shift, 0.05)))
                .of(time, moved, "frames"));
        return Optional.of(broadcast.get().withTimeReference(moved));
    }

    private Map<TextField, String> texts(Map<TextField, String> texts) {
        if (texts.isEmpty()) return texts;
        Map<TextField, String> kept = new EnumMap<>(TextField.class);
        TreeSet<String> lost = new TreeSet<>();
        texts.forEach((field, text) -> {
            if (written.texts() && keeps.texts() && can.texts().contains(field))
                kept.put(field, text);
            else
                lost.add(field.label());
        });
        if (!lost.isEmpty())
            reduced(Property.TEXTS, Told.count(texts.size(), "text"), Told.count(kept.size(), "text"),
                    Told.count(lost.size(), "text") + " dropped" + (written.texts() ? "" : " " + AS_CHOSEN) + ": " + String.join(", ", lost));
        return kept;
    }

    private double scaled(long frames) { return front.convertsRate() ? (double) frames * front.outputStep() / front.inputStep() : frames; }

    private void reduced(Property property, String before, String after, String reason) {
        changes.add(new Change(property, before, after, Verdict.REDUCED, reason));
    }

}
