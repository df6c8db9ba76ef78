package ablecrate.pack;

import ablecrate.disk.SafeFile;
import ablecrate.json.Json;
import java.io.IOException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/// Originals that were put aside by packing in place: a dated folder below the gathered one, and a list that says where each belongs.
///
/// The list is written before a file is moved, so that a crash between the two leaves a list that names a file too many,
/// never one too few. Safe for threads.
public final class Originals {
    public static final String LIST = "originals.json";
    private static final DateTimeFormatter DATED = DateTimeFormatter.ofPattern("yyyy-MM-dd HHmmss", Locale.ROOT).withZone(ZoneOffset.UTC);

    private final Path root, folder;
    private final List<Entry> entries = new ArrayList<>();

    /// @param original where the file belongs, below the gathered folder
    /// @param kept where it lies, below the dated folder
    /// @param results what took its place, below the gathered folder
    public record Entry(String original, String kept, List<String> results) {}

    record ListFile(String root, List<Entry> entries) {}

    Originals(Path root, Instant now) {
        this.root = root.toAbsolutePath().normalize();
        this.folder = this.root.resolve("originals " + DATED.format(now));
    }

    Path root() { return root; }

    synchronized void putAside(Path original, List<Path> results) throws IOException {
        Path relative = root.relativize(original.toAbsolutePath().normalize());
        if (relative.startsWith("..")) throw new IOException(original + " does not lie in the gathered folder " + root);
        Path kept = folder.resolve(relative);
        Files.createDirectories(kept.getParent());
        entries.add(new Entry(slashes(relative), slashes(folder.relativize(kept)), results.stream().map(p -> slashes(root.relativize(p))).toList()));
        SafeFile.write(folder.resolve(LIST), Json.write(new ListFile(root.toString(), entries)));
        Files.move(original, kept, StandardCopyOption.ATOMIC_MOVE);
    }

    private static String slashes(Path path) { return path.toString().replace('\\', '/'); }

    /// What a restore did.
    public record Restored(List<Path> broughtBack, List<String> problems) {}

    /// Brings originals back: what took their places is removed, they return to where they were.
    /// @param dated the dated folder, or the gathered one, whose newest dated folder is then taken
    public static Restored restore(Path dated) throws IOException, Json.JsonFault {
        Path folder = find(dated.toAbsolutePath().normalize());
        Path root = folder.getParent();
        List<Path> broughtBack = new ArrayList<>();
        List<String> problems = new ArrayList<>();
        for (Entry entry : Json.read(folder.resolve(LIST), ListFile.class).entries()) {
            Path kept = inside(folder, entry.kept()), original = inside(root, entry.original());
            if (!Files.exists(kept)) {
                if (!Files.exists(original)) problems.add(kept + " is not there, and neither is " + original);
                continue;
            }
            try {
                for (String result : entry.results())
                    Files.deleteIfExists(inside(root, result));
                Files.createDirectories(original.getParent());
                Files.move(kept, original);
                broughtBack.add(original);
            } catch (FileAlreadyExistsException e) {
                problems.add(original + " exists and is none of the results; move it away and restore again");
            }
        }
        if (problems.isEmpty()) clear(folder);
        return new Restored(broughtBack, problems);
    }

    private static Path find(Path given) throws IOException {
        if (Files.exists(given.resolve(LIST))) return given;
        if (Files.isDirectory(given)) try (var inside = Files.list(given)) {
            var newest = inside.filter(p -> Files.exists(p.resolve(LIST))).max(java.util.Comparator.naturalOrder());
            if (newest.isPresent()) return newest.get();
        }
        throw new IOException(given + " holds no originals: no " + LIST + " is in it or in a folder below it");
    }

    private static Path inside(Path folder, String relative) throws IOException {
        Path path = folder.resolve(relative).normalize();
        if (!path.startsWith(folder)) throw new IOException("the list names '" + relative + "', which leads out of " + folder);
        return path;
    }

    private static void clear(Path folder) throws IOException {
        Files.deleteIfExists(folder.resolve(LIST));
        try (var tree = Files.walk(folder)) {
            for (Path path : tree.sorted(java.util.Comparator.reverseOrder()).toList())
                if (Files.isDirectory(path)) try (var rest = Files.list(path)) {
                    if (rest.findAny().isEmpty()) Files.delete(path);
                }
        }
    }
}
