package ablecrate.codec.mpeg;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.fail;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import ablecrate.SndFile;
import ablecrate.Sounds;
import ablecrate.audio.DecodedSource;
import ablecrate.dsp.FrameSlice;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// What encoders seldom use, against libsndfile, which decodes with libmpg123.
class MpegDecoderTest {
    private static final int FRAMES = 60;

    @TempDir Path folder;

    /// Also behind frames that are damaged: they say that more of the sound lies before them than there is, or go on behind their end.
    @ParameterizedTest @CsvSource({"1, 3, 0, 9, 1", "2, 3, 0, 12, 1", "25, 3, 1, 12, 3", "1, 2, 1, 10, 1",
        "1, 1, 0, 9, 0"}) void framesAreTheSameWhereverDecodingBegins(
                int version, int layer, int rate, int kbps, int mode) throws Exception {
        MpegStream stream = new MpegStream(5, version, layer, rate, kbps, mode);
        byte[] bytes = stream.frames(FRAMES);
        int frames = stream.header().frames(), frameBytes = bytes.length / FRAMES;
        for (int bad : new int[]{30, 33, 34, 40})
            Arrays.fill(bytes, bad * frameBytes + 6, bad * frameBytes + 30, (byte) 0xF5);
        Path path = Files.write(folder.resolve("any.mp3"), bytes);
        MpegAudio audio = new MpegAudio(stream.header(), bytes.length, List.of(), List.of(new MpegAudio.Mark(0, 0)));
        List<Long> lost = new ArrayList<>();
        double[][] whole = Sounds.readAll(new DecodedSource(audio.open(path), stream.header().channels(), 44_100, 0, (long) FRAMES * frames, lost::add));
        if (layer == 3) assertThat(lost).as("frames that cannot be decoded").isNotEmpty();
        for (int start = 24; start < FRAMES; start++)
            try (DecodedSource source = new DecodedSource(audio.open(path), whole.length, 44_100, 0, (long) FRAMES * frames, _ -> {})) {
                source.seek((long) start * frames);
                double[][] part = Sounds.readAll(new FrameSlice(source, 0, (long) (FRAMES - start) * frames));
                for (int channel = 0; channel < whole.length; channel++)
                    assertThat(part[channel]).as("from " + start).isEqualTo(Arrays.copyOfRange(whole[channel], start * frames, FRAMES * frames));
            }
    }

    /// Version, layer, rate (44.1, 48, 32 kHz or a part of that), bit rate and mode as in the header's tables.
    @ParameterizedTest @CsvSource({"1, 3, 0, 9, 0", "1, 3, 1, 9, 1", "1, 3, 2, 11, 1", "1, 3, 0, 9, 3", "2, 3, 0, 12, 1", "2, 3, 1, 12, 0", "2, 3, 2, 12, 1",
        "25, 3, 0, 12, 1", "25, 3, 1, 12, 3", "25, 3, 2, 12, 0", "1, 1, 0, 9, 0", "1, 1, 1, 9, 1", "2, 1, 0, 12, 3", "1, 2, 0, 10, 0", "1, 2, 1, 10, 1",
        "1, 2, 2, 3, 1", "1, 2, 0, 3, 3", "1, 2, 0, 1, 3", "2, 2, 1, 12, 1"}) void itIsThatOfLibsndfile(int version, int layer, int rate, int kbps, int mode)
                throws Exception {
        Optional<SndFile> other = SndFile.find();
        assumeTrue(other.isPresent(), "libsndfile is not installed");
        MpegStream stream = new MpegStream(100L * version + 10 * layer + rate, version, layer, rate, kbps, mode);
        Path path = Files.write(folder.resolve("any.mp3"), stream.frames(FRAMES));
        MpegHeader header = stream.header();
        int frames = FRAMES * header.frames();
        MpegAudio audio = new MpegAudio(header, Files.size(path), List.of(), List.of(new MpegAudio.Mark(0, 0)));
        double[][] theirs = other.get().read(path), ours = Sounds.readAll(new DecodedSource(audio.open(path), header.channels(), header.rateHz(), 0, frames,
                lost -> fail(lost + " frames are lost")));
        assertThat(theirs[0]).hasSize(frames);
        double error = 0, power = 0;
        for (int channel = 0; channel < theirs.length; channel++)
            for (int i = 0; i < theirs[0].length; i++) {
                error += Math.pow(ours[channel][i] - theirs[channel][i], 2);
                power += Math.pow(theirs[channel][i], 2);
            }
        assertThat(power).as("there is something").isGreaterThan(1e-3);
        assertThat(10 * Math.log10(error / power)).isLessThan(-120);
    }
}
