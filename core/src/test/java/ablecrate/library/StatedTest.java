package ablecrate.library;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.TextField;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class StatedTest {
    @TempDir Path folder;

    private Gathered sound(String name, Map<TextField, String> texts) throws Exception {
        Path file = Sounds.write(folder.resolve(name), "flac", 8000, Depth.INT_16, SoundMetadata.NONE.withTexts(texts), new double[40_000]);
        return Gatherer.readAll(Gatherer.find(List.of(file), () -> false)).getFirst();
    }

    /// A file's own text goes before its name, and that before its folder's.
    @Test void tempoIsTakenFromTextsThenNames() throws Exception {
        assertThat(Stated.tempo(sound("90 bpm/loop 120bpm.flac", Map.of(TextField.TEMPO, "96", TextField.MUSICAL_KEY, "Am")))).contains(96.0);
        assertThat(Stated.key(sound("90 bpm/loop 120bpm.flac", Map.of(TextField.MUSICAL_KEY, "Am")))).contains("Am");
        assertThat(Stated.tempo(sound("90 bpm/loop 120bpm.flac", Map.of()))).contains(120.0);
        assertThat(Stated.tempo(sound("90 bpm/loop.flac", Map.of()))).contains(90.0);
        assertThat(Stated.tempo(sound("loop 07.flac", Map.of()))).isEmpty();
    }

    /// Five seconds at 96 beats a minute are eight beats, two bars of 4/4.
    @Test void barsFollowFromLengthAndTempo() throws Exception {
        assertThat(Stated.bars(sound("loop 96 bpm.flac", Map.of())).orElseThrow()).isCloseTo(2, within(1e-9));
    }

    @ParameterizedTest @CsvSource({"120,120,true", "60,120,true", "240,120,true", "123,120,true", "117,120,true", "124,120,false", "90,120,false",
        "61.5,120,true"}) void whatFitsGoesAlongAtTheSpeedHalfOrTwice(double bpm, double wanted, boolean fits) {
        assertThat(Stated.fits(bpm, wanted)).isEqualTo(fits);
    }
}
