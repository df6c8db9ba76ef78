package ablecrate.relink;

import static ablecrate.Sounds.sine;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.codec.SoundFile;
import ablecrate.destination.SheetCatalogue;
import ablecrate.disk.Checksums;
import ablecrate.library.Catalogue;
import ablecrate.pack.Originals;
import ablecrate.pack.Packer;
import ablecrate.pack.StopSignal;
import ablecrate.session.SessionDocument;
import ablecrate.session.SessionDocument.Clip;
import ablecrate.session.SessionDocument.SoundRef;
import ablecrate.session.Sessions;
import ablecrate.signal.Measurements;
import ablecrate.signal.SoundPath;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// Sessions with files that are not as they should be, and what is made of them.
class SessionRepairTest {
    private static final int RATE = 48_000, OTHER = 44_100, HZ = 1000;
    @TempDir Path temp;
    private Path session;

    @BeforeEach void make() throws IOException { session = Files.createDirectories(temp.resolve("session/audio")).getParent(); }

    private void tone(String path, int rateHz, Depth depth) throws IOException { tone(session.resolve(path), rateHz, depth, 2 * rateHz); }

    private static void tone(Path file, int rateHz, Depth depth, int frames) throws IOException {
        Files.createDirectories(file.getParent());
        Sounds.write(file, file.toString().endsWith("flac") ? "flac" : "wav", rateHz, depth, ablecrate.instrument.SoundMetadata.NONE,
                sine(HZ, 0.5, rateHz, frames));
    }

    private static Clip clip(String file, long start, long offset) { return new Clip(file, start, 0, offset, 24_000, 0, 0, 0, 0, false); }

    private void document(List<SoundRef> more, Clip... clips) throws IOException {
        List<SoundRef> files = Arrays.stream(clips).map(Clip::file).distinct().filter(f -> more.stream().noneMatch(m -> m.path().equals(f)))
                .map(f -> new SoundRef(f, Optional.empty(), Optional.empty())).toList();
        Sessions.write(SessionDocument.of(RATE, Depth.INT_24, 120, 4, 4).with(files, List.of()).with(more,
                Arrays.stream(clips).map(c -> new SessionDocument.Track(c.file(), 0, 0, false, List.of(c))).toList()), session);
    }

    private SessionRepair repaired(Path... searched) throws Exception {
        SoundPath path = new SoundPath();
        SessionRepair repair = SessionRepair.of(SessionCheck.of(session), List.of(searched), new SheetCatalogue().find("session"),
                new Measurements(path, Catalogue.none()), () -> false);
        new Packer(repair.list(), path, 2, new StopSignal(), _ -> {}, InstantSource.system()).packInto(session);
        return repair;
    }

    private List<Clip> clips() throws Exception { return Sessions.open(session).tracks().stream().flatMap(t -> t.clips().stream()).toList(); }

    /// What a clip's file holds from its offset on, against the tone at the time that it had in the source.
    private void assertSounds(Clip clip, double sourceSeconds) throws Exception {
        SoundFile file = SessionCheck.gathered(List.of(session.resolve(clip.file()))).values().iterator().next().sound().orElseThrow();
        assertThat(file.rateHz()).isEqualTo(RATE);
        assertThat(file.encoding().depth()).isEqualTo(Depth.INT_24);
        double[] x = Sounds.readAll(file.open())[0];
        for (int i = 1000; i < 2000; i++)
            assertThat(x[(int) clip.offsetFrames() + i]).isCloseTo(0.5 * Math.sin(2 * Math.PI * HZ * (sourceSeconds + (double) i / RATE)), within(5e-5));
    }

    /// Offsets that are no whole number of frames at the session's rate, two of them in one file.
    @Test void clipsSoundAtTheInstantWhereTheyWere() throws Exception {
        tone("audio/a.wav", OTHER, Depth.INT_24);
        tone("audio/b.flac", OTHER, Depth.INT_24);
        tone("audio/c.wav", RATE, Depth.INT_24);
        document(List.of(), clip("audio/a.wav", 0, 12_345), clip("audio/a.wav", 50_000, 20_001), clip("audio/b.flac", 7, 10_000),
                clip("audio/c.wav", 9, 30_001));
        byte[] before = Files.readAllBytes(session.resolve("audio/a.wav")), document = Files.readAllBytes(session.resolve("session.json"));
        SessionRepair repair = repaired();
        assertThat(repair.worstShiftFrames()).isZero();
        List<Clip> clips = clips();
        assertSounds(clips.get(0), 12_345.0 / OTHER);
        assertSounds(clips.get(1), 20_001.0 / OTHER);
        assertSounds(clips.get(2), 10_000.0 / OTHER);
        assertThat(clips.get(3)).extracting(Clip::file, Clip::offsetFrames).containsExactly("audio/c.wav", 30_001L);
        assertThat(clips).extracting(Clip::startFrame).containsExactly(0L, 50_000L, 7L, 9L);
        assertThat(SessionCheck.of(session).isWhole()).isTrue();
        // All comes back, byte for byte.
        assertThat(Originals.restore(session, false).problems()).isEmpty();
        assertThat(Files.readAllBytes(session.resolve("audio/a.wav"))).isEqualTo(before);
        assertThat(Files.readAllBytes(session.resolve("session.json"))).isEqualTo(document);
        try (var left = Files.list(session.resolve("audio"))) {
            assertThat(left.map(p -> p.getFileName().toString())).containsExactlyInAnyOrder("a.wav", "b.flac", "c.wav");
        }
    }

