package ablecrate.pack;

import ablecrate.disk.Checksums;
import ablecrate.disk.DiskFault;
import ablecrate.disk.SafeFile;
import ablecrate.json.Json;
import ablecrate.library.Gatherer;
import ablecrate.library.NaturalOrder;
import java.io.File;
import java.io.IOException;
import java.net.URI;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/// Originals that were put aside by packing in place: a dated folder below the gathered one, and a list that says where each belongs.
///
/// The list is written before a file is moved, so that a crash between the two leaves a list that names a file too many,
/// never one too few. A run makes a folder of its own, whatever the clock says. Safe for threads.
public final class Originals {
    public static final String LIST = Gatherer.ORIGINALS_LIST;
    private static final DateTimeFormatter DATED = DateTimeFormatter.ofPattern("yyyy-MM-dd HHmmss", Locale.ROOT).withZone(ZoneOffset.UTC);
    private static final String ENCODED = "uri:";

    private final Path root;
    private final Instant now;
    private final List<Entry> entries = new ArrayList<>();
    private final List<Added> added = new ArrayList<>();
    private Optional<Path> folder = Optional.empty();

    /// @param original where the file belongs, below the gathered folder
    /// @param kept where it lies, below the dated folder
    /// @param results what took its place, below the gathered folder
    /// @param sums XXH128 of the results as they were left, in their order; an empty one where it does not matter, none in lists of a program that kept none
    public record Entry(String original, String kept, List<String> results, List<String> sums) {
        public Entry {
            sums = sums == null ? List.of() : List.copyOf(sums);
        }
    }

    /// @param added what was not there before, below the gathered folder
    record ListFile(String root, List<Entry> entries, List<Added> added) {
        ListFile {
            added = added == null ? List.of() : added;
        }
    }

    /// @param xxh128 of the file as it was left; absent where that does not matter
    record Added(String path, Optional<String> xxh128) {}

    /// What takes the place of an original.
    /// @param xxh128 of the finished file
    record Result(Path path, String xxh128) {}

    Originals(Path root, Instant now) {
        this.root = root.toAbsolutePath().normalize();
        this.now = now;
    }

    Path root() { return root; }

    /// Made when the first original comes; two runs in the same second have two.
    private Path folder() throws IOException {
        for (int n = 1; folder.isEmpty(); n++)
            try {
                folder = Optional.of(Files.createDirectory(root.resolve("originals " + DATED.format(now) + (n == 1 ? "" : "-" + n))));
            } catch (FileAlreadyExistsException e) {
                // Another run's; its list is not ours to write.
            }
        return folder.get();
    }

    synchronized void putAside(Path original, List<Result> results) throws IOException {
        Path relative = root.relativize(original.toAbsolutePath().normalize());
        if (relative.startsWith("..")) throw new IOException(original + " does not lie in the gathered folder " + root);
        Path kept = folder().resolve(relative);
        Files.createDirectories(kept.getParent());
        entries.add(new Entry(text(root, original), text(folder(), kept), results.stream().map(r -> text(root, r.path())).toList(),
                results.stream().map(Result::xxh128).toList()));
        write();
        Files.move(original, kept, StandardCopyOption.ATOMIC_MOVE);
    }

    private void write() throws IOException {
        SafeFile.write(folder().resolve(LIST), Json.write(new ListFile(root.toString(), entries, added)));
    }

    /// Copies small files that are about to be written anew, and notes what is new; whatever happens from then on, all of it can be taken back.
    /// @param rewritten files that need not be there yet
    synchronized void keep(List<Path> rewritten, List<Added> others) throws IOException {
        added.addAll(others);
        for (Path file : rewritten) {
            Path kept = folder().resolve(file.getFileName());
            if (Files.exists(file)) {
                Files.copy(file, kept);
                entries.add(new Entry(text(root, file), text(folder(), kept), List.of(text(root, file)), List.of("")));
            } else
                added.add(new Added(text(root, file), Optional.empty()));
        }
        write();
    }

