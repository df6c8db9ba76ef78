package ablecrate.dsp;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Random;
import org.junit.jupiter.api.Test;

class CorrelationTest {
    /// Held against the sums themselves, in one channel and in two.
    @Test void itIsTheSumsThemselves() {
        Random random = new Random(2);
        double[][] planes = new double[2][700];
        for (double[] plane : planes)
            for (int i = 0; i < plane.length; i++)
                plane[i] = random.nextGaussian();
        for (double[][] x : new double[][][]{planes, {planes[0]}}) {
            int from = 333, count = 91;
            double[] likeness = new Correlation(x, 100).with(from, count);
            assertThat(likeness).hasSize(700 - 91 + 1);
            for (int at = 0; at < likeness.length; at += 7) {
                double product = 0, a = 0, b = 0;
                for (double[] plane : x)
                    for (int i = 0; i < count; i++) {
                        product += plane[at + i] * plane[from + i];
                        a += plane[at + i] * plane[at + i];
                        b += plane[from + i] * plane[from + i];
                    }
                assertThat(likeness[at]).isCloseTo(product / Math.sqrt(a * b), within(1e-9));
            }
            assertThat(likeness[from]).isCloseTo(1, within(1e-9));
        }
    }
}
