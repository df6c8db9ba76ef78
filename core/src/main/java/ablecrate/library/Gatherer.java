package ablecrate.library;

import ablecrate.codec.FileKind;
import ablecrate.codec.FormatException;
import ablecrate.codec.Problem;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormat;
import ablecrate.codec.SoundFormats;
import ablecrate.codec.chunk.ReadingBudget;
import ablecrate.disk.DiskFault;
import ablecrate.format.InstrumentFormat;
import ablecrate.format.InstrumentFormats;
import java.io.IOException;
import java.nio.file.FileSystemLoopException;
import java.nio.file.FileVisitOption;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.BooleanSupplier;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.slf4j.LoggerFactory;

/// Finds the files under folders and tells what each is. Stateless, safe for threads.
public final class Gatherer {
    /// The id of what a fault of the program keeps from being read.
    public static final String FAULT = "fault";

    /// What our own packing leaves behind is no source, and neither are hidden files.
    private static final String SLIP_PREFIX = "packing-slip.";
    /// In a folder of originals that packing in place put aside: they are kept, and never gathered.
    public static final String ORIGINALS_LIST = "originals.json";

    private Gatherer() {}

    /// All files under the given files and folders, each once, in natural order within each folder; none is opened.
    /// Links are followed, circles are not.
    /// @param stopped asked now and then; true ends the search with what was found
    public static List<Gathered> find(List<Path> roots, BooleanSupplier stopped) throws IOException { return find(roots, List.of(), stopped); }

    /// @param into folders to pack into: where they lie below one that is gathered, their contents are results, not sources
    public static List<Gathered> find(List<Path> roots, Collection<Path> into, BooleanSupplier stopped) throws IOException {
        Map<Path, Gathered> found = new LinkedHashMap<>();
        Set<Path> results = into.stream().map(i -> i.toAbsolutePath().normalize()).collect(Collectors.toSet());
        for (Path given : roots) {
            Path root = given.toAbsolutePath().normalize();
            if (!Files.exists(root)) throw new NoSuchFileException(given.toString());
            Path beside = root.getParent() == null ? root : root.getParent();
            List<Path> files = new ArrayList<>();
            Map<Path, String> unreadable = new HashMap<>();
            if (Files.isDirectory(root))
                Files.walkFileTree(root, EnumSet.of(FileVisitOption.FOLLOW_LINKS), Integer.MAX_VALUE,
                        new Collector(root, results, files, unreadable, stopped));
            else
                files.add(root);
            // What all begin with is not compared thousands of times.
            int same = root.toString().length();
            files.sort(Comparator.comparing(f -> f.toString().substring(same), NaturalOrder.INSTANCE));
            for (Path file : files)
                found.putIfAbsent(file, new Gathered(file, beside.relativize(file), unreadable.containsKey(file)
                        ? new Gathered.Content.Refused("unreadable", "Unreadable folder or file", unreadable.get(file))
                        : new Gathered.Content.Unread()));
        }
        return List.copyOf(found.values());
    }

    /// Looks into a file. Never throws: a file that cannot be read is refused with the reason.
    public static Gathered read(Gathered item) { return readAll(List.of(item)).getFirst(); }

    /// Looks into many files at once; the order stays.
    public static List<Gathered> readAll(List<Gathered> items) { return readAll(items, () -> false); }

    /// @param stopped asked now and then; true leaves the rest unread
    public static List<Gathered> readAll(List<Gathered> items, BooleanSupplier stopped) {
        List<Optional<Gathered>> read = ReadingBudget.all(items, i -> i.with(i.content() instanceof Gathered.Content.Unread ? content(i.path()) : i.content()),
                (i, e) -> i.with(unreadable(e)), stopped);
        return IntStream.range(0, items.size()).mapToObj(i -> read.get(i).orElse(items.get(i))).toList();
    }

    static final String CONTENT = "content";

    /// Those of the files that the catalogue knows, without looking into any.
    public static List<Gathered> known(List<Gathered> items, Catalogue catalogue) { return known(items, identities(items), catalogue); }

    private static List<Gathered> known(List<Gathered> items, Map<Path, Catalogue.Identity> identities, Catalogue catalogue) {
        Map<Catalogue.Identity, String> known = catalogue.findAll(identities.values(), CONTENT);
        return items.parallelStream().flatMap(item -> Optional.ofNullable(identities.get(item.path())).map(known::get).flatMap(ContentJson::read)
                .map(file -> new Gathered(item.path(), item.relative(), new Gathered.Content.Sound(file))).stream()).toList();
    }

    private static Map<Path, Catalogue.Identity> identities(List<Gathered> items) {
        Map<Path, Catalogue.Identity> identities = new ConcurrentHashMap<>();
        items.parallelStream().forEach(item -> {
            try {
                identities.put(item.path(), Catalogue.Identity.of(item.path()));
            } catch (IOException e) {
                // Reading it says what is wrong.
            }
        });
        return identities;
    }

    /// Looks into many files, but into none that the catalogue knows; it knows them all then.
    public static List<Gathered> readAll(List<Gathered> items, Catalogue catalogue) { return readAll(items, catalogue, () -> false); }