    /// Notes what one of the files that were [kept][#keep] became: should somebody change it, it stays.
    synchronized void guard(Path rewritten) throws IOException {
        String path = text(root, rewritten), sum = Checksums.xxh128Hex(rewritten);
        entries.replaceAll(e -> e.original().equals(path) && e.results().equals(List.of(path)) ? new Entry(path, e.kept(), e.results(), List.of(sum)) : e);
        added.replaceAll(a -> a.path().equals(path) ? new Added(path, Optional.of(sum)) : a);
        write();
    }

    /// Writes a file anew; as it was it goes to a dated folder beside it.
    public static void replace(Path file, byte[] bytes, Instant now) throws IOException {
        Path part = SafeFile.partOf(file);
        try {
            Files.write(part, bytes);
            new Originals(file.toAbsolutePath().getParent(), now).putAside(file, List.of(new Result(file, Checksums.xxh128Hex(part))));
            SafeFile.publish(part, file);
        } catch (IOException e) {
            DiskFault.deleteQuietly(part);
            throw e;
        }
    }

    /// A path below a folder as a list can bear it: with `/` between folders, or, where a text cannot say it (bytes that are no UTF-8), as the path of a URI.
    private static String text(Path base, Path path) {
        String plain = base.relativize(path.toAbsolutePath().normalize()).toString();
        if (File.separatorChar != '/') plain = plain.replace(File.separatorChar, '/');
        try {
            if (!plain.startsWith(ENCODED) && base.resolve(plain).equals(path.toAbsolutePath().normalize())) return plain;
        } catch (InvalidPathException e) {
            // Said in the other way.
        }
        return ENCODED + base.toUri().relativize(path.toUri()).getRawPath();
    }

    private static Path path(Path base, String text) throws IOException {
        Path path;
        try {
            path = text.startsWith(ENCODED)
                    ? Path.of(URI.create(base.toUri() + (base.toUri().toString().endsWith("/") ? "" : "/") + text.substring(ENCODED.length()))).normalize()
                    : base.resolve(text).normalize();
        } catch (IllegalArgumentException e) {
            throw new IOException("the list names '" + text + "', which is no path");
        }
        if (!path.startsWith(base)) throw new IOException("the list names '" + text + "', which leads out of " + base);
        return path;
    }

    /// What a restore did.
    /// @param setAside results that somebody had changed, under their new names
    /// @param removed what had been added
    public record Restored(List<Path> broughtBack, List<Path> setAside, List<Path> removed, List<String> problems) {}

    /// Brings originals back: what took their places is removed, they return to where they were. A result that is not as it was left stays.
    /// @param dated the dated folder, or the gathered one, whose newest dated folder is then taken
    /// @param keepsBoth whether a result that was changed makes room under another name
    public static Restored restore(Path dated, boolean keepsBoth) throws IOException, Json.JsonFault {
        Path folder = find(dated.toAbsolutePath().normalize());
        Path root = folder.getParent();
        Restored done = new Restored(new ArrayList<>(), new ArrayList<>(), new ArrayList<>(), new ArrayList<>());
        ListFile list = Json.read(folder.resolve(LIST), ListFile.class);
        for (Entry entry : list.entries()) {
            Path kept = path(folder, entry.kept()), original = path(root, entry.original());
            List<Path> results = new ArrayList<>();
            for (String result : entry.results())
                results.add(path(root, result));
            try {
                restore(kept, original, results, entry.sums(), keepsBoth, done);
            } catch (IOException e) {
                done.problems().add(original + ": " + DiskFault.text(e));
            }
        }
        if (done.problems().isEmpty())
            for (Added added : list.added())
                remove(path(root, added.path()), added.xxh128(), keepsBoth, done);
        if (done.problems().isEmpty()) clear(folder);
        done.removed().forEach(removed -> clearAbove(removed, root));
        return done;
    }

