package ablecrate.signal;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.Fixtures;
import ablecrate.Sounds;
import ablecrate.audio.BadFrames;
import ablecrate.audio.Depth;
import ablecrate.audio.SeekableSource;
import ablecrate.codec.FileKind;
import ablecrate.codec.SoundFile;
import ablecrate.instrument.SoundMetadata;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class SharedDecodingTest {
    private static final int RATE = 44_100, FRAMES = 3 * RATE + 123;

    @TempDir Path folder;

    private SoundFile sound(String format) throws Exception {
        Path file = Sounds.write(folder.resolve("bell." + format), format, RATE, Depth.INT_16, SoundMetadata.NONE, Sounds.sine(440, 0.5, RATE, FRAMES),
                Sounds.sine(330, 0.25, RATE, FRAMES));
        return read(file);
    }

    private static SoundFile read(Path file) throws Exception { return ((FileKind.Sound) FileKind.of(file)).read(file); }

    /// Reads in steps of its own, and says what was told to be bad.
    private static double[][] read(SeekableSource source, int step) throws IOException {
        double[][] planes = new double[source.channels()][(int) source.frames()];
        for (int at = 0, got; at < planes[0].length && (got = source.read(planes, at, Math.min(step, planes[0].length - at))) > 0;)
            at += got;
        source.close();
        return planes;
    }

    @Test void readersAtTheirOwnPaceGetTheSameFramesOfOneDecoding() throws Exception {
        SoundFile bell = sound("mp3");
        double[][] alone = Sounds.readAll(bell.open());
        try (SharedDecoding shared = new SharedDecoding(List.of(bell, bell, bell, bell))) {
            List<double[][]> all = IntStream.of(100, 4096, 50_000).parallel().mapToObj(step -> {
                try {
                    return read(shared.open(bell, _ -> {}), step);
                } catch (IOException e) {
                    throw new java.io.UncheckedIOException(e);
                }
            }).toList();
            assertThat(all).allSatisfy(planes -> assertThat(planes).isDeepEqualTo(alone));
            try (SeekableSource late = shared.open(bell, _ -> {})) {
                late.seek(FRAMES - 1000);
                double[][] end = new double[2][1000];
                assertThat(late.readFully(end, 0, 1000)).isEqualTo(1000);
                assertThat(end[1]).isEqualTo(java.util.Arrays.copyOfRange(alone[1], FRAMES - 1000, FRAMES));
            }
            assertThat(shared.decodings()).isEqualTo(1);
        }
    }

    @Test void whatIsReadOnceOrIsNotCompressedIsOpenedAsItIs() throws Exception {
        SoundFile bell = sound("flac"), plain = read(Sounds.wav(folder.resolve("tin.wav"), RATE, Depth.INT_16, Sounds.sine(440, 0.5, RATE, 5000)));
        try (SharedDecoding shared = new SharedDecoding(List.of(bell, plain, plain))) {
            assertThat(read(shared.open(bell, _ -> {}), 999)).isDeepEqualTo(Sounds.readAll(bell.open()));
            assertThat(read(shared.open(plain, _ -> {}), 999)).isDeepEqualTo(Sounds.readAll(plain.open()));
            assertThat(shared.decodings()).isZero();
        }
    }

    @Test void eachIsToldOfTheSameDamage() throws Exception {
        byte[] bytes = Files.readAllBytes(Fixtures.path("lossy/s44_aac_lc_second_encoder.m4a"));
        for (int i = bytes.length / 2; i < bytes.length / 2 + 3000; i++)
            bytes[i] = (byte) (i * 37);
        SoundFile spoilt = read(Files.write(folder.resolve("spoilt.m4a"), bytes));
        BadFrames alone = new BadFrames();
        double[][] expected = read(spoilt.open(alone), 8192);
        assertThat(alone.ranges()).as("the damage is met").isNotEmpty();
        try (SharedDecoding shared = new SharedDecoding(List.of(spoilt, spoilt))) {
            for (int step : new int[]{8192, 777}) {
                BadFrames bad = new BadFrames();
                assertThat(read(shared.open(spoilt, bad), step)).isDeepEqualTo(expected);
                assertThat(bad.ranges()).isEqualTo(alone.ranges());
            }
        }
    }

    /// What is no longer kept is decoded anew by whoever still reads it.
    @Test void aReaderGoesOnWhereTheOthersAreDone() throws Exception {
        SoundFile bell = sound("flac");
        double[][] alone = Sounds.readAll(bell.open());
        try (SharedDecoding shared = new SharedDecoding(List.of(bell, bell)); SeekableSource slow = shared.open(bell, _ -> {})) {
            double[][] planes = new double[2][FRAMES];
            int begun = slow.readFully(planes, 0, 5000);
            read(shared.open(bell, _ -> {}), 8192);
            shared.done(bell);
            shared.done(bell);
            slow.readFully(planes, begun, FRAMES - begun);
            assertThat(planes).isDeepEqualTo(alone);
        }
    }
}
