package ablecrate.codec.aac;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Fixtures;
import ablecrate.Sounds;
import ablecrate.audio.BadFrames;
import ablecrate.audio.FrameRange;
import ablecrate.codec.AudioPlace;
import ablecrate.codec.BitReader;
import ablecrate.codec.Bytes;
import ablecrate.codec.PacketTable;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormats;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/// AAC-LC, held against what libavcodec decodes.
class AacDecoderTest {
    private static final Bytes MONO_44 = Bytes.of((byte) 0x12, (byte) 0x08);

    @TempDir private Path folder;

    /// Encoded and decoded by libavcodec 59 without substituted noise; its floats, rounded to 24 bits, which is −149 dB of noise.
    @ParameterizedTest @ValueSource(strings = {"findings/aac/k10_128k", "findings/aac/k10_64k", "findings/aac/k5_64k", "findings/aac/k10_128k_plain",
        "findings/aac/large_value", "made/aac/attacks_8k_mono", "made/aac/pulses_22k_stereo", "made/aac/square_48k_surround",
        "made/aac/attacks_96k_stereo", "made/aac/tones_44k_joint"}) void isWhatLibavcodecDecodes(String name) throws Exception {
        SoundFile coded = m4a(Fixtures.path(name + ".m4a")), reference = SoundFormats.byId("flac").orElseThrow().read(Fixtures.path(name + ".ref.flac"));
        // The reference goes on to the end of the last packet.
        assertThat(coded.frames()).isBetween(reference.frames() - 1024, reference.frames());
        assertThat(coded.channels()).isEqualTo(reference.channels());
        assertThat(differenceDb(Sounds.readAll(coded.open()), Sounds.readAll(reference.open()))).isLessThan(-140);
    }

    private static SoundFile m4a(Path path) throws Exception { return SoundFormats.byId("m4a").orElseThrow().read(path); }

    private static double differenceDb(double[][] a, double[][] b) {
        double sum = 0;
        for (int channel = 0; channel < a.length; channel++)
            for (int i = 0; i < a[channel].length; i++)
                sum += Math.pow(Math.clamp(a[channel][i], -1, 1) - b[channel][i], 2);
        return 10 * Math.log10(sum / a.length / a[0].length);
    }

    @Test void theFastTransformIsTheSum() {
        Random random = new Random(5);
        for (int lines : new int[]{8, 128, 1024}) {
            double[] spectrum = random.doubles(lines, -1, 1).toArray(), wave = new double[2 * lines];
            new Imdct(lines).transform(spectrum, 0, wave);
            for (int n = 0; n < 2 * lines; n++) {
                double sum = 0;
                for (int k = 0; k < lines; k++)
                    sum += spectrum[k] * Math.cos(Math.PI / lines * (n + lines / 2.0 + 0.5) * (k + 0.5));
                assertThat(wave[n]).as("%d of %d", n, lines).isCloseTo(sum, within(1e-10));
            }
        }
    }

    @Test void bandsOfEveryRateFillTheWindow() {
        for (int rate : new int[]{96_000, 88_200, 64_000, 48_000, 44_100, 32_000, 24_000, 22_050, 16_000, 12_000, 11_025, 8000, 7350}) {
            Bands bands = Bands.of(rate);
            assertThat(Arrays.stream(bands.longEdges()).max()).hasValue(1024);
            assertThat(Arrays.stream(bands.shortEdges()).max()).hasValue(128);
        }
    }

    /// A pulse adds to its line, away from 0, and one of 0 goes down: 5, 0, 16, −2 with 3, 9, 4, 1 are 8, −9, 20, −3 (ISO/IEC 14496-3, section 4.6.3.3).
    @Test void pulsesAddToTheirLines() throws Exception {
        double[][] pulsed = new double[1][1024], plain = new double[1][1024];
        new AacDecoder(AacConfig.read(MONO_44).orElseThrow()).decode(packet(new int[]{5, 0, 16, -2}, new int[]{3, 9, 4, 1}), pulsed);
        new AacDecoder(AacConfig.read(MONO_44).orElseThrow()).decode(packet(new int[]{8, -9, 20, -3}, new int[0]), plain);
        assertThat(plain[0]).isNotEqualTo(new double[1024]);
        assertThat(pulsed[0]).isEqualTo(plain[0]);
    }

    /// One channel, one long window, one band of four lines by the last book.
    private static byte[] packet(int[] lines, int[] pulses) {
        Bits out = new Bits();
        out.add(0, 3 + 4).add(200, 8).add(0, 1 + 2 + 1).add(1, 6).add(0, 1);
        out.add(11, 4).add(1, 5).word(Codebook.SCALE_FACTORS, 60);
        out.add(pulses.length > 0 ? 1 : 0, 1);
        if (pulses.length > 0) out.add(pulses.length - 1, 2).add(0, 6);
        for (int i = 0; i < pulses.length; i++)
            out.add(i == 0 ? 0 : 1, 5).add(pulses[i], 4);
        out.add(0, 2);
        for (int i = 0; i < 4; i += 2) {
            int a = Math.abs(lines[i]), b = Math.abs(lines[i + 1]);
            out.word(Codebook.of(11), Math.min(a, 16) * 17 + Math.min(b, 16));
            for (int value : new int[]{lines[i], lines[i + 1]})
                if (value != 0) out.add(value < 0 ? 1 : 0, 1);
            for (int amount : new int[]{a, b})
                if (amount >= 16) out.add(0, 1).add(amount - 16, 4);
        }
        return out.add(7, 3).bytes();
    }

