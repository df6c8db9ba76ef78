package ablecrate.planner.sound;

import ablecrate.audio.FrameRange;
import ablecrate.change.Change;
import ablecrate.change.Lack;
import ablecrate.change.LoopChange;
import ablecrate.change.MetadataChange;
import ablecrate.change.Told;
import ablecrate.codec.Capabilities;
import ablecrate.instrument.Broadcast;
import ablecrate.instrument.Cue;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Mapping;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.TextField;
import ablecrate.signal.LoopCarry;
import ablecrate.signal.LoopFit;
import ablecrate.signal.LoopRoom;
import ablecrate.signal.SourceChain;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/// What a sound says of itself, carried to another rate, format and destination.
record CarriedMetadata(SoundMetadata metadata, List<Change> changes) {
    static CarriedMetadata of(SoundTask task, Conversion conversion, Speed speed, LoopChange.SeamSteps seam) {
        SoundMetadata metadata = task.file().metadata();
        Carrying carrying = new Carrying(task, conversion, speed);
        SoundMetadata carried = new SoundMetadata(carrying.loops(metadata.loops(), seam), carrying.mapping(metadata.mapping()), carrying.cues(metadata.cues()),
                carrying.broadcast(metadata.broadcast()), carrying.texts(metadata.texts()));
        return new CarriedMetadata(carried, carrying.changes);
    }

    /// Carries kind after kind, each with its changes.
    private static final class Carrying {
        private final SoundTarget target;
        private final Capabilities can;
        private final SourceChain sourceChain;
        private final int fromHz;
        private final Optional<LoopFit> fit;
        private final Optional<Loop> ruling;
        private final Speed speed;
        private final List<Change> changes = new ArrayList<>();

        Carrying(SoundTask task, Conversion conversion, Speed speed) {
            target = task.target();
            can = target.capabilities();
            sourceChain = conversion.sourceChain();
            fromHz = task.file().rateHz();
            fit = conversion.fit();
            ruling = conversion.ruling();
            this.speed = speed;
        }

        List<Loop> loops(List<Loop> loops, LoopChange.SeamSteps seam) {
            if (loops.isEmpty()) return loops;
            if (!target.carriesLoops()) {
                Lack why = !target.written().loops() ? Lack.CHOSEN : target.keeps().loops() ? Lack.FORMAT : Lack.DESTINATION;
                changes.add(new LoopChange.LoopsDropped(loops.size(), why, target.name()));
                return List.of();
            }
            List<Loop> kept = held(loops);
            if (kept.isEmpty()) return kept;
            List<Loop> moved = moved(kept, seam);
            if (!sourceChain.convertsRate() && seam.isTold()) changes.add(new LoopChange.SeamBlended(place(kept), place(moved), seam));
            List<Loop> out = extended(moved);
            return target.loops().usedByPlace() ? Loop.usedByPlace(out) : out;
        }

        /// With what was added to the ruling loop, which is the first one; others behind it move.
        private List<Loop> extended(List<Loop> moved) {
            Optional<LoopRoom> room = sourceChain.loop().map(LoopCarry::room).filter(r -> !r.isNone());
            if (room.isEmpty()) return moved;
            List<Loop> out = new ArrayList<>(moved);
            LoopCarry ruling = sourceChain.loop().get();
            out.replaceAll(l -> l.withFrames(l.frames().equals(ruling.to()) ? ruling.place() : sourceChain.place(l.frames())));
            long more = sourceChain.frames() - sourceChain.convertedFrames();
            changes.add(ruling.alternates()
                    ? new LoopChange.LoopWrittenOut(place(moved), place(out), more)
                    : new LoopChange.LoopExtended(place(moved), place(out), more, target.loops().frames()));

            return out;
        }

