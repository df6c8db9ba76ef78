package ablecrate.dsp;

import static ablecrate.Sounds.db;
import static ablecrate.Sounds.signal;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Sounds;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class OversamplerTest {
    private static final int FRAMES = 2000;

    /// What lies between the samples of a sine is that sine; the error stays below what a reading of peaks may have (BS.1770-5, annex 2: 0.2 dB at
    /// four times and 20 kHz of 48; here 0.05 dB up to there).
    @ParameterizedTest @ValueSource(doubles = {0.001, 0.02, 0.1, 0.2, 0.25, 0.3, 0.375, 20.0 / 48}) void pointsBetweenSamplesAreThoseOfTheSine(
            double cyclesPerSample) {
        double[] x = signal(FRAMES, n -> Math.sin(2 * Math.PI * cyclesPerSample * n + 0.4));
        double[][] points = new Oversampler(1500).between(x, 100, 1500);
        double error = 0;
        for (int phase = 1; phase < Oversampler.FACTOR; phase++)
            for (int i = 0; i < 1500; i++) {
                double exact = Math.sin(2 * Math.PI * cyclesPerSample * (100 + i + (double) phase / Oversampler.FACTOR) + 0.4);
                error = Math.max(error, Math.abs(points[phase - 1][i] - exact));
            }
        assertThat(db(1 + error)).isLessThan(0.05);
    }

    @Test void piecesOfAnySizeGiveTheSamePoints() {
        double[] x = new Random(1).doubles(FRAMES, -1, 1).toArray();
        double[][] whole = new Oversampler(1500).between(x, 100, 1500);
        Oversampler pieces = new Oversampler(200);
        for (int at = 0, n; at < 1500; at += n) {
            n = Math.min(1500 - at, 1 + at % 200);
            double[][] points = pieces.between(x, 100 + at, n);
            for (int phase = 0; phase < whole.length; phase++)
                for (int i = 0; i < n; i++)
                    assertThat(points[phase][i]).isEqualTo(whole[phase][at + i]);
        }
    }

    /// No point is further out than the bound says of the samples around it, and the bound is no idle one: the worst signs come near it.
    @Test void theBoundHolds() {
        Random random = new Random(2);
        Oversampler oversampler = new Oversampler(1);
        double farthest = 0;
        for (int round = 0; round < 20_000; round++) {
            double[] x = new double[Oversampler.BEFORE + 1 + Oversampler.AFTER];
            for (int i = 0; i < x.length; i++)
                x[i] = random.nextBoolean() ? 1 : -1;
            for (double[] point : oversampler.between(x, Oversampler.BEFORE, 1))
                farthest = Math.max(farthest, Math.abs(point[0]));
        }
        double[] worst = new double[Oversampler.BEFORE + 1 + Oversampler.AFTER];
        for (int i = 0; i < worst.length; i++) // the signs of a sinc at one half
            worst[i] = Math.signum(Math.sin(Math.PI * (i - Oversampler.BEFORE - 0.5)) / (i - Oversampler.BEFORE - 0.5));
        double reached = Math.abs(oversampler.between(worst, Oversampler.BEFORE, 1)[1][0]);
        assertThat(farthest).isLessThanOrEqualTo(Oversampler.BOUND);
        assertThat(reached).isBetween(Oversampler.BOUND / (Oversampler.NEAR * 1.05), Oversampler.BOUND);
    }

    /// Where a sound reaches up to Nyquist as well: white noise, and tones at 0.47 and 0.49 of the rate, against sums over all of the signal (a sinc without
    /// a window, sixteen points a sample).
    @Test void truePeaksAreTrueUpToNyquist() {
        Random random = new Random(3);
        int frames = 3000;
        double[] noise = Sounds.signal(frames, _ -> Math.clamp(0.3 * random.nextGaussian(), -1, 1));
        for (double[] x : List.of(noise, Sounds.sine(0.47 * 48_000, 0.9, 48_000, frames),
                Sounds.sine(0.49 * 48_000, 0.9, 48_000, frames))) {
            // Faded, as all of the signal has to be in sight.
            for (int i = 0; i < frames; i++)
                x[i] *= Math.sin(Math.PI * (i + 0.5) / frames);
            PeakMeter meter = new PeakMeter();
            meter.add(x, 0, frames);
            meter.finish();
            assertThat(Sounds.db(meter.truePeak() / ideal(x))).isCloseTo(0, within(x == noise ? 0.2 : 0.04));
        }
    }

    private static double ideal(double[] x) {
        double highest = 0;
        for (int at = 0; at < 16 * x.length; at++) {
            double t = at / 16.0, sum = 0;
            if (at % 16 == 0)
                sum = x[at / 16];
            else {
                // sin π(t − n) is sin πt, its sign turned with each n.
                for (int n = 0; n < x.length; n++)
                    sum += (n % 2 == 0 ? x[n] : -x[n]) / (t - n);
                sum *= Math.sin(Math.PI * t) / Math.PI;
            }
            highest = Math.max(highest, Math.abs(sum));
        }
        return highest;
    }

    @Test void theTopOfAParabolaIsItsTop() {
        // y = 2 − (x − 0.3)², at −1, 0, 1
        assertThat(Oversampler.top(2 - 1.69, 2 - 0.09, 2 - 0.49)).isCloseTo(2, within(1e-12));
        assertThat(Oversampler.top(1, 1, 1)).isEqualTo(1);
    }
}
