package ablecrate.library;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.Fixtures;
import ablecrate.Sounds;
import ablecrate.codec.SoundFile;
import ablecrate.signal.Measurements;
import ablecrate.signal.Measurement;
import ablecrate.signal.SoundPath;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.Map;
import java.util.HashMap;
import java.util.OptionalDouble;
import org.junit.jupiter.api.RepeatedTest;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class CatalogueTest {
    @TempDir Path folder;

    /// What comes out of the catalogue is what reading gives, and opens the same audio, for every kind of file.
    @ParameterizedTest @ValueSource(strings = {"metadata/wav_smpl_inst_cue_adtl.wav", "metadata/aiff_inst_mark.aif", "metadata/wav_bext.wav",
        "lossless/x44_flac24.flac", "lossless/x44_alac16.m4a", "lossless/x44_caf_alac16.caf", "lossless/x44_w64_pcm24.w64", "metadata/sds_loop.sds",
        "lossy/s44_vorbis_q6.ogg", "lossy/s48_opus.opus", "lossy/s44_mp3_vbr.mp3", "lossy/s44_aac_lc_noeditlist.m4a",
        "malformed/mp3_garbage_inserted.mp3"}) void whatIsKeptIsWhatWasRead(String name) throws Exception {
        SoundFile file = Gatherer.read(gathered(Fixtures.path(name))).sound().orElseThrow();
        SoundFile kept = ContentJson.read(ContentJson.write(file)).orElseThrow();
        assertThat(kept).isEqualTo(file);
        assertThat(Arrays.deepEquals(Sounds.readAll(kept.open()), Sounds.readAll(file.open()))).isTrue();
    }

    private static Gathered gathered(Path path) { return new Gathered(path, path.getFileName(), new Gathered.Content.Unread()); }

    private static Path copy(Path into, String name) throws Exception { return Files.copy(Fixtures.path("metadata/" + name), into.resolve(name)); }

    @Test void onlyWhatChangedIsReadAgain() throws Exception {
        Path same = copy(folder, "wav_cue.wav"), changed = copy(folder, "wav_bext.wav");
        Path file = folder.resolve("cache/catalogue.sqlite");
        List<Gathered> items = List.of(gathered(same), gathered(changed));
        try (Catalogue first = new Catalogue(file)) {
            Gatherer.readAll(items, first);
            assertThat(first.files()).isEqualTo(2);
        }
        // The bytes differ, but size and time say that it is the same file: it is not read.
        FileTime time = Files.getLastModifiedTime(same);
        Files.write(same, new byte[(int) Files.size(same)]);
        Files.setLastModifiedTime(same, time);
        Files.copy(Fixtures.path("metadata/wav_instrument.wav"), changed, java.nio.file.StandardCopyOption.REPLACE_EXISTING);
        try (Catalogue second = new Catalogue(file)) {
            List<Gathered> again = Gatherer.readAll(items, second);
            assertThat(again.get(0).sound().orElseThrow().metadata().cues()).hasSize(3);
            assertThat(again.get(1).sound().orElseThrow().metadata().loops()).hasSize(2);
            second.forget(List.of(same));
            assertThat(Gatherer.readAll(items, second).get(0).content()).isInstanceOf(Gathered.Content.Refused.class);
        }
    }

    @Test void measurementsAreKept() throws Exception {
        SoundFile sound = Gatherer.read(gathered(copy(folder, "wav_instrument.wav"))).sound().orElseThrow();
        Path file = folder.resolve("catalogue.sqlite");
        for (Measurement.Request request : List.of(new Measurement.OfFile(sound, OptionalDouble.empty()), new Measurement.OfFile(sound, OptionalDouble.of(-60)),
                new Measurement.OfPitch(sound), new Measurement.OfFaults(sound))) {
            Measurement measured;
            try (Catalogue first = new Catalogue(file)) {
                Measurements book = new Measurements(new SoundPath(), first);
                book.measure(request, () -> false);
                measured = book.find(request).orElseThrow();
            }
            try (Catalogue second = new Catalogue(file)) {
                Measurements book = new Measurements(new SoundPath(), second);
                // Stopped at once: only what is kept can be known.
                book.measure(request, () -> true);
                assertThat(book.find(request)).contains(measured);
            }
        }
    }

    @Test void aSpoiltOrForeignCatalogueIsStartedAnew() throws Exception {
        Path file = folder.resolve("catalogue.sqlite"), sound = copy(folder, "wav_cue.wav");
        Files.write(file, "this is no database, but it is long enough to be looked at as one".repeat(100).getBytes());
        try (Catalogue catalogue = new Catalogue(file)) {
            assertThat(Gatherer.readAll(List.of(gathered(sound)), catalogue).getFirst().sound()).isPresent();
            assertThat(catalogue.files()).isEqualTo(1);
            catalogue.clear();
            assertThat(catalogue.files()).isZero();
        }
        // A folder stands where the file should be: nothing is kept, everything works.
        try (Catalogue impossible = new Catalogue(Files.createDirectories(folder.resolve("taken/x")).getParent())) {
            assertThat(Gatherer.readAll(List.of(gathered(sound)), impossible).getFirst().sound()).isPresent();
        }
    }

    /// Pages that are damaged where nobody looks at first: at the worst all is found out again, and nothing wrong is answered.
    @ParameterizedTest @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8}) void damagedPagesCostWhatTheyHeldAndNoMore(long seed) throws Exception {
        Path file = folder.resolve("catalogue.sqlite");
        Map<Catalogue.Identity, String> kept = new HashMap<>();
        for (int i = 0; i < 500; i++)
            kept.put(new Catalogue.Identity("/sounds/reed " + i, i, 7), "{\"reed\": " + i + "}".repeat(1 + i % 40));
        try (Catalogue first = new Catalogue(file)) {
            first.keep("content", kept);
        }
        byte[] bytes = Files.readAllBytes(file);
        Random random = new Random(seed);
        for (int at = 4096; at < bytes.length; at += 4096)
            if (random.nextInt(3) == 0)
                for (int n = 0; n < 300; n++)
                    bytes[at + random.nextInt(Math.min(4096, bytes.length - at))] = (byte) random.nextInt();
        Files.write(file, bytes);
        try (Catalogue damaged = new Catalogue(file)) {
            Map<Catalogue.Identity, String> found = damaged.findAll(kept.keySet(), "content");
            assertThat(kept).containsAllEntriesOf(found);
            damaged.keep("content", kept);
            assertThat(damaged.findAll(kept.keySet(), "content")).as("it is of use again").hasSizeGreaterThan(found.size() - 1);
        }
        try (Catalogue next = new Catalogue(file)) {
            assertThat(kept).containsAllEntriesOf(next.findAll(kept.keySet(), "content"));
        }
    }

    @Test void aCatalogueThatAnotherHasLockedIsLeftAlone() throws Exception {
        Path file = folder.resolve("catalogue.sqlite");
        Catalogue.Identity id = new Catalogue.Identity("/sounds/a", 1, 2);
        try (Catalogue one = new Catalogue(file)) {
            one.keep("content", java.util.Map.of(id, "{}"));
        }
        try (Catalogue other = new Catalogue(file)) {
            try (var holder = java.sql.DriverManager.getConnection("jdbc:sqlite:" + file); var statement = holder.createStatement()) {
                statement.execute("BEGIN EXCLUSIVE");
                other.keep("content", java.util.Map.of(new Catalogue.Identity("/sounds/b", 1, 2), "{}"));
                statement.execute("ROLLBACK");
            }
            assertThat(other.find(id, "content")).as("usable again, and nothing is lost").contains("{}");
        }
    }

    /// Repeated, as both may find the catalogue empty at the same moment.
    @RepeatedTest(20) void twoProgramsMayWriteAtOnce() throws Exception {
        Path file = folder.resolve("catalogue.sqlite");
        try (Catalogue one = new Catalogue(file); Catalogue other = new Catalogue(file)) {
            List<Thread> threads = java.util.stream.IntStream.range(0, 4).mapToObj(t -> Thread.ofPlatform().start(() -> {
                for (int i = 0; i < 50; i++)
                    (t % 2 == 0 ? one : other).keep("content", java.util.Map.of(new Catalogue.Identity("/sounds/" + t + "/" + i, 1, 2), "{}"));
            })).toList();
            for (Thread thread : threads)
                thread.join();
            assertThat(one.files()).isEqualTo(200);
            assertThat(other.find(new Catalogue.Identity("/sounds/3/49", 1, 2), "content")).contains("{}");
            assertThat(other.find(new Catalogue.Identity("/sounds/3/49", 1, 3), "content")).as("changed since").isEmpty();
        }
    }

    /// A file that was moved and renamed, and its copy, need not be listened to again where contents count; one byte else and they need.
    @Test void aFileIsKnownByItsContentWhereItIsAskedFor() throws Exception {
        Path before = copy(folder, "wav_instrument.wav"), cache = folder.resolve("catalogue.sqlite");
        Measurement measured;
        try (Catalogue catalogue = new Catalogue(cache)) {
            catalogue.knowContents(true);
            Measurement.Request request = new Measurement.OfFaults(Gatherer.read(gathered(before)).sound().orElseThrow());
            Measurements book = new Measurements(new SoundPath(), catalogue);
            book.measure(request, () -> false);
            measured = book.find(request).orElseThrow();
        }
        Path moved = Files.move(before, Files.createDirectories(folder.resolve("elsewhere")).resolve("renamed.wav")),
                other = Files.copy(moved, folder.resolve("other.wav"));
        byte[] bytes = Files.readAllBytes(other);
        bytes[bytes.length - 1] ^= 1;
        Files.write(other, bytes);
        for (boolean asked : new boolean[]{false, true})
            try (Catalogue catalogue = new Catalogue(cache)) {
                catalogue.knowContents(asked);
                assertThat(known(catalogue, moved)).isEqualTo(asked ? java.util.Optional.of(measured) : java.util.Optional.empty());
                assertThat(known(catalogue, other)).isEmpty();
            }
        try (Catalogue catalogue = new Catalogue(cache)) {
            assertThat(known(catalogue, moved)).as("by its path from now on").contains(measured);
        }
    }

    /// What is known without listening.
    private static java.util.Optional<Measurement> known(Catalogue catalogue, Path file) throws Exception {
        Measurement.Request request = new Measurement.OfFaults(Gatherer.read(gathered(file)).sound().orElseThrow());
        Measurements book = new Measurements(new SoundPath(), catalogue);
        book.measure(request, () -> true);
        return book.find(request);
    }
}
