package ablecrate.dsp;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Sounds;
import java.io.IOException;
import java.util.Random;
import org.junit.jupiter.api.Test;

class StereoWidthTest {
    private static final int RATE = 8_000, FRAMES = 4 * RATE;

    private static StereoWidth of(double[] left, double[] right) throws IOException {
        return StereoWidth.of(Sounds.source(RATE, left, right), FRAMES).orElseThrow();
    }

    @Test void theCornersAreWhatTheyAre() throws IOException {
        double[] tone = Sounds.sine(440, 0.5, RATE, FRAMES), turned = Sounds.sine(440, -0.5, RATE, FRAMES);
        assertThat(of(tone, tone).correlation()).isCloseTo(1, within(1e-12));
        assertThat(of(tone, tone).sidesDb()).as("no sides").isLessThan(-200);
        assertThat(of(tone, turned).correlation()).isCloseTo(-1, within(1e-12));
        assertThat(of(tone, turned).sidesDb()).as("no middle").isGreaterThan(200);
        assertThat(of(tone, Sounds.sine(440, 0.25, RATE, FRAMES)).correlation()).as("panned, but all in common").isCloseTo(1, within(1e-12));
        // Half to one: sides (1 − ½)/2, middle (1 + ½)/2, a third of it.
        assertThat(of(tone, Sounds.sine(440, 0.25, RATE, FRAMES)).sidesDb()).isCloseTo(20 * Math.log10(1 / 3.0), within(1e-9));
    }

    /// Two noises of which a share a is common have the correlation a² / (a² + b²).
    @Test void noisesCorrelateByTheirCommonShare() throws IOException {
        Random random = new Random(7);
        double[] left = new double[FRAMES], right = new double[FRAMES];
        for (int i = 0; i < FRAMES; i++) {
            double common = 0.3 * random.nextGaussian();
            left[i] = common + 0.1 * random.nextGaussian();
            right[i] = common + 0.1 * random.nextGaussian();
        }
        StereoWidth width = of(left, right);
        assertThat(width.correlation()).isCloseTo(0.9, within(0.01));
        assertThat(width.sidesDb()).as("½·0.1² · 2 over 0.3² + ½·0.1²").isCloseTo(10 * Math.log10(0.005 / 0.095), within(0.1));
        assertThat(width.dots()).hasSizeBetween(1400, 1600).allMatch(d -> Math.max(Math.abs(d.across()), Math.abs(d.up())) <= 1);
    }

    @Test void ofAChannelThatIsSilentNothingIsSaid() throws IOException {
        assertThat(StereoWidth.of(Sounds.source(RATE, Sounds.sine(440, 0.5, RATE, FRAMES), new double[FRAMES]), FRAMES)).isEmpty();
        assertThatThrownBy(() -> StereoWidth.of(Sounds.source(RATE, new double[10]), FRAMES)).isInstanceOf(IllegalArgumentException.class);
    }
}
