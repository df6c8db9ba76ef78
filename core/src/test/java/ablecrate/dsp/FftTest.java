package ablecrate.dsp;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class FftTest {
    private static final int ROWS = 12;

    /// Against the definition, for columns of every radix.
    @ParameterizedTest @ValueSource(ints = {1, 2, 3, 4, 5, 7, 8, 15, 21, 49, 147}) void itIsTheTransformOfItsDefinition(int columns) {
        int length = ROWS * columns;
        double[] re = noise(1, length), im = noise(2, length);
        ComplexRows from = rows(re, im, ROWS), to = new ComplexRows(columns, ROWS);
        new Fft(ROWS, columns).forward(from, to);
        double[] r = numbers(to.re()), m = numbers(to.im());
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

    @ParameterizedTest @CsvSource({"64,147", "160,64", "16,441"}) void backwardUndoesForward(int rows, int columns) {
        int length = rows * columns;
        double[] re = noise(1, length), im = noise(2, length);
        ComplexRows there = rows(re, im, rows), spectrum = new ComplexRows(columns, rows), back = new ComplexRows(rows, columns);
        new Fft(rows, columns).forward(there, spectrum);
        new Fft(columns, rows).backward(spectrum, back);
        double[] r = numbers(back.re()), m = numbers(back.im());
        for (int n = 0; n < length; n++) {
            assertThat(r[n] / length).isCloseTo(re[n], within(1e-14));
            assertThat(m[n] / length).isCloseTo(im[n], within(1e-14));
        }
    }

    private static double[] noise(int seed, int length) { return new Random(seed).doubles(length, -1, 1).toArray(); }

    private static ComplexRows rows(double[] re, double[] im, int rows) {
        ComplexRows x = new ComplexRows(rows, re.length / rows);
        ComplexRows.spread(re, 0, x.re());
        ComplexRows.spread(im, 0, x.im());
        return x;
    }

    private static double[] numbers(double[][] rows) {
        double[] all = new double[rows.length * rows[0].length];
        ComplexRows.gather(rows, 0, all.length, all, 0);
        return all;
    }

    @Test void onlyProductsOfSmallPrimesArePossible() {
        assertThat(Fft.isPossible(16 * 7 * 5)).isTrue();
        assertThat(Fft.isPossible(16 * 11)).isFalse();
        assertThat(Fft.isPossible(0)).isFalse();
    }
}
