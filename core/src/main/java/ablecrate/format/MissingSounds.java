package ablecrate.format;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/// Looks for sounds that are not where a file says: by their name, nearby.
public final class MissingSounds {
    private static final int DEPTH = 3, MOST = 20_000;

    private final Path folder;
    private Map<String, List<Path>> byName;

    /// @param folder where the instrument lies
    public MissingSounds(Path folder) { this.folder = folder; }

    /// @param name a path or name as the instrument has it
    /// @return the one file of that name in or below the folder, or in or below the one above; empty if there is none, or several
    public Optional<Path> find(String name) {
        if (byName == null) byName = index();
        String slashed = name.replace('\\', '/');
        List<Path> found = byName.getOrDefault(slashed.substring(slashed.lastIndexOf('/') + 1).toLowerCase(Locale.ROOT), List.of());
        return found.size() == 1 ? Optional.of(found.getFirst()) : Optional.empty();
    }

    private Map<String, List<Path>> index() {
        Map<String, List<Path>> index = new HashMap<>();
        Set<Path> seen = new HashSet<>();
        for (Path start : folder.getParent() == null ? List.of(folder) : List.of(folder, folder.getParent()))
            try (Stream<Path> files = Files.walk(start, DEPTH)) {
                files.limit(MOST).filter(Files::isRegularFile).filter(seen::add)
                        .forEach(p -> index.computeIfAbsent(p.getFileName().toString().toLowerCase(Locale.ROOT), _ -> new ArrayList<>()).add(p));
            } catch (IOException | UncheckedIOException e) {
                // A folder that may not be entered holds nothing that could be found.
            }
        return index;
    }
}
