package ablecrate.codec;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.Fixtures;
import ablecrate.Sounds;
import ablecrate.instrument.TextField;
import ablecrate.library.Gathered;
import ablecrate.library.Gatherer;
import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/// What stands around compressed audio: tags of several versions, streams without a container, comments that tell the delay.
class TagsAndStreamsTest {
    @TempDir Path folder;

    private static SoundFile read(Path path) {
        return Gatherer.read(new Gathered(path, path.getFileName(), new Gathered.Content.Unread())).sound().orElseThrow();
    }

    private static Gathered.Content.Refused refused(Path path) {
        return (Gathered.Content.Refused) Gatherer.read(new Gathered(path, path.getFileName(), new Gathered.Content.Unread())).content();
    }

    private static byte[] join(byte[]... parts) {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        for (byte[] part : parts)
            out.writeBytes(part);
        return out.toByteArray();
    }

    private static byte[] latin(String text) { return text.getBytes(StandardCharsets.ISO_8859_1); }

    private static byte[] big(int value, int bytes) {
        byte[] out = new byte[bytes];
        for (int i = 0; i < bytes; i++)
            out[i] = (byte) (value >> 8 * (bytes - 1 - i));
        return out;
    }

    /// ID3 2.2 has frames of 6 bytes of header, 2.3 of 10; the sizes of 2.3 are plain, that of the tag has seven bits a byte.
    private static byte[] id3(int version, byte[]... frames) {
        byte[] body = join(frames);
        return join(latin("ID3"),
                new byte[]{(byte) version, 0, 0, (byte) (body.length >> 21 & 127), (byte) (body.length >> 14 & 127), (byte) (body.length >> 7 & 127),
                    (byte) (body.length & 127)},
                body);
    }

    private static byte[] frame(String id, byte[] contents) {
        return id.length() == 3 ? join(latin(id), big(contents.length, 3), contents) : join(latin(id), big(contents.length, 4), new byte[2], contents);
    }

    @Test void tagsOfEveryVersionAreReadAndNoneIsAudio() throws Exception {
        byte[] audio = Files.readAllBytes(Fixtures.path("lossy/s44_mp3_vbr.mp3"));
        byte[] utf16 = join(new byte[]{1, (byte) 0xFF, (byte) 0xFE}, "Käuzchen".getBytes(StandardCharsets.UTF_16LE));
        byte[] v23 = id3(3, frame("TIT2", utf16), frame("TBPM", latin("\0" + "96")), frame("COMM", latin("\0eng\0" + "at night")),
                frame("APIC", new byte[3000]));
        byte[] v22 = id3(2, frame("TT2", latin("\0Owl")), frame("TP1", latin("\0Orchard")));
        byte[] v1 = Arrays.copyOf(latin("TAG" + "Old owl"), 128);
        SoundFile plain = read(Fixtures.path("lossy/s44_mp3_vbr.mp3"));
        SoundFile both = read(Files.write(folder.resolve("v23.mp3"), join(v23, audio, v1))),
                old = read(Files.write(folder.resolve("v22.mp3"), join(v22, audio)));
        assertThat(both.metadata().texts()).isEqualTo(Map.of(TextField.NAME, "Käuzchen", TextField.TEMPO, "96", TextField.COMMENT, "at night"));
        assertThat(old.metadata().texts()).isEqualTo(Map.of(TextField.NAME, "Owl", TextField.ARTIST, "Orchard"));
        for (SoundFile tagged : new SoundFile[]{both, old}) {
            assertThat(tagged.problems()).isEmpty();
            assertThat(Arrays.deepEquals(Sounds.readAll(tagged.open()), Sounds.readAll(plain.open()))).isTrue();
        }
        assertThat(read(Files.write(folder.resolve("v1.mp3"), join(audio, v1))).metadata().texts()).isEqualTo(Map.of(TextField.NAME, "Old owl"));
    }

