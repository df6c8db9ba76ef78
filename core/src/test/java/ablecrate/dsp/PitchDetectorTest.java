package ablecrate.dsp;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Sounds;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/// Key n sounds at 440·2^((n−69)/12) Hz (ISO 16).
class PitchDetectorTest {
    private static double hertz(double key) { return 440 * Math.pow(2, (key - 69) / 12); }

    @ParameterizedTest @ValueSource(ints = {24, 36, 48, 60, 69, 84, 96, 108}) void keysAreFound(int key) {
        for (int rate : new int[]{22_050, 44_100, 96_000}) {
            double hz = hertz(key);
            if (hz > rate / 8.0) continue;
            double[] sine = Sounds.sine(hz, 0.5, rate, rate / 2), rich = Sounds.signal(rate / 2, n -> {
                double y = 0;
                for (int h = 1; h <= 12 && h * hz < 0.45 * rate; h++)
                    y += Math.sin(2 * Math.PI * h * hz * n / rate + h) / h;
                return 0.3 * y * Math.exp(-3.0 * n / rate);
            });
            for (double[] sound : new double[][]{sine, rich})
                assertThat(PitchDetector.detect(sound, rate).orElseThrow().key()).as("%d Hz", rate).isCloseTo(key, within(0.15));
        }
    }

    /// The second harmonic may be the louder one, as it is in many low strings and pipes.
    @Test void aWeakFundamentalIsStillThePitch() {
        double hz = hertz(45);
        double[] sound = Sounds.signal(22_050, n -> 0.1 * Math.sin(2 * Math.PI * hz * n / 44_100) + 0.5 * Math.sin(4 * Math.PI * hz * n / 44_100)
                + 0.3 * Math.sin(6 * Math.PI * hz * n / 44_100));
        assertThat(PitchDetector.detect(sound, 44_100).orElseThrow().key()).isCloseTo(45, within(0.1));
    }

    @Test void noiseAndSilenceHaveNone() {
        Random random = new Random(1);
        assertThat(PitchDetector.detect(Sounds.signal(44_100, _ -> random.nextGaussian() * 0.1), 44_100)).isEmpty();
        assertThat(PitchDetector.detect(new double[44_100], 44_100)).isEmpty();
        assertThat(PitchDetector.detect(new double[10], 44_100)).isEmpty();
    }
}
