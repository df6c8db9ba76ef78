package ablecrate.audio;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Locale;
import java.util.Random;
import org.junit.jupiter.api.Test;

class FiguresTest {
    /// Held against the JDK's formatter, which rounds what [Double#toString] says, halves away from zero.
    @Test void numbersAreToldAsTheFormatterWould() {
        Random random = new Random(7);
        for (int i = 0; i < 2000; i++) {
            int digits = i % 4;
            double number = (random.nextDouble() - 0.5) * Math.pow(10, random.nextInt(9)) + 0.001;
            if (Math.abs(number) < 0.5 * Math.pow(10, -digits)) continue;
            assertThat(Figures.decimal(number, digits)).isEqualTo(String.format(Locale.ROOT, "%,." + digits + "f", number));
            assertThat(Figures.signed(number, digits)).isEqualTo(String.format(Locale.ROOT, "%+,." + digits + "f", number));
        }
        assertThat(Figures.decimal(0.125, 2)).isEqualTo("0.13");
        assertThat(Figures.decimal(-1234.5, 0)).isEqualTo("-1,235");
        assertThat(Figures.signed(-0.001, 2)).as("nothing has no sign to lose").isEqualTo("+0.00");
        assertThat(Figures.decimal(Double.NaN, 1)).isEqualTo("NaN");
        assertThat(Figures.bytes(999_499) + ", " + Figures.bytes(5_700_000) + ", " + Figures.bytes(1_204_000_000)).isEqualTo("999 kB, 5.7 MB, 1.20 GB");
    }
}
