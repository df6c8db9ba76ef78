package ablecrate.cli;

import java.io.PrintWriter;
import java.util.List;

/// Columns as wide as their widest cell.
final class Tables {
    private Tables() {}

    static void print(PrintWriter out, List<List<String>> rows) {
        if (rows.isEmpty()) return;
        int columns = rows.getFirst().size();
        int[] widths = new int[columns];
        for (List<String> row : rows)
            for (int c = 0; c < columns; c++)
                widths[c] = Math.max(widths[c], row.get(c).length());
        for (List<String> row : rows) {
            StringBuilder line = new StringBuilder();
            for (int c = 0; c < columns; c++)
                line.append(row.get(c)).append(" ".repeat(c == columns - 1 ? 0 : widths[c] - row.get(c).length() + 2));
            out.println(line.toString().stripTrailing());
        }
    }
}
