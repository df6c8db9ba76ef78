package ablecrate.planner.instrument;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.instrument.About;
import ablecrate.instrument.Instrument;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class PlayingDefaultsTest {
    /// The name or the category suggests the kind; drums and what nothing is known of get no release.
    @ParameterizedTest @CsvSource({"Bottle Organ,,an organ,0.08", "Wind-up Harp,,a plucked instrument,0.35", "Glass Marimba,,mallets,0.6",
        "Tin Kitchen,,a drum kit,", "orchard 4,strings,strings,0.3", "Night pad,,a pad,0.8", "Gadget 12,,something else,", "Epiano soft,,a keyboard,0.25",
        "Padlock,,a pad,0.8", "Unorganised,,something else,"}) void theKindIsGuessedFromNames(String name, String category, String kind, Double seconds) {
        About about = About.named(name).with(About.Field.CATEGORY, category == null ? "" : category);
        Instrument instrument = new Instrument(about, Optional.empty(), List.of());
        assertThat(PlayingDefaults.kind(instrument)).isEqualTo(kind);
        assertThat(PlayingDefaults.releaseSeconds(instrument)).isEqualTo(Optional.ofNullable(seconds));
    }
}
