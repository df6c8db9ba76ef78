package ablecrate.format;

import ablecrate.codec.FileKind;
import ablecrate.codec.chunk.ReadingBudget;
import ablecrate.codec.FormatException;
import ablecrate.codec.SoundFormat;
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

/// Looks for sounds that are not where a file says: by their name and size, nearby.
public final class MissingSounds {
    private static final int DEPTH = 3, MOST = 20_000;

    private final Path folder;
    private Map<String, List<Path>> byName;

    /// @param folder where the instrument lies
    public MissingSounds(Path folder) { this.folder = folder; }

    /// @param name a path or name as the instrument has it
    /// @param neededFrames how long the sound has to be for what the instrument plays of it
    /// @return the one file of that name in or below the folder, or in or below the one above; else the one that has its name in another format. Of
    ///     several, the one that is long enough, where all that are have one and the same size. Empty if there is none, or no telling which
    public Optional<Path> find(String name, long neededFrames) {
        if (byName == null) byName = index();
        String slashed = name.replace('\\', '/'), file = slashed.substring(slashed.lastIndexOf('/') + 1).toLowerCase(Locale.ROOT);
        return chosen(byName.getOrDefault(file, List.of()), neededFrames)
                .or(() -> chosen(byName.getOrDefault(stem(file), List.of()).stream().filter(MissingSounds::isSound).toList(), neededFrames));
    }

    private static Optional<Path> chosen(List<Path> found, long neededFrames) {
        if (found.size() < 2) return found.stream().findFirst();
        List<Path> fits = found.stream().filter(p -> frames(p) >= neededFrames).toList();
        return fits.stream().map(MissingSounds::size).distinct().count() == 1 ? Optional.of(fits.getFirst()) : Optional.empty();
    }

    private static boolean isSound(Path file) { return frames(file) > 0; }

    /// 0 where it is no sound.
    private static long frames(Path file) {
        try {
            return FileKind.of(file) instanceof FileKind.Sound(SoundFormat format) ? format.read(file).frames() : 0;
        } catch (IOException | FormatException e) {
            return 0;
        }
    }

    private static long size(Path file) {
        try {
            return Files.size(file);
        } catch (IOException e) {
            return -1;
        }
    }

    private static String stem(String file) { return file.substring(0, file.lastIndexOf('.') < 1 ? file.length() : file.lastIndexOf('.')); }

    private Map<String, List<Path>> index() {
        Map<String, List<Path>> index = new HashMap<>();
        Set<Path> seen = new HashSet<>();
        for (Path start : folder.getParent() == null ? List.of(folder) : List.of(folder, folder.getParent()))
            try (Stream<Path> files = Files.walk(start, DEPTH)) {
                files.limit(MOST).peek(_ -> ReadingBudget.goesOn()).filter(Files::isRegularFile).filter(seen::add)
                        .forEach(p -> {
                            String name = p.getFileName().toString().toLowerCase(Locale.ROOT);
                            index.computeIfAbsent(name, _ -> new ArrayList<>()).add(p);
                            // A sound that was converted since has its name without the extension only.
                            if (!stem(name).equals(name)) index.computeIfAbsent(stem(name), _ -> new ArrayList<>()).add(p);
                        });
            } catch (IOException | UncheckedIOException e) {
                // A folder that may not be entered holds nothing that could be found.
            }
        return index;
    }
}
