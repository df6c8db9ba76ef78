package ablecrate.desktop;

import ablecrate.demo.CrateForTests;
import ablecrate.library.Catalogue;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.stream.Stream;

/// The demo crate, made once for all tests, which read it and no more; and a catalogue of it, so that each sound is listened to once.
public final class SharedCrate {
    public static final Path FOLDER;
    static final Catalogue CATALOGUE;

    static {
        try {
            Path shared = Files.createTempDirectory("ablecrate-tests");
            FOLDER = CrateForTests.in(shared);
            CATALOGUE = new Catalogue(shared.resolve("catalogue.sqlite"));
            Runtime.getRuntime().addShutdownHook(new Thread(() -> delete(shared)));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private SharedCrate() {}

    private static void delete(Path shared) {
        CATALOGUE.close();
        try (Stream<Path> files = Files.walk(shared)) {
            files.sorted(Comparator.reverseOrder()).forEach(f -> f.toFile().delete());
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
