package ablecrate.planner.instrument;

import ablecrate.detect.FoundLoop;
import ablecrate.fit.HeardNote;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Loop;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;
import ablecrate.planner.instrument.PlayedSounds.PlayedSound;
import ablecrate.planner.sound.LoopSearch;
import ablecrate.planner.sound.SoundTask;
import ablecrate.signal.Measurement;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/// Loops that are found for samples without one, where the user wants that. They are known before anything is made to fit.
/// @param loops by sample
/// @param wanted what has to be listened to before all is known
record FoundLoops(Map<Integer, FoundLoop> loops, List<Measurement.Request> wanted) {
    static final FoundLoops NONE = new FoundLoops(Map.of(), List.of());
    /// What lies behind a loop takes memory for nothing, so that an early one is looked for first; yet none before the end of the notes that are compared.
    private static final double[] EARLY_SECONDS = {2, 4};
    /// A sound of no more than so many times as long is too short for that.
    private static final double WORTH = 1.3;

    static FoundLoops of(InstrumentTask task, List<Instrument> plain) {
        Map<Integer, FoundLoop> loops = new HashMap<>();
        List<Measurement.Request> wanted = new ArrayList<>();
        for (PlayedSound sound : PlayedSounds.of(task, plain).sounds())
            if (sound.loops().isEmpty()) {
                SoundTask alone = InstrumentSounds.soundTask(task, sound, Optional.empty(), false);
                LoopSearch found = LoopSearch.of(alone);
                wanted.addAll(found.wanted());
                found.passing().stream().findFirst()
                        .ifPresent(late -> loops.put(sound.sample(), early(alone, wanted).map(l -> l.falling(late.fallDbPerSecond())).orElse(late)));
            }
        return new FoundLoops(loops, wanted);
    }

    private static Optional<FoundLoop> early(SoundTask sound, List<Measurement.Request> wanted) {
        for (double seconds : EARLY_SECONDS) {
            if (sound.file().durationSeconds() < WORTH * seconds) return Optional.empty();
            LoopSearch found = LoopSearch.within(sound, Math.round(seconds * sound.file().rateHz()));
            wanted.addAll(found.wanted());
            if (!found.wanted().isEmpty()) return Optional.empty();
            Optional<FoundLoop> early = found.passing().stream().filter(l -> l.frames().end() >= HeardNote.HELD_SECONDS * sound.file().rateHz()).findFirst();
            if (early.isPresent()) return early;
        }
        return Optional.empty();
    }

    Optional<FoundLoop> of(int sample) { return Optional.ofNullable(loops.get(sample)); }

    /// As it will be played.
    Instrument looped(InstrumentTask task, Instrument instrument) {
        return instrument.mapZones(z -> List.of(of(z.sample()).map(loop -> looped(task, z, loop)).orElse(z)));
    }

    private static Zone looped(InstrumentTask task, Zone zone, FoundLoop loop) {
        Zone with = zone.without(Parameter.ONE_SHOT).with(Parameter.LOOPS, List.of(Loop.sustain(loop.frames(), loop.mode())));
        return LoopDecay.of(with, loop, task.file().sound(zone.sample()).orElseThrow().rateHz(), task.capabilities());
    }

    /// As it was: zones get the loops of their sounds once these are planned.
    /// @param source that it was made of
    Instrument unlooped(Instrument instrument, Instrument source) {
        return instrument.mapZones(z -> List.of(of(z.sample()).isEmpty() ? z : withoutLoops(z, source)));
    }

    private static Zone withoutLoops(Zone zone, Instrument source) {
        boolean isOneShot = source.zones().stream().anyMatch(z -> z.sample() == zone.sample() && z.get(Parameter.ONE_SHOT));
        Zone out = LoopDecay.without(zone.without(Parameter.LOOPS), source);
        return isOneShot ? out.with(Parameter.ONE_SHOT, true) : out;
    }
}
