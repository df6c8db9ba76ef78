package ablecrate.planner.instrument;

import ablecrate.change.Change;
import ablecrate.change.InstrumentChange;
import ablecrate.codec.Problem;
import ablecrate.codec.SoundFile;
import ablecrate.dsp.PitchDetector;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.NoteName;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;
import ablecrate.signal.Measurement;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;

/// What is doubtful about a map: what was found while it was read, and roots that are far from the pitch of their sounds.
/// @param wanted sounds whose pitch has to be heard yet
record MapDoubts(List<Change> changes, List<Measurement.Request> wanted) {
    static List<Change> problems(InstrumentTask task) {
        List<Change> changes = new ArrayList<>();
        for (Problem.Effect effect : List.of(Problem.Effect.LOST, Problem.Effect.MEND, Problem.Effect.DOUBT, Problem.Effect.NOTE)) {
            List<String> found = task.file().problems().stream().filter(p -> p.effect() == effect).map(Problem::told).toList();
            if (!found.isEmpty()) changes.add(new InstrumentChange.ProblemsFound(effect, found));
        }
        return changes;
    }

    /// Zones whose root is far from the note that their sample plays: the map is off, or the sample is.
    static MapDoubts roots(InstrumentTask task, List<Instrument> instruments) {
        List<String> told = new ArrayList<>();
        List<Measurement.Request> wanted = new ArrayList<>();
        Set<Integer> seen = new HashSet<>();
        for (Zone zone : instruments.stream().flatMap(i -> i.zones().stream()).toList()) {
            Optional<SoundFile> sound = task.file().sound(zone.sample()).filter(s -> s.frames() > 0);
            if (sound.isEmpty() || !seen.add(zone.sample()) || zone.get(Parameter.KEY_TRACKING) == 0) continue;
            Measurement.Request request = new Measurement.OfPitch(sound.get());
            Optional<Measurement> found = task.measured().apply(request);
            if (found.isEmpty()) wanted.add(request);
            Optional<PitchDetector.Pitch> pitch = found.filter(Measurement.Pitched.class::isInstance).flatMap(m -> ((Measurement.Pitched) m).pitch())
                    .filter(p -> p.clarity() >= MapFromNames.CLEAR);
            // The player adds the tuning, so that the key of the root sounds as it should.
            double apart = pitch.map(p -> p.key() + zone.get(Parameter.TUNING) / 100 - zone.get(Parameter.ROOT_KEY)).orElse(0.0);
            if (Math.abs(apart) <= MapFromNames.NEAR) continue;
            told.add(String.format(Locale.ROOT, "'%s' has root %s and sounds like %s", task.file().samples().get(zone.sample()).name(),
                    NoteName.of(zone.get(Parameter.ROOT_KEY)), NoteName.of(Math.clamp((int) Math.rint(pitch.get().key()), 0, 127))));
        }
        return new MapDoubts(told.isEmpty() ? List.of() : List.of(new InstrumentChange.RootsDoubtful(told)), wanted);
    }
}
