package ablecrate.dsp;

import static ablecrate.Sounds.readAll;
import static ablecrate.Sounds.signal;
import static ablecrate.Sounds.source;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class LimiterTest {
    private static double[][] limited(int rateHz, double ceilingDbtp, double[]... planes) throws Exception {
        return readAll(new Limiter(source(rateHz, planes), ceilingDbtp));
    }

    /// The true peak as our own rate conversion shows it, at 16 times the rate: another way than the limiter's own.
    private static double truePeakDb(int rateHz, double[] x) throws Exception {
        double highest = 0;
        for (double v : readAll(new RateConverters().convert(source(rateHz, x), 16, 1, 16 * rateHz))[0])
            highest = Math.max(highest, Math.abs(v));
        return 20 * Math.log10(highest);
    }

    /// Tones whose peaks lie between the samples, far over, abrupt and slow: at most 0.05 dB over the ceiling.
    @ParameterizedTest @ValueSource(doubles = {0.25, 1 / 6.0, 0.125, 0.031, 0.21, 0.3371, 0.41}) void theCeilingHoldsBetweenSamples(double part)
            throws Exception {
        for (double gain : new double[]{1.0, 1.41, 4}) {
            double[] x = signal(20_000, n -> gain * (n % 7000 < 3000 ? 1 : 0.2) * Math.min(1, n / 300.0) * Math.sin(2 * Math.PI * part * n + Math.PI / 4));
            assertThat(truePeakDb(48000, limited(48000, -1, x)[0])).as("gain " + gain).isLessThanOrEqualTo(-0.95);
        }
    }

    @ParameterizedTest @ValueSource(ints = {8000, 44100, 96000, 768_000}) void noiseIsHeldAsWell(int rateHz) throws Exception {
        Random random = new Random(3);
        // White up to 0.86 of Nyquist, as recordings are at most.
        double[] white = signal(rateHz / 2, _ -> 0.4 * random.nextGaussian());
        double[] x = readAll(new RateConverters().convert(source(rateHz, white), 10, 9, rateHz))[0];
        assertThat(truePeakDb(rateHz, limited(rateHz, -0.5, x)[0])).isLessThanOrEqualTo(-0.45).isGreaterThan(-0.8);
    }

    @Test void belowTheCeilingNothingChanges() throws Exception {
        double[] x = signal(48000, n -> 0.5 * Math.sin(0.1 * n) + 0.3 * Math.sin(0.57 * n));
        Limiter limiter = new Limiter(source(48000, x), -1);
        assertThat(readAll(limiter)[0]).isEqualTo(x);
        assertThat(limiter.deepestDb()).isZero();
    }

    /// A single peak is lowered, and what is far from it passes untouched: nothing pumps.
    @Test void onlyTheSurroundingsOfAPeakAreTouched() throws Exception {
        double[] x = signal(96_000, n -> 0.1 * Math.sin(0.05 * n) + (n >= 40_000 && n < 40_020 ? 1.2 * Math.sin(Math.PI * (n - 40_000) / 20) : 0));
        double[] y = limited(48000, -3, x)[0];
        for (int i = 0; i < 39_700; i++)
            assertThat(y[i]).isEqualTo(x[i]);
        for (int i = 85_000; i < 96_000; i++)
            assertThat(y[i]).isEqualTo(x[i]);
        assertThat(y[40_010]).isCloseTo(Decibels.toFactor(-3), within(0.01));
    }

    @Test void bothChannelsGetOneGain() throws Exception {
        double[] loud = signal(20_000, n -> 2 * Math.sin(0.1 * n)), soft = signal(20_000, n -> 0.1 * Math.cos(0.1 * n));
        double[][] y = limited(44100, -1, loud, soft);
        for (int i = 5_000; i < 6_000; i++)
            assertThat(y[1][i] * loud[i]).isCloseTo(y[0][i] * soft[i], within(1e-12));
    }
}