    /// @param stopped asked before each file; true leaves the rest unread
    public static List<Gathered> readAll(List<Gathered> items, Catalogue catalogue, BooleanSupplier stopped) {
        if (catalogue.isNone() || items.isEmpty()) return readAll(items, stopped);
        Map<Path, Catalogue.Identity> identities = identities(items);
        Map<Path, Gathered> known = new HashMap<>();
        known(items, identities, catalogue).forEach(g -> known.put(g.path(), g));
        List<Gathered> unknown = items.stream().filter(i -> !known.containsKey(i.path())).toList(), looked = readAll(unknown, stopped);
        Map<Catalogue.Identity, String> fresh = new ConcurrentHashMap<>();
        looked.parallelStream().filter(g -> g.sound().isPresent() && identities.containsKey(g.path()))
                .forEach(g -> fresh.put(identities.get(g.path()), ContentJson.write(g.sound().get())));
        catalogue.keep(CONTENT, fresh);
        looked.forEach(g -> known.put(g.path(), g));
        return items.stream().map(i -> known.get(i.path())).toList();
    }

    /// As [#readAll(List, Catalogue)] where the files are opened soon after anyway: heads of plain samples are read sooner than looked up.
    public static List<Gathered> readToOpen(List<Gathered> items, Catalogue catalogue, BooleanSupplier stopped) {
        Map<Boolean, List<Gathered>> byCost = items.stream().collect(Collectors.partitioningBy(i -> SoundFormats.isNamedAsCoded(i.path())));
        Map<Path, Gathered> read = new HashMap<>();
        Stream.concat(readAll(byCost.get(true), catalogue, stopped).stream(), readAll(byCost.get(false), stopped).stream()).forEach(g -> read.put(g.path(), g));
        return items.stream().map(i -> read.get(i.path())).toList();
    }

    private static Gathered.Content content(Path path) {
        try {
            // A pipe or a device would be waited for, or never end.
            if (Files.exists(path) && !Files.isRegularFile(path)) return new Gathered.Content.Refused("other", "Not a file", "only files and folders are read");
            return switch (FileKind.of(path)) {
                case FileKind.Sound sound -> new Gathered.Content.Sound(withNameChecked(sound.read(path), sound.format()));
                case FileKind.Other other -> {
                    Optional<InstrumentFormat> format = InstrumentFormats.of(path);
                    yield format.isPresent() ? new Gathered.Content.Instruments(format.get().read(path)) : other(path, other);
                }
            };
        } catch (FormatException e) {
            return e.isUnsupported()
                    ? new Gathered.Content.Refused("unsupported", "Sound of a kind that is not read", e.getMessage())
                    : new Gathered.Content.Refused("damaged", "Damaged file", e.getMessage());
        } catch (NoSuchFileException e) {
            return new Gathered.Content.Refused("missing", "Missing file", "it is no longer there; gather the folder again");
        } catch (ReadingBudget.SpentException e) {
            return new Gathered.Content.Refused("damaged", "Damaged file", e.getMessage() + "; make it anew from its source");
        } catch (IOException e) {
            return unreadable(e);
        } catch (RuntimeException | StackOverflowError | OutOfMemoryError | AssertionError e) {
            // A fault of ours, which must not take the other files of a library with it.
            LoggerFactory.getLogger(Gatherer.class).error("cannot read {}", path, e);
            return new Gathered.Content.Refused(FAULT, "Unreadable file",
                    "Able Crate does not understand it, which is a fault of its own; please report it with the file");
        }
    }

    private static Gathered.Content unreadable(IOException e) {
        return new Gathered.Content.Refused("unreadable", "Unreadable file", "the disk says: " + e.getMessage());
    }

    private static Gathered.Content other(Path path, FileKind.Other kind) throws IOException {
        return switch (kind.id()) {
            case "playlist" -> new Gathered.Content.Links(Playlist.read(path));
            case "midi" -> new Gathered.Content.Refused(kind.id(), kind.name(), MidiFile.told(path));
            default -> new Gathered.Content.Refused(kind.id(), kind.name(), kind.reason());
        };
    }

    private static SoundFile withNameChecked(SoundFile file, SoundFormat format) {
        String extension = SoundFormats.extension(file.path());
        if (format.extensions().contains(extension)) return file;
        return file.withProblem(Problem.note("named " + (extension.isEmpty() ? "without extension" : "." + extension) + ", but it is " + format.name(), ""));
    }

    private static final class Collector extends SimpleFileVisitor<Path> {
        private final Path root;
        private final Set<Path> results;
        private final List<Path> files;
        private final Map<Path, String> unreadable;
        private final BooleanSupplier stopped;

        Collector(Path root, Set<Path> results, List<Path> files, Map<Path, String> unreadable, BooleanSupplier stopped) {
            this.root = root;
            this.results = results;
            this.files = files;
            this.unreadable = unreadable;
            this.stopped = stopped;
        }

        @Override public FileVisitResult preVisitDirectory(Path folder, BasicFileAttributes attributes) {
            boolean isOurs = Files.exists(folder.resolve(ORIGINALS_LIST)) || results.contains(folder);
            return !folder.equals(root) && (isHidden(folder) || isOurs) ? FileVisitResult.SKIP_SUBTREE : FileVisitResult.CONTINUE;
        }

        @Override public FileVisitResult visitFile(Path file, BasicFileAttributes attributes) {
            if (attributes.isRegularFile() && !isHidden(file) && !file.getFileName().toString().startsWith(SLIP_PREFIX)) files.add(file);
            return stopped.getAsBoolean() ? FileVisitResult.TERMINATE : FileVisitResult.CONTINUE;
        }

        /// A folder that may not be entered costs itself only, and is told; a circle of links has been seen already.
        @Override public FileVisitResult visitFileFailed(Path file, IOException e) {
            if (e instanceof FileSystemLoopException || isHidden(file)) return FileVisitResult.CONTINUE;
            files.add(file);
            unreadable.put(file, DiskFault.text(e));
            return FileVisitResult.CONTINUE;
        }

        private static boolean isHidden(Path path) { return path.getFileName().toString().startsWith("."); }
    }
}
