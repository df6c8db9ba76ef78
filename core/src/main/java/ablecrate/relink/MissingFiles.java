package ablecrate.relink;

import ablecrate.codec.SoundFile;
import ablecrate.disk.Checksums;
import ablecrate.library.Gathered;
import ablecrate.library.Gatherer;
import ablecrate.session.SessionDocument;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.BooleanSupplier;
import java.util.stream.Collectors;

/// Looks for files that a session misses: by content under any name, by name and length, by name where no length is known.
final class MissingFiles {
    /// @param file what was taken; empty where nothing was
    /// @param how it was found, or why nothing was taken, in words
    record Found(Optional<Gathered> file, String how) {}

    private final Map<String, List<Gathered>> byName;
    private final Map<Long, List<Gathered>> byLength;

    private MissingFiles(List<Gathered> sounds) {
        byName = sounds.stream().collect(Collectors.groupingBy(g -> g.fileName().toLowerCase(Locale.ROOT)));
        byLength = sounds.stream().collect(Collectors.groupingBy(g -> g.sound().orElseThrow().frames()));
    }

    /// @param folders that are searched, with all below them
    static Map<String, Found> find(List<SessionDocument.SoundRef> missing, List<Path> folders, BooleanSupplier stopped) throws IOException {
        if (missing.isEmpty()) return Map.of();
        MissingFiles all = new MissingFiles(Gatherer.readAll(Gatherer.find(folders, stopped), stopped).stream().filter(g -> g.sound().isPresent()).toList());
        Map<String, Found> found = new HashMap<>();
        for (SessionDocument.SoundRef file : missing)
            found.put(file.path(), all.find(file));
        return found;
    }

    private Found find(SessionDocument.SoundRef wanted) throws IOException {
        String name = wanted.path().substring(Math.max(wanted.path().lastIndexOf('/'), wanted.path().lastIndexOf('\\')) + 1);
        List<Gathered> named = byName.getOrDefault(name.toLowerCase(Locale.ROOT), List.of());
        if (wanted.xxh128().isPresent())
            for (Gathered g : wanted.frames().isPresent() ? byLength.getOrDefault(wanted.frames().get(), List.of()) : named)
                if (Checksums.xxh128Hex(g.path()).equals(wanted.xxh128().get())) return new Found(Optional.of(g), "found by its content");
        if (named.isEmpty()) return new Found(Optional.empty(), "no file of that name, length or content was found");
        List<Gathered> fitting = named.stream().filter(g -> wanted.frames().isEmpty() || wanted.frames().get() == frames(g)).toList();
        if (fitting.isEmpty())
            return new Found(Optional.empty(), String.format(Locale.ROOT, "%s has %,d frames, not %,d, so it is another", named.getFirst().path(),
                    frames(named.getFirst()), wanted.frames().orElseThrow()));
        if (!areAlike(fitting))
            return new Found(Optional.empty(),
                    "several of that name differ: " + fitting.stream().map(g -> g.path().toString()).collect(Collectors.joining(", ")) + "; name one folder");
        return new Found(Optional.of(fitting.getFirst()), wanted.frames().isPresent() ? "found by name and length" : "found by name");
    }

    private static long frames(Gathered g) { return g.sound().map(SoundFile::frames).orElseThrow(); }

    private static boolean areAlike(List<Gathered> files) throws IOException {
        List<String> sums = new ArrayList<>();
        if (files.size() > 1)
            for (Gathered g : files)
                sums.add(Checksums.xxh128Hex(g.path()));
        return sums.stream().distinct().count() <= 1;
    }
}
