package ablecrate.codec.sds;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import ablecrate.SndFile;
import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.audio.SeekableSource;
import ablecrate.codec.FormatException;
import ablecrate.codec.Problem;
import ablecrate.codec.SoundFile;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.TextField;
import java.io.ByteArrayOutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/// Dumps put together by hand from the MIDI 1.0 detailed specification, sample dump standard.
class SdsTest {
    @TempDir Path folder;

    private static void sevens(ByteArrayOutputStream out, int value) {
        for (int i = 0; i < 3; i++)
            out.write(value >> 7 * i & 127);
    }

    private static byte[] dump(int bits, int periodNs, int[] words, int loopStart, int loopLast, int loopKind) {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        out.writeBytes(new byte[]{(byte) 0xF0, 0x7E, 0, 1, 1, 0, (byte) bits});
        sevens(out, periodNs);
        sevens(out, words.length);
        sevens(out, loopStart);
        sevens(out, loopLast);
        out.write(loopKind);
        out.write(0xF7);
        int bytes = (bits + 6) / 7, each = 120 / bytes;
        for (int packet = 0; packet * each < words.length; packet++) {
            byte[] data = new byte[127];
            data[0] = (byte) 0xF0;
            data[1] = 0x7E;
            data[3] = 2;
            data[4] = (byte) (packet & 127);
            for (int i = 0; i < each && packet * each + i < words.length; i++) {
                long justified = (long) words[packet * each + i] << 7 * bytes - bits;
                for (int b = 0; b < bytes; b++)
                    data[5 + i * bytes + b] = (byte) (justified >> 7 * (bytes - 1 - b) & 127);
            }
            int sum = 0;
            for (int i = 1; i < 125; i++)
                sum ^= data[i];
            data[125] = (byte) (sum & 127);
            data[126] = (byte) 0xF7;
            out.writeBytes(data);
        }
        return out.toByteArray();
    }

    private SoundFile read(byte[] bytes) throws Exception { return new SdsFormat().read(Files.write(folder.resolve("a.sds"), bytes)); }

    /// A ramp over all of the range: unsigned words, left-justified, come out as samples between −1 and 1.
    @ParameterizedTest @ValueSource(ints = {8, 12, 14, 16, 20, 24, 28}) void wordsOfEveryWidthAreReadExactly(int bits) throws Exception {
        int[] words = new int[500];
        for (int i = 0; i < words.length; i++)
            words[i] = (int) (((1L << bits) - 1) * i / (words.length - 1));
        SoundFile file = read(dump(bits, 22_676, words, 0, 0, 0x7F));
        assertThat(file.frames()).isEqualTo(500);
        assertThat(file.rateHz()).isEqualTo(44_100);
        assertThat(file.encoding().validBits()).isEqualTo(bits);
        double[] samples = Sounds.readAll(file.open())[0];
        for (int i = 0; i < words.length; i++)
            assertThat(samples[i]).isEqualTo((words[i] - (1L << bits - 1)) * Math.scalb(1.0, 1 - bits));
        assertThat(samples[0]).isEqualTo(-1);
    }

    /// Loop ends are inclusive in the dump (common practice).
    @ParameterizedTest @CsvSource({"0, FORWARD", "1, ALTERNATING"}) void aLoopEndsOnItsLastWord(int kind, LoopMode mode) throws Exception {
        SoundFile file = read(dump(16, 20_833, new int[400], 100, 299, kind));
        assertThat(file.rateHz()).isEqualTo(48_000);
        assertThat(file.metadata().loops()).singleElement().satisfies(l -> {
            assertThat(l.frames()).isEqualTo(new FrameRange(100, 300));
            assertThat(l.mode()).isEqualTo(mode);
        });
        assertThat(read(dump(16, 20_833, new int[400], 100, 299, 0x7F)).metadata().loops()).isEmpty();
    }

    /// A packet whose checksum is wrong is silent, the others stay in their places, and the list says where.
    @Test void aDamagedPacketIsSilentAndTold() throws Exception {
        int[] words = new int[160];
        java.util.Arrays.fill(words, 0xC000);
        byte[] bytes = dump(16, 22_676, words, 0, 0, 0x7F);
        bytes[21 + 127 + 20] ^= 1;
        SoundFile file = read(bytes);
        double[] samples = Sounds.readAll(file.open())[0];
        assertThat(samples[39]).isCloseTo(0.5, within(1e-9));
        assertThat(samples[40]).isZero();
        assertThat(samples[79]).isZero();
        assertThat(samples[80]).isCloseTo(0.5, within(1e-9));
        assertThat(file.problems()).singleElement().satisfies(p -> assertThat(p.effect()).isEqualTo(Problem.Effect.LOST));
    }

