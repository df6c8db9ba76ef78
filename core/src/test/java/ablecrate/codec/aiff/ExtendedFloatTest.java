package ablecrate.codec.aiff;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HexFormat;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// Source: Apple, *Audio Interchange File Format 1.3* (1989), the rate in `COMM`: an 80-bit IEEE extended number; from memory.
class ExtendedFloatTest {
    @ParameterizedTest @CsvSource({"44100,400EAC44000000000000", "48000,400EBB80000000000000", "22050,400DAC44000000000000", "96000,400FBB80000000000000",
        "8000,400BFA00000000000000", "1,3FFF8000000000000000"}) void ratesAreTheKnownBytes(long rateHz, String hex) {
        assertThat(HexFormat.of().withUpperCase().formatHex(ExtendedFloat.write(rateHz))).isEqualTo(hex);
        assertThat(ExtendedFloat.read(HexFormat.of().parseHex(hex))).isEqualTo(rateHz);
    }

    @Test void everyRateComesBack() {
        for (long rateHz = 1; rateHz < 1_000_000; rateHz += 37)
            assertThat(ExtendedFloat.read(ExtendedFloat.write(rateHz))).isEqualTo(rateHz);
    }

    @ParameterizedTest @CsvSource({"00000000000000000000,0", "400D8000000000000001,16384"}) void oddNumbersAreReadAsNearAsADoubleIs(String hex, double value) {
        assertThat(ExtendedFloat.read(HexFormat.of().parseHex(hex))).isEqualTo(value);
    }
}
