package ablecrate.codec.flac;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.Fixtures;
import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.codec.BitWriter;
import ablecrate.codec.Bytes;
import ablecrate.codec.FileKind;
import ablecrate.codec.SoundFile;
import ablecrate.instrument.SoundMetadata;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.util.Arrays;
import java.util.HexFormat;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/// Frames of FLAC, read and written.
class FlacFramesTest {
    private static final int MD5_AT = 26;

    @TempDir Path folder;

    private static SoundFile read(Path file) throws Exception { return ((FileKind.Sound) FileKind.of(file)).read(file); }

    /// The MD5 of whole numbers, as RFC 9639 has it (section 8.2).
    private static String md5(double[][] planes, int bits) throws Exception {
        MessageDigest digest = MessageDigest.getInstance("MD5");
        for (int i = 0; i < planes[0].length; i++)
            for (double[] plane : planes)
                for (int shift = 0; shift < bits; shift += 8)
                    digest.update((byte) (Math.round(Math.scalb(plane[i], bits - 1)) >> shift));
        return HexFormat.of().formatHex(digest.digest());
    }

    private static String stated(Path file) throws Exception {
        return HexFormat.of().formatHex(Files.readAllBytes(file), MD5_AT, MD5_AT + 16);
    }

    /// RFC 9639, appendices D.1 and D.3: bits that are always zero, and a linear predictor. The bytes are from memory; their own checksums hold.
    @ParameterizedTest @ValueSource(strings = {
        "664c6143800000221000100000000f00000f0ac442f0000000013e84b41807dc690307586a3dad1a2e0ffff869180000bf0358fd03128baa9a",
        "664c6143800000221000100000001f00001f07d00070000000" + "18f8f9e396f5cbcfc6dc807f9977906b32fff868020017e944004f6f313d1047d227cb6d090831452bdc282222"
                + "8057a3"}) void theStandardsExamplesAreRead(String hex) throws Exception {
        Path file = Files.write(folder.resolve("example.flac"), HexFormat.of().parseHex(hex));
        SoundFile sound = read(file);
        assertThat(sound.problems()).isEmpty();
        assertThat(md5(Sounds.readAll(sound.open()), sound.encoding().validBits())).isEqualTo(stated(file));
    }

    /// Made by libFLAC 1.4.2: blocks of 500 to 1,024 frames; 12 and 20 bits fill no whole bytes, sides of 32 bits take 33, 8 of 24 bits are always zero.
    @ParameterizedTest @CsvSource({"8,1,8", "12,2,12", "20,2,20", "32,2,32", "16_of_24,2,24"}) void everyDepthIsReadBitForBit(String name, int channels,
            int bits)
            throws Exception {
        Path file = Fixtures.path("made/flac/" + name + ".flac");
        SoundFile sound = read(file);
        double[][] planes = Sounds.readAll(sound.open());
        assertThat(planes).hasDimensions(channels, 1500);
        assertThat(sound.encoding().validBits()).isEqualTo(bits);
        assertThat(md5(planes, bits)).isEqualTo(stated(file));
    }

    /// A residual may be written as it is, part by part, of any length and of none.
    @Test void partsThatAreNotInRicesCodeAreRead() {
        StreamInfo info = new StreamInfo(16, 16, 0, 0, 44_100, 1, 16, 16, Bytes.of(new byte[16]));
        BitWriter out = new BitWriter();
        out.bits(FlacKernel.FIXED + 1 << 1, 8);
        out.bits(100, 16);
        out.bits(0, 2);
        out.bits(2, 4); // four parts
        int[] lengths = {7, 0, 4, 5};
        for (int part = 0; part < 4; part++) {
            out.bits(15, 4);
            out.bits(lengths[part], 5);
            for (int i = part == 0 ? 1 : 0; i < 4; i++)
                out.bits(part == 1 ? 0 : -part - i, lengths[part]);
        }
        out.bits(0, 16);
        double[][] planes = new double[1][16];
        new FlacKernel(info).decode(out.toArray(), new FlacFrame(0, 16, 0, 16, 0), 16, planes);
        int[] steps = Arrays.stream(planes[0]).mapToInt(x -> (int) Math.scalb(x, 15)).toArray();
        assertThat(steps).containsExactly(100, 99, 97, 94, 94, 94, 94, 94, 92, 89, 85, 80, 77, 73, 68, 62);
    }

    /// What a block does not use costs nothing, sides that are alike are written once, and noise takes no more than its bits.
    @ParameterizedTest @CsvSource({"16 of 24 bits, 0.70", "one side twice, 0.53", "silence, 0.01", "noise, 1.01"}) void whatIsNotThereTakesNoRoom(String what,
            double most)
            throws Exception {
        int frames = 20_000;
        Random random = new Random(2);
        double[][] planes = new double[2][frames];
        for (int i = 0; i < frames; i++) {
            planes[0][i] = what.equals("silence") ? 0 : (random.nextInt(1 << 16) - (1 << 15)) / 32_768.0;
            planes[1][i] = what.equals("one side twice") || what.equals("silence") ? planes[0][i] : (random.nextInt(1 << 16) - (1 << 15)) / 32_768.0;
        }
        Depth depth = what.startsWith("16") ? Depth.INT_24 : Depth.INT_16;
        Path file = Sounds.write(folder.resolve("x.flac"), "flac", 44_100, depth, SoundMetadata.NONE, planes);
        assertThat(Files.size(file)).isLessThan((long) (most * frames * 2 * depth.bytes()) + 500);
        assertThat(Arrays.deepEquals(Sounds.readAll(read(file).open()), planes)).isTrue();
        assertThat(md5(planes, depth.bits())).isEqualTo(stated(file));
    }
}
