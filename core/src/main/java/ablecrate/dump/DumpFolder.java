package ablecrate.dump;

import ablecrate.codec.FormatException;
import ablecrate.destination.DestinationSheet;
import ablecrate.destination.NameRules;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.stream.Stream;

/// Files that stand for what is sent, and take what is received.
/// @param faults files that cannot be sent, each with why
public record DumpFolder(List<Dump> dumps, List<Fault> faults) {
    public record Fault(Path file, String why) {}

    public DumpFolder {
        dumps = List.copyOf(dumps);
        faults = List.copyOf(faults);
    }

    /// @param path a dump, or a folder with some, which go in the order of their names
    public static DumpFolder read(List<Path> path) throws IOException {
        List<Dump> dumps = new ArrayList<>();
        List<Fault> faults = new ArrayList<>();
        for (Path each : path)
            for (Path file : files(each))
                try {
                    dumps.add(Dump.read(file));
                } catch (FormatException e) {
                    faults.add(new Fault(file, e.getMessage()));
                }
        return new DumpFolder(dumps, faults);
    }

    private static List<Path> files(Path path) throws IOException {
        if (!Files.isDirectory(path)) return List.of(path);
        try (Stream<Path> all = Files.list(path)) {
            return all.filter(f -> f.getFileName().toString().toLowerCase(Locale.ROOT).matches("[^.].*\\.(sds|syx)")).sorted().toList();
        }
    }

    /// Writes a sound that was received; nothing that is there is written over.
    /// @return where it is
    public static Path keep(Dump dump, Path folder) throws IOException {
        Files.createDirectories(folder);
        NameRules rules = new NameRules(DestinationSheet.Names.FREE);
        // One that began with a dot would be hidden.
        String stem = rules.fit(rules.fit(dump.name()).replaceFirst("^\\.+", ""));
        Path file = folder.resolve(stem + ".sds");
        for (int i = 2; Files.exists(file); i++)
            file = folder.resolve(stem + "-" + i + ".sds");
        dump.write(file);
        return file;
    }
}
