package ablecrate.planner.instrument;

import ablecrate.change.Change;
import ablecrate.change.InstrumentChange;
import ablecrate.instrument.About;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.KeySwitch;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;

/// An instrument with keyswitches for a target that has none: one instrument for each articulation, so that they do not sound all at once.
final class Articulations {
    private final String target;
    private final List<String> told = new ArrayList<>();

    Articulations(String target) { this.target = target; }

    /// @return the instrument itself where no key chooses between its zones
    List<Instrument> of(Instrument instrument) {
        Map<String, KeySwitch> switches = new LinkedHashMap<>();
        instrument.zones().stream().flatMap(z -> z.get(Parameter.SWITCH).stream()).forEach(s -> switches.putIfAbsent(id(s), s));
        if (switches.isEmpty()) return List.of(instrument);
        // What sounds before any key was pressed comes first, and keeps the number.
        List<KeySwitch> order = switches.values().stream().sorted((a, b) -> Boolean.compare(isFirst(b), isFirst(a))).toList();
        List<Instrument> out = new ArrayList<>();
        for (KeySwitch chosen : order) {
            Instrument one = instrument.mapZones(z -> sounds(z, chosen) ? List.of(z.without(Parameter.SWITCH)) : List.of());
            String name = order.size() == 1 ? instrument.name() : instrument.name() + " " + chosen.name();
            out.add(one.withAbout(one.about().with(About.Field.NAME, name)).withProgram(out.isEmpty() ? instrument.program() : Optional.empty()));
        }
        told.add("'" + instrument.name() + "' as " + order.stream().map(KeySwitch::name).collect(Collectors.joining(", ")));
        return out;
    }

    private static String id(KeySwitch s) { return s.keys().low() + " " + s.keys().high() + " " + s.key(); }

    private static boolean isFirst(KeySwitch s) { return s.first().isPresent() && s.first().getAsInt() == s.key(); }

    /// Keys of another range choose what they do before one of them was pressed.
    private static boolean sounds(Zone zone, KeySwitch chosen) {
        return zone.get(Parameter.SWITCH).map(s -> s.keys().equals(chosen.keys()) ? s.key() == chosen.key() : isFirst(s)).orElse(true);
    }

    Optional<Change> change() { return told.isEmpty() ? Optional.empty() : Optional.of(new InstrumentChange.KeyswitchesSplit(target, told)); }
}