    private static final class Bits {
        private final StringBuilder bits = new StringBuilder();

        Bits add(int value, int count) {
            for (int bit = count - 1; bit >= 0; bit--)
                bits.append(value >> bit & 1);
            return this;
        }

        /// The word that this book reads as that symbol, found by reading.
        Bits word(Codebook book, int symbol) {
            for (int length = 1; length <= 19; length++)
                for (int word = 0; word < 1 << length; word++) {
                    int left = word << 32 - length;
                    BitReader in = new BitReader(new byte[]{(byte) (left >> 24), (byte) (left >> 16), (byte) (left >> 8), 0});
                    if (book.symbol(in) == symbol && in.position() == length) return add(word, length);
                }
            throw new AssertionError("no word for " + symbol);
        }

        byte[] bytes() {
            byte[] bytes = new byte[bits.length() / 8 + 1];
            for (int i = 0; i < bits.length(); i++)
                if (bits.charAt(i) == '1') bytes[i / 8] |= (byte) (128 >> i % 8);
            return bytes;
        }
    }

    /// Substituted noise has its energy, 2^(factor / 4) in each band, and is the same whenever the packet is decoded.
    @Test void noiseHasItsEnergyAndIsTheSameEveryTime() throws Exception {
        Bits out = new Bits().add(0, 3 + 4).add(180, 8).add(0, 1 + 2 + 1).add(10, 6).add(0, 1);
        out.add(13, 4).add(10, 5).add(300, 9);
        for (int band = 1; band < 10; band++)
            out.word(Codebook.SCALE_FACTORS, 60);
        BitReader in = new BitReader(out.add(0, 3).bytes());
        in.skip(7);
        ChannelStream stream = new ChannelStream();
        stream.read(in, null, Bands.of(44_100));
        stream.fillNoise(7);
        double[] first = stream.spectrum.clone();
        double energy = Arrays.stream(first).map(x -> x * x).sum();
        // The factor is the gain less 90 and 256, and 300 more.
        assertThat(10 * Math.log10(energy)).isCloseTo(10 * Math.log10(10 * Math.pow(2, (180 - 90 - 256 + 300) / 2.0)), within(1e-9));
        Arrays.fill(stream.spectrum, 0);
        stream.fillNoise(7);
        assertThat(stream.spectrum).isEqualTo(first);
    }

    @Test void whatIsSpoiltIsAnErrorAndNotSilence() {
        AacDecoder decoder = new AacDecoder(AacConfig.read(MONO_44).orElseThrow());
        double[][] planes = new double[1][1024];
        assertThatThrownBy(() -> decoder.decode(new byte[]{2, 0}, planes)).isInstanceOf(IOException.class).hasMessageContaining("too soon");
        assertThatThrownBy(() -> decoder.decode(new byte[]{(byte) 0x40, 0, 0, 0}, planes)).isInstanceOf(IOException.class).hasMessageContaining("kind 2");
        byte[] predicted = new Bits().add(0, 7).add(200, 8).add(0, 4).add(1, 6).add(1, 1).bytes();
        assertThatThrownBy(() -> decoder.decode(predicted, planes)).isInstanceOf(IOException.class).hasMessageContaining("predictor");
    }

    @Test void aDamagedPacketIsSilentAndToldWithItsPlace() throws Exception {
        Path good = Fixtures.path("findings/aac/k10_128k.m4a");
        byte[] bytes = Files.readAllBytes(good);
        PacketTable packets = ((AacAudio) ((AudioPlace.Coded) m4a(good).audio()).stream()).packets();
        // An element that does not exist in low complexity.
        Arrays.fill(bytes, (int) packets.at(20), (int) packets.at(20) + packets.bytes(20), (byte) 0x40);
        BadFrames bad = new BadFrames();
        double[][] spoilt = Sounds.readAll(m4a(Files.write(folder.resolve("spoilt.m4a"), bytes)).open(bad)), whole = Sounds.readAll(m4a(good).open());
        // 1024 frames of delay are taken off.
        assertThat(bad.ranges()).containsExactly(new FrameRange(19 * 1024, 20 * 1024));
        assertThat(Arrays.copyOfRange(spoilt[0], 19 * 1024, 20 * 1024)).containsOnly(0);
        assertThat(Arrays.copyOfRange(spoilt[0], 21 * 1024, spoilt[0].length)).isEqualTo(Arrays.copyOfRange(whole[0], 21 * 1024, spoilt[0].length));
    }

    /// Type 5 in front, or behind what old decoders read (ISO/IEC 14496-3, section 1.6.5): both say that bands are replicated.
    @Test void replicatedBandsAreSeenInTheSettings() {
        assertThat(AacConfig.read(MONO_44)).contains(new AacConfig(2, 44_100, 1, 1024, false));
        Bits sourceChain = new Bits().add(5, 5).add(7, 4).add(2, 4).add(4, 4).add(2, 5).add(0, 3), behind = new Bits().add(2, 5).add(7, 4).add(2, 4).add(0, 3)
                .add(0x2B7, 11).add(5, 5).add(1, 1).add(4, 4);
        assertThat(AacConfig.read(Bytes.of(sourceChain.bytes()))).contains(new AacConfig(2, 22_050, 2, 1024, true));
        assertThat(AacConfig.read(Bytes.of(behind.bytes()))).contains(new AacConfig(2, 22_050, 2, 1024, true));
    }
}