    /// Without its info frame an MP3 does not say its delay, unless a comment does: 576 frames before and 1206 after, of 39,690.
    @Test void aCommentTellsTheDelayWhereNothingElseDoes() throws Exception {
        byte[] audio = Files.readAllBytes(Fixtures.path("lossy/s44_mp3_cbr192_js.mp3"));
        int info = 626;
        assertThat(audio[info] & 0xFF).as("the second frame").isEqualTo(0xFF);
        byte[] rest = Arrays.copyOfRange(audio, info, audio.length);
        SoundFile silent = read(Files.write(folder.resolve("silent.mp3"), rest));
        assertThat(silent.compression().orElseThrow().start()).isEqualTo(new Compression.Start.Unknown(1105));
        byte[] comment = frame("COMM", latin("\0eng" + Gapless.NAME + "\0 00000000 00000240 000004B6 0000000000009B0A 00000000"));
        SoundFile told = read(Files.write(folder.resolve("told.mp3"), join(id3(3, comment), rest)));
        assertThat(told.compression().orElseThrow().start()).isEqualTo(new Compression.Start.Told(1105, "gapless comment"));
        assertThat(told.frames()).isEqualTo(39_690);
        assertThat(told.metadata().texts()).as("it is no comment for people").isEmpty();
    }

    /// The packets of an M4A, each with an ADTS header, decode to the same frames, delay and all.
    @Test void adtsIsReadPacketByPacket() throws Exception {
        SoundFile m4a = read(Fixtures.path("lossy/s44_aac_lc_noeditlist.m4a"));
        byte[] all = Files.readAllBytes(m4a.path());
        PacketTable packets = ((ablecrate.codec.aac.AacAudio) ((AudioPlace.Coded) m4a.audio()).stream()).packets();
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        for (int i = 0; i < packets.packets(); i++) {
            int length = packets.bytes(i) + 7;
            // Profile LC, rate 4 (44,100 Hz), two channels.
            out.writeBytes(new byte[]{(byte) 0xFF, (byte) 0xF1, 1 << 6 | 4 << 2, (byte) (2 << 6 | length >> 11), (byte) (length >> 3),
                (byte) (length << 5 | 0x1F), (byte) 0xFC});
            out.write(all, (int) packets.at(i), packets.bytes(i));
        }
        SoundFile adts = read(Files.write(folder.resolve("x.aac"), out.toByteArray()));
        assertThat(adts.container()).isEqualTo("ADTS");
        assertThat(adts.compression().orElseThrow().start()).isEqualTo(new Compression.Start.Unknown(1024));
        double[][] theirs = Sounds.readAll(m4a.open()), ours = Sounds.readAll(adts.open());
        assertThat(Arrays.equals(Arrays.copyOf(ours[0], theirs[0].length), theirs[0])).isTrue();
    }

    @Test void freeFormatAndEmptyStreamsAreRefusedClearly() throws Exception {
        byte[] free = new byte[4000];
        for (int at = 0; at + 4 < free.length; at += 500)
            System.arraycopy(new byte[]{(byte) 0xFF, (byte) 0xFB, 0x00, 0x00}, 0, free, at, 4);
        assertThat(refused(Files.write(folder.resolve("free.mp3"), free)).reason()).contains("free format", "byte 0", "bring it as WAV");
        assertThat(refused(Files.write(folder.resolve("tag alone.mp3"), id3(3, frame("TIT2", latin("\0Nothing"))))).reason()).contains("no two frames");
        assertThat(refused(Files.write(folder.resolve("short.flac"), latin("fLaC\0\0"))).reason()).contains("ends within its header");
    }

    /// A page that is lost in the middle leaves silence of its length: all that follows lies where it was.
    @ParameterizedTest @ValueSource(strings = {"lossy/s48_opus.opus", "lossy/s44_mp3_cbr192_js.mp3",
        "lossless/s44_flac16.flac"}) void aHoleIsSilentAndWhatFollowsStays(String name)
                throws Exception {
        byte[] bytes = Files.readAllBytes(Fixtures.path(name));
        int from = bytes.length * 3 / 10, to = from + bytes.length / 20;
        byte[] holed = bytes.clone();
        Arrays.fill(holed, from, to, (byte) 0);
        SoundFile whole = read(Fixtures.path(name)), damaged = read(Files.write(folder.resolve("holed" + name.substring(name.lastIndexOf('.'))), holed));
        assertThat(damaged.frames()).isEqualTo(whole.frames());
        assertThat(damaged.problems()).isNotEmpty().allSatisfy(p -> {
            assertThat(p.effect()).isEqualTo(Problem.Effect.LOST);
            assertThat(p.text()).containsPattern("from \\d+\\.\\d{3} s to \\d+\\.\\d{3} s");
        });
        double[] before = Sounds.readAll(whole.open())[1], after = Sounds.readAll(damaged.open())[1];
        for (int i = after.length * 9 / 10; i < after.length; i++)
            assertThat(after[i]).as("frame " + i).isCloseTo(before[i], org.assertj.core.api.Assertions.within(2e-3));
    }
}
