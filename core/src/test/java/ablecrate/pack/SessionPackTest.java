package ablecrate.pack;

import static ablecrate.Sounds.sine;
import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.destination.SheetCatalogue;
import ablecrate.instrument.Broadcast;
import ablecrate.instrument.SoundMetadata;
import ablecrate.library.Gatherer;
import ablecrate.option.Choice;
import ablecrate.option.ExistingFiles;
import ablecrate.option.OptionValues;
import ablecrate.option.PackOptions;
import ablecrate.option.TrackStart;
import ablecrate.planner.Planner;
import ablecrate.session.SessionDocument;
import ablecrate.session.SessionDocument.Clip;
import ablecrate.session.Sessions;
import ablecrate.signal.SoundPath;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.InstantSource;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// What packing into a recording session leaves there.
class SessionPackTest {
    @TempDir Path temp;
    private Path stems, session;
    private Instant now = Instant.parse("2026-01-01T00:00:00Z");

    @BeforeEach void make() throws IOException {
        stems = Files.createDirectory(temp.resolve("stems"));
        session = temp.resolve("session");
    }

    private PackingSlip pack(Path from, PackOptions options) throws Exception {
        var sheet = new SheetCatalogue().find("session");
        now = now.plusSeconds(1);
        var list = Planner.plan(Gatherer.readAll(Gatherer.find(List.of(from), () -> false)), sheet, options, Map.of(), _ -> Optional.empty(),
                Cards.of(session, sheet));
        return new Packer(list, new SoundPath(), 2, new StopSignal(), _ -> {}, InstantSource.fixed(now)).packInto(session);
    }

    private static PackOptions at(TrackStart start) { return PackOptions.DEFAULT.withSession(PackOptions.DEFAULT.session().withTracks(start)); }

    private SessionDocument document() throws Exception { return Sessions.open(session); }

    private Clip clip(int track) throws Exception { return document().tracks().get(track).clips().getFirst(); }

    private static Map<String, String> contents(Path folder) throws IOException {
        Map<String, String> all = new TreeMap<>();
        try (var files = Files.walk(folder)) {
            for (Path f : files.filter(Files::isRegularFile).toList())
                all.put(folder.relativize(f).toString(), java.util.HexFormat.of().formatHex(Files.readAllBytes(f)));
        }
        return all;
    }

    @Test void everySoundGetsTheSessionsRateAndATrack() throws Exception {
        Sounds.wav(stems.resolve("drums.wav"), 44_100, Depth.INT_16, sine(100, 0.5, 44_100, 44_100));
        Sounds.wav(stems.resolve("pad L.wav"), 48_000, Depth.INT_24, sine(200, 0.5, 48_000, 480));
        Sounds.wav(stems.resolve("pad R.wav"), 48_000, Depth.INT_24, sine(201, 0.5, 48_000, 480));
        pack(stems, at(TrackStart.at(3)).withRate(Choice.of(96_000)).withDepth(Choice.of(Depth.FLOAT_32)));
        SessionDocument document = document();
        assertThat(document.rateHz()).isEqualTo(96_000);
        assertThat(document.depth()).isEqualTo("32f");
        assertThat(document.tracks()).extracting(SessionDocument.Track::name).containsExactly("drums", "pad");
        // Bar 3 at 120 bpm begins at 4 s.
        assertThat(clip(0)).isEqualTo(new Clip("audio/drums.wav", 384_000, 3, 0, 96_000, 0, 0, 0, 0, false));
        assertThat(document.tracks().get(1).clips()).extracting(Clip::file).containsExactly("audio/pad L.wav", "audio/pad R.wav");
        assertThat(document.tracks().get(1).clips()).extracting(Clip::panPercent).containsExactly(-100.0, 100.0);
        assertThat(timeReference(session.resolve("audio/drums.wav"))).as("and says so itself").isEqualTo(384_000);
        // The rate of a session that is there is not asked for again.
        assertThat(pack(stems, PackOptions.DEFAULT).outcomes()).isEqualTo(Map.of("skipped", 3));
    }

