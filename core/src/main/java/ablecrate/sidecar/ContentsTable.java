package ablecrate.sidecar;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/// A list of what a long sound is made of, as a table that spreadsheets read: comma-separated, UTF-8, a line of titles first.
///
/// Source: RFC 4180, *Common Format and MIME Type for Comma-Separated Values (CSV) Files*.
public record ContentsTable(Contents contents) implements Sidecar {
    private static final List<String> TITLES = List.of("number", "name", "file", "startFrame", "frames", "startSeconds", "seconds", "rateHz", "source");
    private static final int NAME = 1, START = 3, FRAMES = 4;

    @Override public String id() { return "csv"; }

    @Override public String label() { return "list of contents"; }

    @Override public String extension() { return "csv"; }

    @Override public int entries() { return contents.entries().size(); }

    @Override public String noun() { return "sound"; }

    @Override public byte[] bytes(List<String> sounds) {
        StringBuilder out = new StringBuilder();
        row(TITLES, out);
        for (int i = 0; i < entries(); i++) {
            Contents.Entry e = contents.entries().get(i);
            row(List.of(Integer.toString(i + 1), e.name(), String.join("; ", sounds), Long.toString(e.startFrame()), Long.toString(e.frames()),
                    seconds(e.startFrame()), seconds(e.frames()), Integer.toString(contents.rateHz()), e.source()), out);
        }
        return out.toString().getBytes(StandardCharsets.UTF_8);
    }

    private String seconds(long frames) { return String.format(Locale.ROOT, "%.6f", contents.seconds(frames)); }

    private static void row(List<String> cells, StringBuilder into) {
        into.append(String.join(",", cells.stream().map(c -> c.matches("(?s).*[\",\r\n].*") ? '"' + c.replace("\"", "\"\"") + '"' : c).toList()))
                .append("\r\n");
    }

    @Override public Found found(byte[] written) {
        List<List<String>> rows = rows(new String(written, StandardCharsets.UTF_8));
        if (rows.size() != entries() + 1) return new Found(false, (rows.size() - 1) + " sounds");
        for (int i = 0; i < entries(); i++) {
            Contents.Entry wanted = contents.entries().get(i);
            List<String> row = rows.get(i + 1);
            if (row.size() != TITLES.size() || !row.get(NAME).equals(wanted.name()) || !row.get(START).equals(Long.toString(wanted.startFrame()))
                    || !row.get(FRAMES).equals(Long.toString(wanted.frames())))
                return new Found(false, "line " + (i + 2) + ": " + String.join(",", row));
        }
        return new Found(true, entries() + " sounds with their frames");
    }

    private static List<List<String>> rows(String text) {
        List<List<String>> rows = new ArrayList<>();
        List<String> row = new ArrayList<>();
        StringBuilder cell = new StringBuilder();
        boolean isQuoted = false;
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c == '"') {
                // Two in a row inside of quotes are one.
                boolean isDoubled = isQuoted && i + 1 < text.length() && text.charAt(i + 1) == '"';
                if (isDoubled)
                    cell.append(text.charAt(++i));
                else
                    isQuoted = !isQuoted;
            } else
                if (isQuoted || c != ',' && c != '\r' && c != '\n')
                    cell.append(c);
                else
                    if (c != '\r') {
                        row.add(cell.toString());
                        cell.setLength(0);
                        if (c == '\n') {
                            rows.add(row);
                            row = new ArrayList<>();
                        }
                    }
        }
        return rows;
    }
}