    /// A file that is cut small is converted once; each clip is within half a sample of where it was.
    @Test void aFileOfManyClipsIsConvertedOnce() throws Exception {
        tone("audio/a.wav", OTHER, Depth.INT_24);
        Clip[] many = new Clip[20];
        for (int i = 0; i < many.length; i++)
            many[i] = clip("audio/a.wav", i * 24_000L, 1000 + 37L * i);
        document(List.of(), many);
        SessionRepair repair = repaired();
        assertThat(repair.worstShiftFrames()).isBetween(0.1, 0.5);
        assertThat(clips()).extracting(Clip::file).containsOnly("audio/a-2.wav");
        for (int i = 0; i < many.length; i++)
            assertThat((double) clips().get(i).offsetFrames()).isCloseTo((1000 + 37.0 * i) * RATE / OTHER, within(0.5));
    }

    @Test void eachTroubleIsTold() throws Exception {
        tone("audio/rate.wav", OTHER, Depth.INT_24);
        tone("audio/depth.wav", RATE, Depth.INT_16);
        tone("audio/one.wav", RATE, Depth.INT_24);
        Files.copy(session.resolve("audio/one.wav"), session.resolve("audio/two.wav"));
        Files.writeString(session.resolve("audio/text.wav"), "no sound");
        tone(session.resolve("audio/short.wav"), RATE, Depth.INT_24, 95_000);
        tone("audio/unknown.wav", RATE, Depth.FLOAT_32);
        Path linked = temp.resolve("downloads/linked.wav");
        tone(linked, RATE, Depth.INT_24, RATE);
        document(List.of(new SoundRef("audio/two.wav", Optional.empty(), Optional.empty())), clip("audio/rate.wav", 0, 0), clip("audio/depth.wav", 0, 0),
                clip("audio/one.wav", 0, 0), clip("audio/text.wav", 0, 0), clip("audio/short.wav", 0, 90_000), clip(linked.toString(), 0, 0),
                clip("audio/gone.wav", 0, 0), clip("../../nowhere\0.wav", 0, 0));
        SessionCheck check = SessionCheck.of(session);
        assertThat(troubles(check, "audio/rate.wav")).isEqualTo("44,100 Hz; the session has 48,000");
        assertThat(troubles(check, "audio/depth.wav")).isEqualTo("16 bit; the session has 24 bit");
        assertThat(troubles(check, "audio/one.wav")).isEqualTo("the same as audio/two.wav");
        assertThat(troubles(check, "audio/two.wav")).isEqualTo("the same as audio/one.wav; not on a track");
        assertThat(troubles(check, "audio/text.wav")).startsWith("offline: ");
        assertThat(troubles(check, "audio/short.wav")).isEqualTo("shorter than its clips: 95,000 frames of 114,000");
        assertThat(troubles(check, linked.toString())).startsWith("linked: it lies in " + linked.getParent());
        assertThat(troubles(check, "audio/gone.wav")).isEqualTo("offline: nothing is at audio/gone.wav");
        assertThat(troubles(check, "../../nowhere\0.wav")).startsWith("offline: ");
        assertThat(troubles(check, "audio/unknown.wav")).isEqualTo("not in the document");
        assertThat(check.files().stream().filter(SessionCheck.Entry::isToMend)).hasSize(7);
    }

    private static String troubles(SessionCheck check, String path) {
        return check.files().stream().filter(f -> f.path().equals(path)).findFirst().orElseThrow().text();
    }

    @Test void offlineFilesAreFoundByContentAndByNameAndLength() throws Exception {
        Path library = temp.resolve("library");
        tone(library.resolve("deep/renamed.wav"), RATE, Depth.INT_24, 30_000);
        tone(library.resolve("named.wav"), OTHER, Depth.INT_16, 60_000);
        tone(library.resolve("another.wav"), RATE, Depth.INT_24, 50_000);
        document(List.of(new SoundRef("audio/content.wav", Optional.of(30_000L), Optional.of(Checksums.xxh128Hex(library.resolve("deep/renamed.wav")))),
                new SoundRef("C:\\old\\named.wav", Optional.of(60_000L), Optional.empty()),
                new SoundRef("audio/another.wav", Optional.of(49_999L), Optional.empty())), clip("audio/content.wav", 0, 0), clip("C:\\old\\named.wav", 0, 147),
                clip("audio/another.wav", 0, 0));
        SessionRepair repair = repaired(library);
        assertThat(repair.found().get("audio/content.wav")).startsWith("found by its content").endsWith("renamed.wav");
        assertThat(repair.found().get("C:\\old\\named.wav")).startsWith("found by name and length");
        assertThat(repair.found().get("audio/another.wav")).contains("has 50,000 frames, not 49,999, so it is another");
        assertThat(repair.left()).extracting(SessionCheck.Entry::path).containsExactly("audio/another.wav");
        assertThat(SessionCheck.of(session).toMend()).extracting(SessionCheck.Entry::path).containsExactly("audio/another.wav");
        assertSounds(clips().get(1), 147.0 / OTHER);
        // Two of one name that differ are no answer.
        tone(library.resolve("deep/named.wav"), RATE, Depth.INT_24, 60_000);
        document(List.of(new SoundRef("audio/named.wav", Optional.of(60_000L), Optional.empty())), clip("audio/named.wav", 0, 0));
        Files.deleteIfExists(session.resolve("audio/named.wav"));
        assertThat(repaired(library).found().get("audio/named.wav")).startsWith("several of that name differ");
    }
}
