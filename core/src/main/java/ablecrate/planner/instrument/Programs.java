package ablecrate.planner.instrument;

import ablecrate.instrument.Instrument;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/// Numbers of the instruments in one bank: each has one that no other has.
final class Programs {
    private Programs() {}

    /// @return the instruments, each with the number it has, or the next free one where another has it or it has none
    static List<Instrument> apart(List<Instrument> instruments) {
        Set<Instrument.Program> taken = new HashSet<>();
        List<Instrument> out = new ArrayList<>();
        // Numbers that are said come before those that have to be found.
        instruments.stream().flatMap(i -> i.program().stream()).forEach(taken::add);
        Set<Instrument.Program> given = new HashSet<>();
        for (Instrument i : instruments) {
            boolean isOwn = i.program().filter(given::add).isPresent();
            out.add(isOwn ? i : i.withProgram(Optional.of(free(i.program(), taken))));
        }
        return out;
    }

    private static Instrument.Program free(Optional<Instrument.Program> near, Set<Instrument.Program> taken) {
        Instrument.Program program = near.orElse(new Instrument.Program(0, 0, false));
        while (!taken.add(program))
            program = program.number() < 127
                    ? new Instrument.Program(program.bank(), program.number() + 1, program.isPercussion())
                    : new Instrument.Program(program.bank() + 1, 0, program.isPercussion());
        return program;
    }
}
