package ablecrate.planner.sound;

import ablecrate.change.LoopChange;
import ablecrate.detect.FoundLoop;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.signal.Measurement;
import java.util.List;
import java.util.Optional;

/// A loop for a sound that has none, where one is asked for.
/// @param task with the loop that was found
/// @param heard the search, where there is one
record LoopSearch(SoundTask task, Optional<Answer<Measurement.Loops>> heard, Optional<LoopChange> change) {
    static LoopSearch of(SoundTask task) {
        boolean isWanted = task.treatment().finds().loops() && task.file().metadata().loops().isEmpty() && task.own().loops().isEmpty()
                && task.edit().loop().loops().isEmpty()
                && task.target().carriesLoops();
        if (!isWanted) return new LoopSearch(task, Optional.empty(), Optional.empty());
        Answer<Measurement.Loops> heard = task.ask(new Measurement.OfLoops(task.file()), Measurement.Loops.class, true);
        if (heard.found().isEmpty()) return new LoopSearch(task, Optional.of(heard), Optional.empty());
        Optional<FoundLoop> best = heard.found().get().loops().stream().filter(l -> l.quality().passes()).findFirst();
        if (best.isEmpty())
            return new LoopSearch(task, Optional.of(heard), Optional.of(new LoopChange.NoLoopFound(
                    heard.found().get().loops().stream().mapToDouble(l -> l.quality().cost()).min().stream().boxed().findFirst())));
        double ms = best.get().crossfadeFrames() * 1000.0 / task.file().rateHz();
        return new LoopSearch(task.looped(List.of(Loop.sustain(best.get().frames(), LoopMode.FORWARD)), ms), Optional.of(heard),
                Optional.of(new LoopChange.LoopFound(best.get().frames(), ms, best.get().quality().bump(), best.get().quality().centsOff())));
    }
}