        /// As many, and as simple, as the format holds.
        private List<Loop> held(List<Loop> loops) {
            List<Loop> kept = new ArrayList<>();
            Capabilities.Loops taken = target.loops();
            boolean isExtended = sourceChain.loop().filter(l -> l.room().onward() > 0).isPresent(),
                    goesBackAndForth = sourceChain.loop().filter(LoopCarry::alternates).isPresent();
            int sustain = 0, release = 0, forward = 0, endless = 0, tooShort = 0, tooLong = 0;
            for (Loop loop : loops) {
                long length = Math.round(scaled(loop.frames().length()));
                // That one may be written several times over.
                boolean isRuling = isRuling(loop), isShort = length < taken.frames().shortest() && !(isExtended && isRuling),
                        isLong = length > taken.frames().longest();
                if (isShort) tooShort++;
                if (isLong) tooLong++;
                if (isShort || isLong) continue;
                boolean fits = loop.use() == Loop.Use.SUSTAIN ? sustain++ < taken.sustain() : release++ < taken.release();
                if (!fits) continue;
                boolean hasMode = taken.modes().contains(loop.mode()), hasCount = loop.playCount() == 0 || taken.playCount();
                if (!hasMode && !(goesBackAndForth && isRuling)) forward++;
                if (!hasCount) endless++;
                Loop simple = hasMode ? loop : loop.withMode(LoopMode.FORWARD);
                kept.add(hasCount ? simple : simple.withPlayCount(0));
            }
            if (kept.size() < loops.size() || forward > 0 || endless > 0)
                changes.add(new LoopChange.LoopsReduced(loops.size(), kept.size(), tooShort, tooLong, forward, endless, target.name()));
            return kept;
        }

        private boolean isRuling(Loop loop) {
            return ruling.filter(r -> r.use() == loop.use() && r.frames().equals(loop.frames())).isPresent();
        }

        private List<Loop> moved(List<Loop> kept, LoopChange.SeamSteps seam) {
            double worstShift = 0, worstCents = 0;
            List<Loop> moved = new ArrayList<>();
            for (Loop loop : kept) {
                double exactStart = scaled(loop.frames().start() - sourceChain.part().start()), exactLength = scaled(loop.frames().length());
                boolean rules = isRuling(loop) && fit.isPresent();
                // The length is rounded for itself: it is the loop's pitch. Rounding both ends could be off by two halves.
                long length = Math.max(1, Math.round(exactLength)),
                        start = Math.clamp(Math.round(exactStart), 0, Math.max(0, sourceChain.convertedFrames() - length));
                FrameRange to = rules ? fit.get().to() : new FrameRange(start, Math.min(start + length, sourceChain.convertedFrames()));
                worstShift = Math.max(worstShift, Math.max(Math.abs(to.start() - exactStart), Math.abs(to.length() - exactLength)));
                double cents = rules ? fit.get().leftCents() : 1200 * Math.log(exactLength / to.length()) / Math.log(2);
                if (Math.abs(cents) > Math.abs(worstCents)) worstCents = cents;
                moved.add(loop.withFrames(to));
            }
            if (sourceChain.convertsRate())
                changes.add(new LoopChange.LoopsMoved(place(kept), place(moved), worstShift, worstCents,
                        fit.map(f -> new LoopChange.Fitted(f.from().length(), f.to().length(), f.tuningCents())), seam));
            return moved;
        }

        private static LoopChange.Place place(List<Loop> loops) { return new LoopChange.Place(loops.getFirst().frames(), loops.size()); }

        Mapping mapping(Mapping mapping) {
            double fitted = fit.map(LoopFit::tuningCents).orElse(0.0);
            if (mapping.isEmpty() && fitted == 0) return mapping;
            // What sounds higher is played lower, if anything says at which key.
            double tuned = fitted - (mapping.isEmpty() ? 0 : speed.cents());
            if (!target.written().mapping() || !target.keeps().mapping() || !can.rootKey()) {
                changes.add(new MetadataChange.MappingDropped(mapping, target.written().mapping() ? Lack.DESTINATION : Lack.CHOSEN));
                return Mapping.NONE;
            }
            // A tuning needs a root key to be told from; 60 is what players take where none is.
            Mapping moved = tuned == 0 ? mapping : mapping.withRootKey(Optional.of(mapping.rootKey().orElse(60))).tunedBy(tuned);
            return withGain(inWholeCents(withinTheKeys(moved)));
        }

        private Mapping inWholeCents(Mapping mapping) {
            if (can.fineTune() != Capabilities.FineTune.WHOLE_CENTS) return mapping;
            double cents = mapping.fineTuneCents(), whole = Math.rint(cents);
            if (Math.abs(cents - whole) > 1e-6) changes.add(new MetadataChange.TuningMoved(cents, whole, false));
            return mapping.withFineTune(whole);
        }

        private Mapping withGain(Mapping mapping) {
            if (mapping.gainDb().isEmpty()) return mapping;
            double db = mapping.gainDb().get(), held = Math.clamp(Math.rint(db), can.gain().lowest(), can.gain().highest());
            if (held == db) return mapping;
            changes.add(new MetadataChange.GainMoved(db, held));
            return mapping.withGain(Optional.of(held));
        }

