package ablecrate.codec;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import ablecrate.SndFile;
import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.TextField;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/// What we encode, another program decodes: as long as the source, on the same frames, and without loss where that is promised.
class EncodedFilesTest {
    @TempDir Path folder;

    /// Noise that swells and decays, with a click at frame 1000, on a grid of `bits`.
    private static double[][] signal(int channels, int frames, int bits) {
        Random random = new Random(3);
        double[][] planes = new double[channels][frames];
        double scale = Math.scalb(1.0, bits - 1);
        for (double[] plane : planes)
            for (int i = 0; i < frames; i++) {
                double tone = 0.3 * Math.sin(0.05 * i) + 0.1 * Math.sin(0.31 * i) + 0.01 * random.nextGaussian();
                plane[i] = (int) Math.rint((i < 1000 ? 0 : tone * Math.exp(-(i - 1000) / 20_000.0)) * scale) / scale;
            }
        return planes;
    }

    @ParameterizedTest @CsvSource({"INT_16,1,44100,4096", "INT_16,2,44100,50001", "INT_24,2,48000,12345", "INT_24,1,96000,17",
        "INT_16,2,8000,1"}) void flacComesBackBitForBit(Depth depth, int channels, int rateHz, int frames) throws Exception {
        double[][] planes = signal(channels, frames, depth.bits());
        Path file = Sounds.write(folder.resolve("x.flac"), "flac", rateHz, depth, SoundMetadata.NONE, planes);
        SoundFile read = SoundFormats.byId("flac").orElseThrow().read(file);
        assertThat(read.encoding().validBits()).isEqualTo(depth.bits());
        assertThat(read.problems()).isEmpty();
        assertThat(Arrays.deepEquals(Sounds.readAll(read.open()), planes)).isTrue();
        Optional<SndFile> other = SndFile.find();
        assumeTrue(other.isPresent(), "libsndfile is here");
        assertThat(Arrays.deepEquals(other.get().read(file), planes)).isTrue();
    }

    /// The last block may have any length.
    @Test void flacOfEveryLengthComesBack() throws Exception {
        Optional<SndFile> other = SndFile.find();
        for (int frames : IntStream.concat(IntStream.rangeClosed(1, 40), IntStream.rangeClosed(4094, 4118)).toArray()) {
            double[][] planes = new double[2][frames];
            for (int i = 0; i < frames; i++) {
                planes[0][i] = Math.rint(9000 * Math.sin(0.7 * i + 1)) / 32_768;
                planes[1][i] = Math.rint(20_000 * Math.cos(2.9 * i)) / 32_768;
            }
            Path file = Sounds.write(folder.resolve("l" + frames + ".flac"), "flac", 44_100, Depth.INT_16, SoundMetadata.NONE, planes);
            assertThat(Arrays.deepEquals(Sounds.readAll(SoundFormats.byId("flac").orElseThrow().read(file).open()), planes)).as("%d frames", frames).isTrue();
            if (other.isPresent()) assertThat(Arrays.deepEquals(other.get().read(file), planes)).as("%d frames, libsndfile", frames).isTrue();
        }
    }

    @ParameterizedTest @CsvSource({"mp3,44100,2", "mp3,48000,1", "mp3,22050,2", "opus,48000,2",
        "opus,48000,1"}) void lossyFilesAreAsLongAsTheirSourceAndStartWithIt(String format, int rateHz, int channels) throws Exception {
        double[][] planes = signal(channels, 50_001, 24);
        Path file = Sounds.write(folder.resolve("x." + format), format, rateHz, Depth.FLOAT_32, SoundMetadata.NONE, planes);
        SoundFile read = SoundFormats.byId(format).orElseThrow().read(file);
        assertThat(read.problems()).isEmpty();
        aligned(Sounds.readAll(read.open()), planes);
        Optional<SndFile> other = SndFile.find();
        assumeTrue(other.isPresent(), "libsndfile is here");
        aligned(other.get().read(file), planes);
    }

    private static void aligned(double[][] decoded, double[][] source) {
        assertThat(decoded).hasDimensions(source.length, source[0].length);
        int best = 0;
        double least = Double.POSITIVE_INFINITY;
        for (int lag = -50; lag <= 50; lag++) {
            double error = 0;
            for (int i = 2000; i < 20_000; i++)
                error += Math.pow(decoded[0][i + lag] - source[0][i], 2);
            if (error < least) {
                least = error;
                best = lag;
            }
        }
        assertThat(best).as("frames that it comes late").isZero();
        double energy = Arrays.stream(source[0], 2000, 20_000).map(x -> x * x).sum();
        assertThat(10 * Math.log10(least / energy)).as("error in dB of the signal").isLessThan(-12);
    }

    @Test void aConstantRateIsOneAndAVariableOneFollowsItsWord() throws Exception {
        double[][] planes = signal(2, 88_200, 24);
        long last = 0;
        for (Quality.Word word : Quality.Word.values()) {
            long bytes = encode(planes, Quality.of(word));
            assertThat(bytes).as(word.id()).isGreaterThan(last);
            last = bytes;
        }
        assertThat(encode(planes, Quality.constant(160)) * 8 / 2.0 / 1000).isCloseTo(160, within(8.0));
    }

    private long encode(double[][] planes, Quality quality) throws Exception {
        Path file = folder.resolve("q.mp3");
        OutputShape shape = new OutputShape(44_100, 2, Depth.FLOAT_32, planes[0].length, quality);
        try (var out = Files.newOutputStream(file);
                SoundSink sink = SoundFormats.written("mp3").orElseThrow().sink(shape, SoundMetadata.NONE, List.of(), out, folder.resolve("spool"))) {
            sink.write(planes, planes[0].length);
            sink.finish();
        }
        assertThat(folder.resolve("spool")).doesNotExist();
        return Files.size(file);
    }

    @ParameterizedTest @ValueSource(strings = {"flac", "mp3", "opus"}) void textsGoAlong(String format) throws Exception {
        Map<TextField, String> texts = Map.of(TextField.NAME, "Ouvertüre", TextField.ARTIST, "Puppet pit", TextField.COMMENT, "first night",
                TextField.TEMPO, "96", TextField.MUSICAL_KEY, "Dm", TextField.DATE, "2026");
        Path file = Sounds.write(folder.resolve("t." + format), format, 48_000, format.equals("flac") ? Depth.INT_16 : Depth.FLOAT_32,
                SoundMetadata.NONE.withTexts(texts), signal(1, 5000, 16));
        assertThat(SoundFormats.byId(format).orElseThrow().read(file).metadata().texts()).isEqualTo(texts);
    }
}
