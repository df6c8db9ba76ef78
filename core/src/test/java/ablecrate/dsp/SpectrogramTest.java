package ablecrate.dsp;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.audio.SeekableSource;
import ablecrate.codec.SoundFormats;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class SpectrogramTest {
    private static final int RATE = 44_100;

    @TempDir Path folder;

    private Spectrogram of(double[] plane, FrameRange range, int columns) throws Exception {
        Path file = Sounds.wav(folder.resolve("Bell.wav"), RATE, Depth.FLOAT_32, plane);
        try (SeekableSource source = SoundFormats.byId("wav").orElseThrow().read(file).open()) {
            return Spectrogram.of(source, new double[][]{{1}}, range, columns, 128, () -> false).getFirst();
        }
    }

    private static int loudestRow(float[] column) {
        int loudest = 0;
        for (int row = 0; row < column.length; row++)
            if (column[row] > column[loudest]) loudest = row;
        return loudest;
    }

    /// A sine at half of full scale stands at its frequency with −6 dB, however near one looks.
    @ParameterizedTest @ValueSource(ints = {3_000_000, 400_000, 20_000}) void aSineStandsAtItsPitchAndLevel(int frames) throws Exception {
        Spectrogram picture = of(Sounds.sine(1000, 0.5, RATE, frames), new FrameRange(0, frames), 60);
        float[] column = picture.db()[30];
        int row = loudestRow(column);
        assertThat(picture.hz(row)).isCloseTo(1000, within(1000 * 0.06));
        assertThat((double) column[row]).isCloseTo(-6.02, within(1.5));
        assertThat((double) column[(int) picture.row(8000)]).isLessThan(-70);
    }

    /// Silence up to the middle, then a tone: the picture changes where the sound does.
    @Test void timeLiesAlongTheColumns() throws Exception {
        double[] plane = Sounds.signal(88_200, n -> n < 44_100 ? 0 : 0.5 * Math.sin(2 * Math.PI * 500 * n / RATE));
        Spectrogram picture = of(plane, new FrameRange(22_050, 66_150), 100);
        assertThat(picture.db()[40][loudestRow(picture.db()[60])]).isEqualTo(Spectrogram.SILENT_DB);
        assertThat((double) picture.db()[60][loudestRow(picture.db()[60])]).isCloseTo(-6.02, within(1.5));
    }

    /// What both sides share is in the middle, what differs in the sides.
    @Test void eachWeightedSumOfTheChannelsHasAPictureOfItsOwn() throws Exception {
        double[] low = Sounds.sine(300, 0.25, RATE, 44_100), high = Sounds.sine(5000, 0.25, RATE, 44_100);
        Path file = Sounds.wav(folder.resolve("Wide.wav"), RATE, Depth.FLOAT_32, Sounds.signal(44_100, n -> low[n] + high[n]),
                Sounds.signal(44_100, n -> low[n] - high[n]));
        try (SeekableSource source = SoundFormats.byId("wav").orElseThrow().read(file).open()) {
            List<Spectrogram> pictures = Spectrogram.of(source, new double[][]{{0.5, 0.5}, {0.5, -0.5}}, new FrameRange(0, 44_100), 20, 128, () -> false);
            float[] middle = pictures.getFirst().db()[10], sides = pictures.getLast().db()[10];
            assertThat(pictures.getFirst().hz(loudestRow(middle))).isCloseTo(300, within(18.0));
            assertThat((double) middle[(int) pictures.getFirst().row(5000)]).isLessThan(-70);
            assertThat(pictures.getFirst().hz(loudestRow(sides))).isCloseTo(5000, within(300.0));
            assertThat((double) sides[(int) pictures.getFirst().row(300)]).isLessThan(-70);
        }
    }

    @Test void aFrequencyAndItsRowAreOneAnother() throws Exception {
        Spectrogram picture = of(new double[5000], new FrameRange(0, 5000), 10);
        assertThat(picture.row(picture.hz(40))).isCloseTo(40, within(1e-9));
        assertThat(picture.db()[5]).containsOnly(Spectrogram.SILENT_DB);
    }
}