    /// Where originals lie that the last change of a folder put aside, by where they belong.
    public static Map<Path, Path> kept(Path gathered) throws IOException, Json.JsonFault {
        Path folder = find(gathered.toAbsolutePath().normalize());
        Map<Path, Path> kept = new HashMap<>();
        for (Entry entry : Json.read(folder.resolve(LIST), ListFile.class).entries())
            kept.put(path(folder.getParent(), entry.original()), path(folder, entry.kept()));
        return kept;
    }

    /// Folders that nothing is in any more.
    private static void clearAbove(Path removed, Path root) {
        for (Path above = removed.getParent(); above != null && above.startsWith(root) && !above.equals(root); above = above.getParent())
            try {
                Files.deleteIfExists(above);
            } catch (IOException e) {
                // Something is in it: it stays.
                return;
            }
    }

    /// What was added and is as it was left goes; what somebody changed since stays.
    private static void remove(Path file, Optional<String> xxh128, boolean keepsBoth, Restored done) throws IOException {
        if (!Files.exists(file)) return;
        if (xxh128.isEmpty() || Checksums.xxh128Hex(file).equals(xxh128.get())) {
            Files.delete(file);
            done.removed().add(file);
        } else
            if (keepsBoth)
                done.setAside().add(file);
            else
                done.problems().add(file + " was added, and is not as it was left, so it stays; move it away, or keep both");
    }

    private static void restore(Path kept, Path original, List<Path> results, List<String> sums, boolean keepsBoth, Restored done) throws IOException {
        if (!Files.exists(kept)) {
            // Never moved, or brought back already.
            if (!Files.exists(original)) done.problems().add(kept + " is not there, and neither is " + original);
            return;
        }
        if (Files.exists(original) && !results.contains(original)) {
            done.problems().add(original + " exists and is none of the results; move it away and restore again");
            return;
        }
        for (int i = 0; i < results.size(); i++) {
            Path result = results.get(i);
            if (!Files.exists(result) || i < sums.size() && (sums.get(i).isEmpty() || Checksums.xxh128Hex(result).equals(sums.get(i)))) continue;
            if (!keepsBoth) {
                done.problems().add(result + " is not as packing left it (edited, or packed again by a later run), so it stays, and its original stays in "
                        + kept + "; restore the later run first, or keep both");
                return;
            }
            Path aside = free(result);
            Files.move(result, aside);
            done.setAside().add(aside);
        }
        for (Path result : results)
            Files.deleteIfExists(result);
        Files.createDirectories(original.getParent());
        Files.move(kept, original, StandardCopyOption.ATOMIC_MOVE);
        done.broughtBack().add(original);
    }

    /// `glass (changed).wav`, or with a number.
    private static Path free(Path result) {
        String name = result.getFileName().toString();
        int dot = name.lastIndexOf('.');
        String stem = dot < 0 ? name : name.substring(0, dot), extension = dot < 0 ? "" : name.substring(dot);
        for (int n = 1;; n++) {
            Path candidate = result.resolveSibling(stem + " (changed" + (n == 1 ? "" : " " + n) + ")" + extension);
            if (!Files.exists(candidate)) return candidate;
        }
    }

    private static Path find(Path given) throws IOException {
        if (Files.exists(given.resolve(LIST))) return given;
        if (Files.isDirectory(given)) try (var inside = Files.list(given)) {
            // In the order of their dates, and of their numbers within a second.
            var newest = inside.filter(p -> Files.exists(p.resolve(LIST)))
                    .max(Comparator.comparing((Path p) -> p.getFileName().toString(), NaturalOrder.INSTANCE));
            if (newest.isPresent()) return newest.get();
        }
        throw new IOException(given + " holds no originals: no " + LIST + " is in it or in a folder below it");
    }

    private static void clear(Path folder) throws IOException {
        Files.deleteIfExists(folder.resolve(LIST));
        try (var tree = Files.walk(folder)) {
            for (Path path : tree.sorted(Comparator.reverseOrder()).toList())
                if (Files.isDirectory(path)) try (var rest = Files.list(path)) {
                    if (rest.findAny().isEmpty()) Files.delete(path);
                }
        }
    }
}
