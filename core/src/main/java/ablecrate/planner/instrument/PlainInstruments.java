package ablecrate.planner.instrument;

import ablecrate.change.Change;
import ablecrate.change.InstrumentChange;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Parameter;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;

/// Instruments as far as the target can choose between their zones: keyswitches, turns and crossfades resolved where it has none, numbers as it counts.
/// Sounds that go without a map go all: what does not belong to one note may still be wanted.
record PlainInstruments(List<Instrument> instruments, List<Change> changes) {
    static PlainInstruments of(InstrumentTask task) {
        PlainPlaying playing = new PlainPlaying(task);
        List<Instrument> chosen = task.chosen().stream().map(playing::of).toList();
        List<Change> changes = new ArrayList<>(playing.change().stream().toList());
        if (task.isLoose()) return new PlainInstruments(chosen, changes);
        PlainZones plain = new PlainZones(task.targetName(), task.capabilities(), task.accepted().sheet().limits().playing(), task.fitsTurns(),
                i -> task.file().samples().get(i).name());
        Articulations articulations = new Articulations(task.targetName());
        List<Instrument> apart = task.capabilities().carries(Parameter.SWITCH)
                ? chosen
                : chosen.stream().flatMap(i -> articulations.of(i).stream()).toList();
        List<Instrument> resolved = apart.stream().map(plain::of).toList(), numbered = numbered(task, resolved);
        moved(resolved, numbered).ifPresent(changes::add);
        articulations.change().ifPresent(changes::add);
        changes.addAll(plain.changes());
        return new PlainInstruments(numbered, changes);
    }

    /// Numbers as the target has them, each once where they stand in one bank.
    private static List<Instrument> numbered(InstrumentTask task, List<Instrument> chosen) {
        List<Instrument> fitted = chosen.stream().map(i -> i.withProgram(i.program().map(task.format().orElseThrow()::fit))).toList();
        return task.bank().isPresent() && fitted.stream().anyMatch(i -> i.program().isPresent()) ? Programs.apart(fitted) : fitted;
    }

    private static Optional<Change> moved(List<Instrument> before, List<Instrument> after) {
        List<String> told = IntStream.range(0, before.size())
                .filter(i -> before.get(i).program().isPresent() && !before.get(i).program().equals(after.get(i).program()))
                .mapToObj(i -> "'" + before.get(i).name() + "' from " + before.get(i).program().orElseThrow() + " to " + after.get(i).program().orElseThrow())
                .toList();
        return told.isEmpty() ? Optional.empty() : Optional.of(new InstrumentChange.ProgramsMoved(told));
    }
}