    /// As EBU Tech 3285 lays it out, without our reader: 64 bits, 338 bytes into the chunk `bext`.
    private static long timeReference(Path file) throws IOException {
        ByteBuffer all = ByteBuffer.wrap(Files.readAllBytes(file)).order(ByteOrder.LITTLE_ENDIAN);
        for (int at = 12; at < all.limit() - 8; at += 8 + all.getInt(at + 4) + (all.getInt(at + 4) & 1))
            if (all.getInt(at) == 0x74786562) return all.getLong(at + 8 + 338);
        return -1;
    }

    /// At bar 1 there is nothing to say, and a file that fits stays as it is; a stamp that says something else is set right.
    @Test void whatLiesAtBarOneStaysAsItIs() throws Exception {
        Path plain = Sounds.wav(stems.resolve("drums.wav"), 48_000, Depth.INT_24, sine(100, 0.5, 48_000, 4_800));
        Sounds.write(stems.resolve("reed.wav"), "wav", 48_000, Depth.INT_24, SoundMetadata.NONE.withBroadcast(Optional.of(Broadcast.starting(777))),
                sine(100, 0.5, 48_000, 4_800));
        pack(stems, at(TrackStart.at(1)));
        assertThat(session.resolve("audio/drums.wav")).hasSameBinaryContentAs(plain);
        assertThat(timeReference(session.resolve("audio/reed.wav"))).isZero();
        assertThat(pack(stems, at(TrackStart.at(1))).outcomes()).isEqualTo(Map.of("skipped", 2));
    }

    @Test void aSecondPackAddsWhatIsNewAndNumbersWhatHasTheName() throws Exception {
        Sounds.wav(stems.resolve("bell.wav"), 48_000, Depth.INT_24, sine(500, 0.5, 48_000, 4800));
        pack(stems, at(TrackStart.ROW));
        Path others = Files.createDirectory(temp.resolve("others"));
        Sounds.wav(others.resolve("bell.wav"), 48_000, Depth.INT_24, sine(600, 0.5, 48_000, 2400));
        pack(others, at(TrackStart.ROW));
        pack(others, at(TrackStart.ROW));
        assertThat(document().files()).extracting(SessionDocument.SoundRef::path).containsExactly("audio/bell.wav", "audio/bell-2.wav");
        assertThat(document().tracks()).hasSize(2);
        assertThat(clip(1).startFrame()).isEqualTo(4800);
        // Not on a track, and in no track twice.
        Sounds.wav(others.resolve("gong.wav"), 48_000, Depth.INT_24, sine(60, 0.5, 48_000, 2400));
        pack(others, PackOptions.DEFAULT);
        assertThat(document().offTracks()).containsExactly("audio/gong.wav");
    }

    /// Slices of a clip that are there already, too, with the MIDI file that plays them.
    @Test void aSecondPackOfSlicesAddsNothing() throws Exception {
        Sounds.wav(stems.resolve("bell 120bpm.wav"), 48_000, Depth.INT_24, sine(500, 0.5, 48_000, 48_000));
        PackOptions slices = OptionValues.options(Map.of("chop", "4", "rhythm", "played"));
        pack(stems, slices);
        Map<String, String> before = contents(session.resolve("audio"));
        assertThat(before).hasSize(5).containsKey("bell 120bpm.mid");
        assertThat(pack(stems, slices).outcomes()).containsOnlyKeys("skipped");
        assertThat(contents(session.resolve("audio"))).isEqualTo(before);
        assertThat(document().files()).hasSize(4);
    }