        private Mapping withinTheKeys(Mapping mapping) {
            double cents = mapping.fineTuneCents(), held = mapping.tellableCents();
            if (held == cents) return mapping;
            changes.add(new MetadataChange.TuningMoved(cents, held, true));
            return mapping.withFineTune(held);
        }

        List<Cue> cues(List<Cue> all) {
            List<Cue> used = all.stream().filter(c -> c.frame() >= sourceChain.part().start() && c.frame() <= sourceChain.part().end()).toList();
            if (used.size() < all.size()) changes.add(new MetadataChange.CuesOutside(all.size(), used.size()));
            if (used.isEmpty()) return used;
            if (!target.written().cues() || !target.keeps().cues() || can.cues() == 0) {
                changes.add(new MetadataChange.CuesDropped(used.size(), target.written().cues() ? Lack.DESTINATION : Lack.CHOSEN));
                return List.of();
            }
            List<Cue> cues = used.subList(0, Math.min(used.size(), can.cues()));
            if (cues.size() < used.size()) changes.add(new MetadataChange.CuesBeyond(used.size(), cues.size(), target.name()));
            List<Cue> moved = new ArrayList<>();
            double worst = 0;
            int shortened = 0;
            for (Cue cue : cues) {
                double exact = scaled(cue.frame() - sourceChain.part().start());
                long frame = Math.clamp(Math.round(exact), 0, sourceChain.convertedFrames()),
                        length = Math.clamp(Math.round(scaled(cue.lengthFrames())), 0, sourceChain.convertedFrames() - frame);
                FrameRange place = sourceChain.place(new FrameRange(frame, frame + length));
                worst = Math.max(worst, Math.abs(frame - exact));
                boolean isPlain = !can.cueNotesAndLengths() && (cue.note().isPresent() || cue.lengthFrames() > 0);
                if (isPlain) shortened++;
                moved.add(isPlain ? new Cue(cue.id(), place.start(), 0, cue.label(), Optional.empty()) : cue.at(place.start(), place.length()));
            }
            if (shortened > 0) changes.add(new MetadataChange.CueNotesDropped(cues.size(), shortened, target.name()));
            if (sourceChain.convertsRate()) changes.add(new MetadataChange.CuesMoved(cues.size(), worst));
            return moved;
        }

        Optional<Broadcast> broadcast(Optional<Broadcast> broadcast) {
            if (broadcast.isEmpty()) return broadcast;
            if (!target.written().broadcast() || !target.keeps().broadcast() || !can.broadcast()) {
                changes.add(new MetadataChange.BroadcastDropped(
                        !target.written().broadcast() ? Lack.CHOSEN : can.broadcast() ? Lack.DESTINATION : Lack.FORMAT, target.name()));
                return Optional.empty();
            }
            // Time of day goes on at the rate that is played, whatever a loop made of the ratio; a trimmed start is later.
            long time = broadcast.get().timeReferenceFrames();
            double wanted = (double) (time + sourceChain.part().start()) * sourceChain.rateHz() / fromHz;
            long moved = Math.round(wanted);
            if (moved == time) return broadcast;
            changes.add(new MetadataChange.TimeStampMoved(time, moved, Math.abs(moved - wanted)));
            return Optional.of(broadcast.get().withTimeReference(moved));
        }

        Map<TextField, String> texts(Map<TextField, String> all) {
            Map<TextField, String> texts = speed.isOther() ? atSpeed(all) : all;
            if (texts.isEmpty()) return texts;
            Map<TextField, String> kept = new EnumMap<>(TextField.class);
            texts.forEach((field, text) -> {
                if (target.written().texts() && target.keeps().texts() && can.texts().contains(field)) kept.put(field, text);
            });
            List<TextField> lost = texts.keySet().stream().filter(f -> !kept.containsKey(f)).sorted().toList();
            if (!lost.isEmpty()) changes.add(new MetadataChange.TextsDropped(texts.size(), lost, !target.written().texts()));
            return kept;
        }

        /// Its name may still say the tempo that it had; what it says itself is true.
        private Map<TextField, String> atSpeed(Map<TextField, String> texts) {
            Map<TextField, String> now = new EnumMap<>(TextField.class);
            now.putAll(texts);
            if (speed.losesKey()) now.remove(TextField.MUSICAL_KEY);
            if (target.written().texts() && target.keeps().texts() && can.texts().contains(TextField.TEMPO))
                now.put(TextField.TEMPO, Told.bpm(speed.bpm().orElseThrow()));
            return now;
        }

        private double scaled(long frames) {
            return sourceChain.convertsRate() ? (double) frames * sourceChain.outputStep() / sourceChain.inputStep() : frames;
        }
    }
}
