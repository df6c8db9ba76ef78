package ablecrate.dsp;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Random;
import org.junit.jupiter.api.Test;

class TriangularNoiseTest {
    private static final int SAMPLES = 1 << 20;

    private static double[] noise(int stream) {
        double[] x = new double[SAMPLES];
        new TriangularNoise(stream).addTo(x, SAMPLES, 1);
        return x;
    }

    /// The sum of two uniform numbers of ±½: variance 1/6, fourth moment 1/15, and P(|x| > a) = (1 − a)². Elementary, by integration.
    @Test void itsValuesHaveATriangularDensity() {
        double mean = 0, variance = 0, fourth = 0;
        int[] beyond = new int[10];
        for (double v : noise(0)) {
            assertThat(Math.abs(v)).isLessThanOrEqualTo(1);
            mean += v / SAMPLES;
            variance += v * v / SAMPLES;
            fourth += v * v * v * v / SAMPLES;
            for (int tenth = 0; tenth < 10; tenth++)
                if (Math.abs(v) > tenth / 10.0) beyond[tenth]++;
        }
        // Five times the scatter that so many independent values have.
        assertThat(mean).isCloseTo(0, within(0.002));
        assertThat(variance).isCloseTo(1 / 6.0, within(0.001));
        assertThat(fourth).isCloseTo(1 / 15.0, within(0.001));
        for (int tenth = 0; tenth < 10; tenth++)
            assertThat((double) beyond[tenth] / SAMPLES).as("beyond 0." + tenth).isCloseTo(Math.pow(1 - tenth / 10.0, 2), within(0.0025));
    }

    /// White: no value tells of another, near or as far as the generators are many.
    @Test void itsValuesHaveNothingToDoWithEachOther() {
        double[] x = noise(1);
        for (int lag : new int[]{1, 2, 3, 7, 13, 17, 64, 255, 256, 257, 512, 1024, 4096})
            assertThat(correlation(x, x, lag)).as("lag " + lag).isCloseTo(0, within(0.006));
    }

    @Test void channelsHaveNothingToDoWithEachOther() {
        double[] x = noise(0), y = noise(1);
        for (int lag : new int[]{0, 1, 256})
            assertThat(correlation(x, y, lag)).as("lag " + lag).isCloseTo(0, within(0.006));
    }

    private static double correlation(double[] x, double[] y, int lag) {
        double sum = 0;
        for (int n = lag; n < SAMPLES; n++)
            sum += x[n] * y[n - lag];
        return sum * 6 / SAMPLES;
    }

    @Test void piecesOfAnySizeMakeTheSameNoise() {
        double[] whole = noise(2), pieces = new double[SAMPLES];
        TriangularNoise noise = new TriangularNoise(2);
        Random random = new Random(3);
        for (int at = 0; at < SAMPLES;) {
            int n = Math.min(SAMPLES - at, random.nextInt(1, 5000));
            if (n < 20)
                for (int i = 0; i < n; i++)
                    pieces[at + i] = noise.next();
            else {
                double[] piece = new double[n];
                noise.addTo(piece, n, 1);
                System.arraycopy(piece, 0, pieces, at, n);
            }
            at += n;
        }
        assertThat(pieces).isEqualTo(whole);
    }
}
