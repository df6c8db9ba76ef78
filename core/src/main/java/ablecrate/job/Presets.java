package ablecrate.job;

import ablecrate.disk.UserFolders;
import ablecrate.json.Json;
import ablecrate.option.PackOptions;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/// Named sets of options with the destination they are for: jobs without sources, a file each in one folder.
public final class Presets {
    private static final int LONGEST_NAME = 60;

    private final Path folder;

    /// @param folder made when the first preset is saved
    public Presets(Path folder) { this.folder = folder; }

    /// Those of the user.
    public static Presets ofUser() { return new Presets(UserFolders.settings().resolve("presets")); }

    /// @param destination id of a sheet, or a sheet's file
    public record Preset(String destination, PackOptions options) {}

    /// Names in the order of the alphabet.
    public List<String> names() throws IOException {
        if (!Files.isDirectory(folder)) return List.of();
        try (Stream<Path> files = Files.list(folder)) {
            return files.map(f -> f.getFileName().toString()).filter(n -> n.endsWith(Jobs.EXTENSION))
                    .map(n -> n.substring(0, n.length() - Jobs.EXTENSION.length()))
                    .sorted(String.CASE_INSENSITIVE_ORDER).toList();
        }
    }

    /// What is wrong with a name; empty if it can be one.
    public static Optional<String> fault(String name) {
        if (name.isBlank()) return Optional.of("a preset needs a name");
        if (name.length() > LONGEST_NAME) return Optional.of("the name is longer than " + LONGEST_NAME + " characters");
        boolean isPlain = name.chars().allMatch(c -> Character.isLetterOrDigit(c) || " _-+.,()".indexOf(c) >= 0) && !name.startsWith(".")
                && name.equals(name.strip());
        return isPlain ? Optional.empty() : Optional.of("letters, digits, spaces and _ - + . , ( ) make the name of a preset");
    }

    /// @throws Json.JsonFault if there is none of this name, or it is spoilt
    public Preset find(String name) throws IOException, Json.JsonFault {
        Path file = file(name);
        if (fault(name).isPresent() || !Files.isRegularFile(file)) {
            List<String> all = names();
            throw new Json.JsonFault("no preset '" + name + "'" + (all.isEmpty() ? "; none has been saved yet" : "; there are " + String.join(", ", all)));
        }
        Job job = Jobs.open(file);
        return new Preset(job.destination(), job.options());
    }

    /// Replaces a preset of that name.
    public void save(String name, Preset preset) throws IOException {
        fault(name).ifPresent(f -> {
            throw new IllegalArgumentException(f);
        });
        Files.createDirectories(folder);
        Jobs.save(new Job(List.of(), Set.of(), preset.destination(), preset.options(), Map.of(), Optional.empty()), file(name));
    }

    /// @throws java.nio.file.FileAlreadyExistsException if the new name is another's
    public void rename(String name, String newName) throws IOException {
        fault(newName).ifPresent(f -> {
            throw new IllegalArgumentException(f);
        });
        Files.move(file(name), file(newName));
    }

    public void delete(String name) throws IOException { Files.deleteIfExists(file(name)); }

    private Path file(String name) { return folder.resolve(name + Jobs.EXTENSION); }
}
