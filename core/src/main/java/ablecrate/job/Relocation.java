package ablecrate.job;

import ablecrate.option.ItemEdit;
import java.io.IOException;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.BooleanSupplier;

/// Finds what a job speaks of again, after folders were moved or renamed, below a folder that the user points at. What was wanted for single sounds goes with
/// them.
///
/// A source is looked for under its own name and those of the folders above it, the more of them the better; a folder that is pointed at may have
/// another name. A sound that is not at its place then is looked for by its name and length, and where several are alike, by their content.
public final class Relocation {
    /// Files and folders that are looked at below the one pointed at.
    private static final int MOST = 500_000;

    private final Path chosen;
    /// `[name]`: where it lies below the folder pointed at.
    private final Map<String, List<Path>> byName = new HashMap<>();

    private Relocation(Path chosen) { this.chosen = chosen; }

    /// @param job with all that was found at its new place
    /// @param missing what was not found
    public record Found(Job job, List<Path> missing) {
        public Found {
            missing = List.copyOf(missing);
        }
    }

    /// The sources, and files that are treated otherwise than the rest, that are not there.
    public static List<Path> missing(Job job) {
        Set<Path> missing = new LinkedHashSet<>();
        for (Path source : job.sources())
            if (!Files.exists(source)) missing.add(source);
        for (Path file : spokenOf(job))
            if (!Files.exists(file) && missing.stream().noneMatch(file::startsWith)) missing.add(file);
        return List.copyOf(missing);
    }

    private static Set<Path> spokenOf(Job job) {
        Set<Path> files = new TreeSet<>(job.edits().keySet());
        job.edits().values().forEach(e -> files.addAll(e.added()));
        return files;
    }

    /// @param lengths of files as they were, where known
    /// @param stopped asked now and then; true ends the search with what was found
    public static Found below(Path folder, Job job, Map<Path, Long> lengths, BooleanSupplier stopped) throws IOException {
        Relocation relocation = new Relocation(folder.toAbsolutePath().normalize());
        relocation.index(stopped);
        Map<Path, Path> moved = new LinkedHashMap<>();
        for (Path source : job.sources())
            if (!Files.exists(source)) relocation.newPlace(source, job).ifPresent(place -> moved.put(source, place));
        Map<Path, Path> files = new HashMap<>();
        for (Path file : spokenOf(job)) {
            Path at = rebased(file, moved);
            if (!Files.exists(at)) relocation.sound(file, Optional.ofNullable(lengths.get(file))).ifPresent(place -> files.put(file, place));
        }
        Job found = rebased(job, moved, files);
        return new Found(found, missing(found));
    }

    private void index(BooleanSupplier stopped) throws IOException {
        int[] count = {0};
        Files.walkFileTree(chosen, new SimpleFileVisitor<>() {
            @Override public FileVisitResult preVisitDirectory(Path folder, BasicFileAttributes attributes) { return seen(folder); }

            @Override public FileVisitResult visitFile(Path file, BasicFileAttributes attributes) { return seen(file); }

            @Override public FileVisitResult visitFileFailed(Path file, IOException e) { return FileVisitResult.CONTINUE; }

            private FileVisitResult seen(Path path) {
                if (path.getFileName() != null) byName.computeIfAbsent(path.getFileName().toString(), _ -> new ArrayList<>()).add(path);
                return ++count[0] > MOST || stopped.getAsBoolean() ? FileVisitResult.TERMINATE : FileVisitResult.CONTINUE;
            }
        });
    }

    private Optional<Path> newPlace(Path source, Job job) {
        Path best = null;
        int most = 0;
        for (Path candidate : byName.getOrDefault(source.getFileName().toString(), List.of())) {
            int same = sameEnd(source, candidate);
            if (same > most) {
                most = same;
                best = candidate;
            }
        }
        if (best != null) return Optional.of(best);
        // The folder itself, under another name: what is known to lie in it has to be there.
        List<Path> inside = new ArrayList<>(spokenOf(job));
        inside.addAll(job.removed());
        inside.removeIf(f -> !f.startsWith(source) || f.equals(source));
        boolean isIt = inside.isEmpty() ? job.sources().size() == 1 : inside.stream().anyMatch(f -> Files.exists(chosen.resolve(source.relativize(f))));
        return isIt ? Optional.of(chosen) : Optional.empty();
    }

    /// How many names are the same, from the last one up.
    private static int sameEnd(Path a, Path b) {
        int same = 0;
        while (same < Math.min(a.getNameCount(), b.getNameCount()) && a.getName(a.getNameCount() - 1 - same).equals(b.getName(b.getNameCount() - 1 - same)))
            same++;
        return same;
    }

    private Optional<Path> sound(Path file, Optional<Long> length) throws IOException {
        List<Path> alike = new ArrayList<>();
        for (Path candidate : byName.getOrDefault(file.getFileName().toString(), List.of()))
            if (Files.isRegularFile(candidate) && (length.isEmpty() || Files.size(candidate) == length.get())) alike.add(candidate);
        for (int i = 1; i < alike.size(); i++)
            if (Files.mismatch(alike.getFirst(), alike.get(i)) >= 0) return Optional.empty();
        return alike.stream().findFirst();
    }

    private static Path rebased(Path path, Map<Path, Path> moved) {
        for (Map.Entry<Path, Path> folder : moved.entrySet())
            if (path.startsWith(folder.getKey()))
                return path.equals(folder.getKey()) ? folder.getValue() : folder.getValue().resolve(folder.getKey().relativize(path));
        return path;
    }

    private static Job rebased(Job job, Map<Path, Path> moved, Map<Path, Path> files) {
        Map<Path, ItemEdit> edits = new HashMap<>();
        job.edits().forEach((file, edit) -> edits.put(files.getOrDefault(file, rebased(file, moved)),
                edit.withAdded(edit.added().stream().map(a -> files.getOrDefault(a, rebased(a, moved))).toList())));
        Set<Path> removed = new LinkedHashSet<>();
        job.removed().forEach(r -> removed.add(rebased(r, moved)));
        Set<Path> sources = new LinkedHashSet<>(job.sources().stream().map(s -> rebased(s, moved)).toList());
        for (Path place : files.values())
            if (sources.stream().noneMatch(place::startsWith)) sources.add(place);
        return new Job(List.copyOf(sources), removed, edits, job.deliveries().stream().map(d -> d.packingInto(d.into().map(i -> rebased(i, moved)))).toList(),
                job.shown());
    }
}
