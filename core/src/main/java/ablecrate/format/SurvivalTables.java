package ablecrate.format;

import ablecrate.audio.Depth;
import ablecrate.codec.SoundFormats;
import ablecrate.codec.SurvivalTable;
import ablecrate.codec.WrittenFormat;
import ablecrate.instrument.About;
import ablecrate.instrument.Parameter;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/// "What survives where", of sounds and of instruments.
public final class SurvivalTables {
    private SurvivalTables() {}

    public static List<SurvivalTable> all() { return List.of(SurvivalTable.ofKinds(), SurvivalTable.ofSounds(), ofInstruments()); }

    /// Formats of instruments, and formats of sounds where each sound carries its own mapping.
    private static SurvivalTable ofInstruments() {
        List<String> columns = new ArrayList<>();
        List<InstrumentCapabilities> formats = new ArrayList<>();
        for (InstrumentFormat f : InstrumentFormats.ALL) {
            columns.add(f.name());
            formats.add(f.capabilities());
        }
        for (WrittenFormat f : SoundFormats.WRITTEN) {
            if (!f.capabilities().rootKey()) continue;
            columns.add(f.name() + " by itself");
            formats.add(OwnMaps.capabilities(f));
        }
        List<SurvivalTable.Row> rows = new ArrayList<>();
        rows.add(row("sounds", formats,
                c -> c.sounds().map(s -> s.depths().stream().sorted().map(Depth::id).collect(Collectors.joining(", "))).orElse("files beside it")));
        rows.add(row("instruments in a file", formats, c -> c.manyInstruments() ? "any number" : "one"));
        rows.add(row("names of groups", formats, c -> c.names() ? "yes" : "–"));
        for (Parameter<?> p : Parameter.ALL)
            rows.add(row(p.label(), formats, c -> c.carries(p) ? c.how(p) : "–"));
        for (String setting : List.of("MIDI channel, voices, wheels", "interpolation of the device"))
            rows.add(new SurvivalTable.Row(setting, Stream.concat(InstrumentFormats.ALL.stream().map(f -> f.saysPlaying() ? "yes" : "–"),
                    columns.stream().skip(InstrumentFormats.ALL.size()).map(_ -> "–")).toList()));
        rows.add(row("texts", formats, c -> c.about().stream().map(About.Field::label).collect(Collectors.joining(", "))));
        return new SurvivalTable("Instruments", columns, rows);
    }

    private static SurvivalTable.Row row(String property, List<InstrumentCapabilities> formats, Function<InstrumentCapabilities, String> cell) {
        return new SurvivalTable.Row(property, formats.stream().map(cell).toList());
    }

    /// All tables as Markdown, each under its title.
    public static String markdown() { return all().stream().map(t -> "## " + t.title() + "\n\n" + t.markdown()).collect(Collectors.joining("\n")); }
}
