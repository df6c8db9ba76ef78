package ablecrate.codec;

import static ablecrate.Sounds.sine;
import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.audio.SeekableSource;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/// Two mono files, left and right, as one sound.
class SidesTest {
    @TempDir Path folder;
    private final double[] left = sine(441, 0.5, 44_100, 3000), right = sine(300, 0.25, 44_100, 2000);
    private SoundFile both;

    @BeforeEach void makePair() throws Exception {
        SoundFormat wav = SoundFormats.byId("wav").orElseThrow();
        SoundFile l = wav.read(Sounds.wav(folder.resolve("reed L.wav"), 44_100, Depth.FLOAT_64, left)),
                r = wav.read(Sounds.wav(folder.resolve("reed R.wav"), 44_100, Depth.FLOAT_64, right));
        both = new SoundFile(l.path(), l.fileBytes(), l.formatId(), l.container(), l.codec(), l.encoding(), 44_100, 2, 3000, new AudioPlace.Sides(l, r),
                l.metadata(), l.chunks(), l.problems());
    }

    @Test void eachFileIsASideAndTheShorterEndsInSilence() throws Exception {
        double[][] read = Sounds.readAll(both.open());
        assertThat(read[0]).isEqualTo(left);
        assertThat(read[1]).startsWith(right).endsWith(new double[1000]);
    }

    @ParameterizedTest @ValueSource(ints = {0, 1, 1999, 2000, 2500, 2999, 3000}) void bothSidesMoveTogether(int frame) throws Exception {
        try (SeekableSource source = both.open()) {
            source.readFully(new double[2][1234], 0, 1234);
            source.seek(frame);
            double[][] rest = new double[2][3000];
            int got = source.readFully(rest, 0, 3000);
            assertThat(got).isEqualTo(3000 - frame);
            assertThat(Arrays.copyOf(rest[0], got)).isEqualTo(Arrays.copyOfRange(left, frame, 3000));
            assertThat(Arrays.copyOf(rest[1], got)).isEqualTo(Arrays.copyOfRange(Arrays.copyOf(right, 3000), frame, 3000));
        }
    }

    @Test void aSideThatIsGoneIsToldAndTheOtherLetGo() throws Exception {
        Files.delete(folder.resolve("reed R.wav"));
        org.assertj.core.api.Assertions.assertThatThrownBy(both::open).isInstanceOf(java.io.IOException.class).hasMessageContaining("reed R.wav");
    }
}
