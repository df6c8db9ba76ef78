package ablecrate.dsp;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class FftTest {
    /// Against the definition, for lengths of every radix.
    @ParameterizedTest @ValueSource(ints = {16, 32, 48, 80, 112, 144, 240, 400, 784, 1008, 1680, 2352}) void itIsTheTransformOfItsDefinition(int length) {
        double[] re = new Random(1).doubles(length, -1, 1).toArray(), im = new Random(2).doubles(length, -1, 1).toArray(), r = re.clone(), m = im.clone();
        new Fft(length).forward(r, m, new double[length], new double[length]);
        for (int k = 0; k < length; k += 1 + length / 97) {
            double x = 0, y = 0;
            for (int n = 0; n < length; n++) {
                double angle = -2 * Math.PI * ((long) k * n % length) / length, c = Math.cos(angle), s = Math.sin(angle);
                x += re[n] * c - im[n] * s;
                y += re[n] * s + im[n] * c;
            }
            assertThat(r[k]).as("bin " + k).isCloseTo(x, within(1e-10));
            assertThat(m[k]).as("bin " + k).isCloseTo(y, within(1e-10));
        }
    }

    @ParameterizedTest @ValueSource(ints = {9408, 10240, 18816}) void backwardUndoesForward(int length) {
        double[] re = new Random(1).doubles(length, -1, 1).toArray(), im = new Random(2).doubles(length, -1, 1).toArray(), r = re.clone(), m = im.clone();
        Fft fft = new Fft(length);
        fft.forward(r, m, new double[length], new double[length]);
        fft.backward(r, m, new double[length], new double[length]);
        for (int n = 0; n < length; n++) {
            assertThat(r[n] / length).isCloseTo(re[n], within(1e-14));
            assertThat(m[n] / length).isCloseTo(im[n], within(1e-14));
        }
    }

    @Test void onlySmoothMultiplesOf16ArePossible() {
        assertThat(Fft.isPossible(16 * 7 * 5)).isTrue();
        assertThat(Fft.isPossible(16 * 11)).isFalse();
        assertThat(Fft.isPossible(24)).isFalse();
    }
}
