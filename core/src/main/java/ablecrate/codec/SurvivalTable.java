package ablecrate.codec;

import ablecrate.audio.Depth;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.TextField;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Collectors;

/// "What survives where": what each format carries, from the formats' own declarations, so that it cannot drift from the planner.
/// @param title what is carried
/// @param columns names of the formats
public record SurvivalTable(String title, List<String> columns, List<Row> rows) {
    /// @param cells one for each column
    public record Row(String property, List<String> cells) {}

    public SurvivalTable {
        columns = List.copyOf(columns);
        rows = List.copyOf(rows);
    }

    /// Which kinds of sound files are read, and which of them written.
    public static SurvivalTable ofKinds() {
        return new SurvivalTable("Kinds of sound files", List.of("named", "written"), SoundFormats.ALL.stream()
                .map(f -> new Row(f.name(), List.of(String.join(", ", f.extensions()), yes(SoundFormats.written(f.id()).isPresent())))).toList());
    }

    /// What formats of single sounds carry.
    public static SurvivalTable ofSounds() {
        List<Row> rows = new ArrayList<>();
        row(rows, "depths", c -> c.compressing().isLossy() ? "none, lossy" : c.depths().stream().sorted().map(Depth::id).collect(Collectors.joining(", ")));
        row(rows, "rates", c -> rates(c.compressing().ratesHz()));
        row(rows, "channels", c -> "up to " + c.maxChannels());
        row(rows, "largest file",
                c -> c.maxFileBytes() == Long.MAX_VALUE
                        ? "no limit"
                        : c.maxFileBytes() < 1L << 30
                                ? String.format(Locale.ROOT, "%.0f MiB", c.maxFileBytes() / (double) (1L << 20))
                                : String.format(Locale.ROOT, "%.0f GiB", c.maxFileBytes() / (double) (1L << 30)));
        row(rows, "loops for the held key", c -> count(c.loops().sustain()));
        row(rows, "loops after release", c -> count(c.loops().release()));
        row(rows, "loop modes",
                c -> c.loops().modes().isEmpty() ? "–" : c.loops().modes().stream().sorted().map(LoopMode::label).collect(Collectors.joining(", ")));
        row(rows, "play count of a loop", c -> yes(c.loops().playCount()));
        row(rows, "root key", c -> yes(c.rootKey()));
        row(rows, "fine tuning", c -> switch (c.fineTune()) {
            case NONE -> "–";
            case WHOLE_CENTS -> "whole cents";
            case EXACT -> "exact";
        });
        row(rows, "key and velocity ranges", c -> yes(c.ranges()));
        row(rows, "gain", c -> c.gain().exists() ? "whole dB, " + c.gain().lowest() + "…" + c.gain().highest() : "–");
        row(rows, "cue points", c -> count(c.cues()));
        row(rows, "names of cues", c -> yes(c.cueLabels()));
        row(rows, "notes and lengths of cues", c -> yes(c.cueNotesAndLengths()));
        row(rows, "broadcast data, time stamp", c -> yes(c.broadcast()));
        row(rows, "texts", c -> c.texts().isEmpty() ? "–" : c.texts().stream().sorted().map(TextField::label).collect(Collectors.joining(", ")));
        return new SurvivalTable("Sounds", SoundFormats.WRITTEN.stream().map(WrittenFormat::name).toList(), rows);
    }

    private interface Cell {
        String of(Capabilities capabilities);
    }

    private static void row(List<Row> rows, String property, Cell cell) {
        rows.add(new Row(property, SoundFormats.WRITTEN.stream().map(f -> cell.of(f.capabilities())).toList()));
    }

    private static String rates(Set<Integer> hz) {
        List<String> sorted = hz.stream().sorted().map(r -> String.format(Locale.ROOT, "%,d", r)).toList();
        return sorted.isEmpty()
                ? "any"
                : sorted.size() < 4 ? String.join(", ", sorted) + " Hz" : sorted.size() + " from " + sorted.getFirst() + " to " + sorted.getLast() + " Hz";
    }

    private static String yes(boolean carried) { return carried ? "yes" : "–"; }

    private static String count(int n) { return n == 0 ? "–" : n == Integer.MAX_VALUE ? "any number" : Integer.toString(n); }

    /// As a Markdown table, with a line feed at the end.
    public String markdown() {
        StringBuilder out = new StringBuilder("| property | ").append(String.join(" | ", columns)).append(" |\n|---|").append("---|".repeat(columns.size()))
                .append("\n");
        for (Row row : rows)
            out.append("| ").append(row.property()).append(" | ").append(String.join(" | ", row.cells())).append(" |\n");
        return out.toString();
    }
}
