package ablecrate.demo;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Comparator;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.stream.Stream;

/// The demo crate, made once for all tests of one build: making it takes longer than most of them.
public final class CrateForTests {
    private static final Path SHARED = Path.of(System.getProperty("crate.for.tests")).toAbsolutePath().normalize();

    private CrateForTests() {}

    /// Made by a thread of its own: those that run tests side by side would take up another test while they wait for each other's parts of it.
    private static final class Made {
        static final CompletableFuture<Path> CRATE = CompletableFuture.supplyAsync(() -> made(SHARED), task -> Thread.ofPlatform().start(task));
    }

    /// For all that read it and change nothing: what is known of its sounds once is known to all tests of a build.
    public static Path shared() { return Made.CRATE.join(); }

    /// Copies the crate, so that tests may change it.
    /// @return its folder, below the one that is given
    public static Path in(Path folder) throws IOException {
        Path made = shared(), copy = folder.resolve(made.getFileName());
        for (Path file : all(made)) {
            Path to = copy.resolve(made.relativize(file));
            if (Files.isDirectory(file))
                Files.createDirectories(to);
            else
                Files.copy(file, to);
        }
        return copy;
    }

    /// One process makes it, the others wait.
    private static Path made(Path folder) {
        Path builds = folder.getParent();
        try (FileChannel lock = FileChannel.open(Files.createDirectories(builds).resolveSibling("crate.lock"), StandardOpenOption.CREATE,
                StandardOpenOption.WRITE)) {
            lock.lock();
            // What earlier builds made may be another one.
            for (Path file : all(builds).reversed())
                if (!file.equals(builds) && !file.startsWith(folder)) Files.delete(file);
            return DemoCrate.make(folder);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /// A folder comes before what is in it.
    private static List<Path> all(Path folder) throws IOException {
        try (Stream<Path> files = Files.walk(folder)) {
            return files.sorted(Comparator.naturalOrder()).toList();
        }
    }
}