    /// Messages behind the packets, as a device sends them: a name and a second loop, laid out by hand (sample dump extensions, from memory).
    @Test void nameAndFurtherLoopsBehindThePacketsAreRead() throws Exception {
        ByteArrayOutputStream all = new ByteArrayOutputStream();
        all.writeBytes(dump(16, 22_676, new int[400], 100, 299, 0));
        all.writeBytes(new byte[]{(byte) 0xF0, 0x7E, 0, 5, 1, 1, 0, 1, 0, 1, 10, 1, 0, 20, 2, 0, (byte) 0xF7});
        all.writeBytes(new byte[]{(byte) 0xF0, 0x7E, 0, 5, 3, 1, 0, 2, 'e', 'n', 4, 'c', 'l', 'a', 'p', (byte) 0xF7});
        SoundFile file = read(all.toByteArray());
        assertThat(file.metadata().texts()).containsEntry(TextField.NAME, "clap");
        assertThat(file.metadata().loops()).extracting(Loop::frames).containsExactly(new FrameRange(100, 300), new FrameRange(138, 277));
        assertThat(file.metadata().loops().getLast().mode()).isEqualTo(LoopMode.ALTERNATING);
        assertThat(file.problems()).isEmpty();
        all.writeBytes(new byte[]{(byte) 0xF0, 0x7E, 0, 5, 3, 1, 0, 0, 100, 'c'});
        assertThat(read(all.toByteArray()).metadata().texts()).as("what is cut off is left").containsEntry(TextField.NAME, "clap");
    }

    @Test void aDumpThatBreaksOffIsReadAsFarAsItGoes() throws Exception {
        byte[] whole = dump(16, 22_676, new int[400], 100, 399, 0);
        SoundFile file = read(java.util.Arrays.copyOf(whole, 21 + 4 * 127 + 50));
        assertThat(file.frames()).isEqualTo(160);
        assertThat(file.metadata().loops()).isEmpty();
        assertThat(file.problems()).hasSize(2);
        assertThatThrownBy(() -> read(java.util.Arrays.copyOf(whole, 21))).isInstanceOf(FormatException.class).hasMessageContaining("no packet of audio");
    }

    @Test void anyFrameCanBeGoneTo() throws Exception {
        int[] words = new int[1000];
        for (int i = 0; i < words.length; i++)
            words[i] = i * 60;
        SoundFile file = read(dump(16, 22_676, words, 0, 0, 0x7F));
        double[] all = Sounds.readAll(file.open())[0];
        try (SeekableSource source = file.open()) {
            double[][] block = new double[1][10];
            for (int frame : new int[]{990, 0, 41, 500}) {
                source.seek(frame);
                assertThat(source.readFully(block, 0, 10)).isEqualTo(10);
                assertThat(block[0][0]).isEqualTo(all[frame]);
            }
        }
    }

    @ParameterizedTest @CsvSource({"7, 22676, words of 7 bits", "29, 22676, words of 29 bits",
        "16, 3, a period of 3 ns"}) void nonsenseInTheHeaderIsRefusedWithItsValue(
                int bits, int period, String told) {
        byte[] bytes = dump(16, period, new int[100], 0, 0, 0x7F);
        bytes[6] = (byte) bits;
        assertThatThrownBy(() -> read(bytes)).isInstanceOf(FormatException.class).hasMessageContaining(told);
    }

    /// A written dump is the one of the standard: made here byte by byte, read by ourselves and by libsndfile.
    @ParameterizedTest @CsvSource({"16, 1000, FORWARD", "16, 40, ALTERNATING", "24, 777, FORWARD", "12, 500, ALTERNATING",
        "8, 90, FORWARD"}) void whatIsWrittenIsTheStandardsDump(int bits, int frames,
                LoopMode mode) throws Exception {
        Random random = new Random(frames);
        int[] words = new int[frames];
        double[] plane = new double[frames];
        for (int i = 0; i < frames; i++) {
            int step = random.nextInt(1 << bits) - (1 << bits - 1);
            words[i] = step + (1 << bits - 1);
            plane[i] = Math.scalb((double) step, 1 - bits);
        }
        Path written = Sounds.write(folder.resolve("w.sds"), "sds", 44_100, Depth.integer(bits),
                SoundMetadata.NONE.withLoops(List.of(Loop.sustain(new FrameRange(10, 30), mode))), plane);
        byte[] standard = dump(bits, 22_676, words, 10, 29, mode == LoopMode.ALTERNATING ? 1 : 0);
        // Ours all have the number 0.
        standard[4] = 0;
        assertThat(Files.readAllBytes(written)).isEqualTo(standard);
        SoundFile file = new SdsFormat().read(written);
        assertThat(Sounds.readAll(file.open())[0]).containsExactly(plane);
        assertThat(file.rateHz()).isEqualTo(44_100);
        assertThat(file.metadata().loops()).singleElement().satisfies(l -> {
            assertThat(l.frames()).isEqualTo(new FrameRange(10, 30));
            assertThat(l.mode()).isEqualTo(mode);
        });
        Optional<SndFile> other = SndFile.find();
        // libsndfile leaves a last packet that is not full silent, and does not open a single one.
        int inPacket = 120 / Math.ceilDiv(bits, 7), full = frames / inPacket * inPacket;
        if (other.isPresent() && full > inPacket)
            assertThat(Arrays.copyOf(other.get().read(written)[0], full)).as("read by libsndfile").containsExactly(Arrays.copyOf(plane, full));
    }
}