    private void stamped(String name, int rateHz, double seconds) throws IOException {
        Broadcast stamp = new Broadcast("", "", "", "", "", Math.round(seconds * rateHz), 1, "", Optional.empty(), "");
        Sounds.write(stems.resolve(name), "wav", rateHz, Depth.INT_16,
                new SoundMetadata(List.of(), SoundMetadata.NONE.mapping(), List.of(), Optional.of(stamp), Map.of()),
                sine(300, 0.3, rateHz, rateHz));
    }

    /// Ten in the morning; 2.5 s later; seven bars of 2 s later. One without a stamp is told, and put at bar 1.
    @Test void timeStampsBecomePlaces() throws Exception {
        stamped("a.wav", 48_000, 36_000);
        stamped("b.wav", 44_100, 36_002.5);
        stamped("c.wav", 48_000, 36_014);
        Sounds.wav(stems.resolve("d.wav"), 48_000, Depth.INT_24, sine(300, 0.3, 48_000, 480));
        PackingSlip slip = pack(stems, at(TrackStart.STAMP));
        assertThat(List.of(clip(0).startFrame(), clip(1).startFrame(), clip(2).startFrame(), clip(3).startFrame())).containsExactly(0L, 120_000L, 672_000L, 0L);
        assertThat(clip(2).bar()).isEqualTo(8);
        assertThat(document().dayFrame()).isEqualTo(36_000 * 48_000L);
        assertThat(slip.items().getLast().changes()).anySatisfy(c -> assertThat(c.reason()).isEqualTo("no time stamp; put at bar 1"));
    }

    @Test void aWholePackIsTakenBack() throws Exception {
        Sounds.wav(stems.resolve("bell.wav"), 48_000, Depth.INT_24, sine(500, 0.5, 48_000, 4800));
        pack(stems, at(TrackStart.at(1)));
        Map<String, String> before = contents(session);
        // One is replaced, one is new.
        Sounds.wav(stems.resolve("bell.wav"), 48_000, Depth.INT_24, sine(700, 0.5, 48_000, 9600));
        Sounds.wav(stems.resolve("gong.wav"), 48_000, Depth.INT_24, sine(50, 0.5, 48_000, 4800));
        pack(stems, at(TrackStart.at(2)).withExisting(ExistingFiles.REPLACE));
        assertThat(document().files()).hasSize(2);
        assertThat(contents(session).get("audio/bell.wav")).isNotEqualTo(before.get("audio/bell.wav"));
        assertThat(Originals.restore(session, false).problems()).isEmpty();
        assertThat(contents(session)).isEqualTo(before);
        assertThat(Originals.restore(session, false).problems()).isEmpty();
        assertThat(contents(session)).isEmpty();
    }

    @Test void whatSomebodyChangedSinceStays() throws Exception {
        Sounds.wav(stems.resolve("bell.wav"), 48_000, Depth.INT_24, sine(500, 0.5, 48_000, 4800));
        pack(stems, at(TrackStart.at(1)));
        Sessions.write(document().with(List.of(), List.of(new SessionDocument.Track("Mine", 0, 0, false, List.of()))), session);
        assertThat(Originals.restore(session, false).problems()).singleElement().asString().contains("session.json was added, and is not as it was left");
        assertThat(document().tracks()).hasSize(2);
    }

    @Test void anotherSoundIsNotTakenForAnOfflineOneOfItsName() throws Exception {
        Sounds.wav(stems.resolve("bell.wav"), 48_000, Depth.INT_24, sine(500, 0.5, 48_000, 4800));
        pack(stems, at(TrackStart.at(1)));
        Files.delete(session.resolve("audio/bell.wav"));
        Path others = Files.createDirectory(temp.resolve("others"));
        Sounds.wav(others.resolve("bell.wav"), 48_000, Depth.INT_24, sine(600, 0.5, 48_000, 2400));
        pack(others, at(TrackStart.at(1)));
        assertThat(session.resolve("audio/bell.wav")).doesNotExist();
        assertThat(clip(1).file()).isEqualTo("audio/bell-2.wav");
    }
}
