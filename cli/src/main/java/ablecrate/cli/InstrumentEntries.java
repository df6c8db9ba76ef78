package ablecrate.cli;

import ablecrate.codec.Problem;
import ablecrate.format.InstrumentFile;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.NoteName;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Zone;
import java.io.PrintWriter;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/// What `inspect` says of instruments.
final class InstrumentEntries {
    /// Keys of the JSON output; a zone's `settings` are those that its source says, by their labels.
    record InstrumentEntry(String name, Integer bank, Integer program, String category, String creator, List<GroupEntry> groups) {}

    record GroupEntry(String name, List<ZoneEntry> zones) {}

    record ZoneEntry(String sample, int keyLow, int keyHigh, int velocityLow, int velocityHigh, int rootKey, double tuningCents,
            List<InspectCommand.LoopEntry> loops, Map<String, String> settings) {}

    private InstrumentEntries() {}

    static InspectCommand.Entry entry(InstrumentFile file) {
        List<InspectCommand.ProblemEntry> problems = file.problems().stream()
                .map(p -> new InspectCommand.ProblemEntry(p.effect().name().toLowerCase(Locale.ROOT), p.text(), p.place())).toList();
        return new InspectCommand.Entry(file.path().toString(), "instrument", file.container(), null, null, null, null, null, null, null, List.of(), null, null,
                null,
                null, null, null, null, List.of(), Optional.empty(), List.of(), problems, null, Map.of(), null, null,
                file.instruments().stream().map(i -> entry(file, i)).toList());
    }

    private static InstrumentEntry entry(InstrumentFile file, Instrument instrument) {
        return new InstrumentEntry(instrument.name(), instrument.program().map(Instrument.Program::bank).orElse(null),
                instrument.program().map(Instrument.Program::number).orElse(null), instrument.about().category(), instrument.about().creator(),
                instrument.groups().stream().map(g -> new GroupEntry(g.name(), g.zones().stream().map(z -> entry(file, z)).toList())).toList());
    }

    private static ZoneEntry entry(InstrumentFile file, Zone zone) {
        Map<String, String> settings = new LinkedHashMap<>();
        zone.said().forEach(p -> settings.put(p.label(), zone.told(p).substring(p.label().length() + 1)));
        Span keys = zone.get(Parameter.KEYS), velocities = zone.get(Parameter.VELOCITIES);
        return new ZoneEntry(file.samples().get(zone.sample()).name(), keys.low(), keys.high(), velocities.low(), velocities.high(),
                zone.get(Parameter.ROOT_KEY),
                zone.get(Parameter.TUNING),
                zone.get(Parameter.LOOPS).stream().map(l -> new InspectCommand.LoopEntry(l.frames().start(), l.frames().end(), l.mode().label(), l.playCount()))
                        .toList(),
                settings);
    }

    static void print(PrintWriter out, InstrumentFile file) {
        out.println(file.path());
        out.printf(Locale.ROOT, "  %s, %d instruments, %,d zones, %,d samples%n", file.container(), file.instruments().size(), file.zoneCount(),
                file.samples().size());
        for (Instrument i : file.instruments()) {
            int low = i.zones().stream().mapToInt(z -> z.get(Parameter.KEYS).low()).min().orElse(0);
            int high = i.zones().stream().mapToInt(z -> z.get(Parameter.KEYS).high()).max().orElse(0);
            out.printf(Locale.ROOT, "  %s%s: %d groups, %d zones, keys %s … %s%n", i.program().map(p -> p.bank() + ":" + p.number() + " ").orElse(""), i.name(),
                    i.groups().size(), i.zones().size(), NoteName.of(low), NoteName.of(high));
        }
        for (Problem p : file.problems())
            out.println("  ! " + (p.place().isEmpty() ? "" : p.place() + ": ") + p.text());
    }
}
