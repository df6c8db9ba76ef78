package ablecrate;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.URISyntaxException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/// The reference files and their table.
public final class Fixtures {
    private Fixtures() {}

    public static Path path(String name) {
        try {
            var url = Fixtures.class.getResource("/fixtures/" + name);
            if (url == null) throw new AssertionError("fixture " + name + " is missing");
            return Path.of(url.toURI());
        } catch (URISyntaxException e) {
            throw new AssertionError(e);
        }
    }

    /// Rows of a table by column name.
    public static List<Map<String, String>> table(String name) {
        try {
            List<String> lines = Files.readAllLines(path(name)).stream().filter(l -> !l.startsWith("#")).toList();
            String[] columns = lines.getFirst().split("\t");
            List<Map<String, String>> rows = new ArrayList<>();
            for (String line : lines.subList(1, lines.size())) {
                String[] cells = line.split("\t", -1);
                Map<String, String> row = new HashMap<>();
                for (int i = 0; i < columns.length; i++)
                    row.put(columns[i], cells[i]);
                rows.add(row);
            }
            return rows;
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
