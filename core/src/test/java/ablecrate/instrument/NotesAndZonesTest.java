package ablecrate.instrument;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class NotesAndZonesTest {
    /// MIDI note 69 is A4, 440 Hz (ISO 16); both ways of counting octaves are in use.
    @ParameterizedTest @CsvSource({"A4,4,69", "a4,4,69", "C4,4,60", "C3,3,60", "C-1,4,0", "G9,4,127", "C#4,4,61", "Cs4,4,61", "Db4,4,61", "b3,4,59", "Bb3,4,58",
        "C♯4,4,61", "D♭4,4,61", "60,4,60", "060,3,60", "Cb4,4,59", "B#3,4,60"}) void notesAreReadByNameAndNumber(String text, int middle, int key) {
        assertThat(NoteName.parse(text, middle)).hasValue(key);
    }

    @ParameterizedTest @ValueSource(strings = {"", "H4", "C", "4C", "harp", "C##4", "1234"}) void whatIsNoNoteIsNone(String text) {
        assertThat(NoteName.parse(text, 4)).isEmpty();
    }

    @Test void everyKeyHasANameThatIsReadBack() {
        for (int key = 0; key <= 127; key++)
            assertThat(NoteName.parse(NoteName.of(key), 4)).hasValue(key);
        assertThat(NoteName.of(60)).isEqualTo("C4");
    }

    @Test void aZoneSaysOnlyWhatItWasTold() {
        Zone zone = Zone.of(3);
        assertThat(zone.said()).isEmpty();
        assertThat(zone.get(Parameter.ROOT_KEY)).isEqualTo(60);
        Zone told = zone.with(Parameter.ROOT_KEY, 60);
        assertThat(told.said(Parameter.ROOT_KEY)).hasValue(60);
        assertThat(told).as("saying the usual is saying something").isNotEqualTo(zone);
        assertThat(told.playsAs(zone)).as("but plays the same").isTrue();
        assertThat(told.without(Parameter.ROOT_KEY)).isEqualTo(zone);
        assertThat(zone.said()).as("zones do not change").isEmpty();
    }

    @ParameterizedTest @CsvSource({"60,1,true", "60,80,true", "59,80,false", "72,127,true", "73,80,false", "60,0,false"}) void aZoneCoversItsKeysAndVelocities(
            int key,
            int velocity, boolean covers) {
        assertThat(Zone.of(0).with(Parameter.KEYS, new Span(60, 72)).covers(key, velocity)).isEqualTo(covers);
    }

    @Test void valuesBeyondTheirBoundsAreRefusedWithTheirName() {
        assertThatThrownBy(() -> Zone.of(0).with(Parameter.ROOT_KEY, 128)).isInstanceOf(IllegalArgumentException.class).hasMessageContaining("root key");
        assertThatThrownBy(() -> Zone.of(0).with(Parameter.PAN, 100.5)).isInstanceOf(IllegalArgumentException.class).hasMessageContaining("pan");
        assertThatThrownBy(() -> Zone.of(0).with(Parameter.SUSTAIN, 1.0)).isInstanceOf(IllegalArgumentException.class).hasMessageContaining("sustain");
        assertThatThrownBy(() -> Zone.of(-1)).isInstanceOf(IllegalArgumentException.class);
        assertThatThrownBy(() -> new Span(5, 4)).isInstanceOf(IllegalArgumentException.class).hasMessageContaining("5");
    }

    @Test void differencesAreNamedOneByOne() {
        Zone a = Zone.of(0).with(Parameter.PAN, -20.0).with(Parameter.RELEASE, 0.5),
                b = Zone.of(0).with(Parameter.PAN, 20.0).with(Parameter.END, Optional.of(9L));
        assertThat(a.differences(b)).containsExactlyInAnyOrder(Parameter.PAN, Parameter.RELEASE, Parameter.END);
        assertThat(a.told(Parameter.PAN)).isEqualTo("pan -20.0 %");
    }

    /// Every parameter has a name of its own: jobs and tables tell them apart by it.
    @Test void parametersHaveNamesOfTheirOwn() {
        assertThat(Parameter.ALL).extracting(Parameter::label).doesNotHaveDuplicates().hasSizeGreaterThan(40);
        assertThat(Parameter.ALL).allSatisfy(p -> assertThat(usualIsAllowed(p)).as(p.label()).isTrue());
    }

    private static <T> boolean usualIsAllowed(Parameter<T> p) { return p.allows(p.usual()); }

    @Test void aTurnHasItsPlaceInItsRound() {
        assertThatThrownBy(() -> new Turn(3, 2)).isInstanceOf(IllegalArgumentException.class);
        assertThatThrownBy(() -> new Turn(0, 2)).isInstanceOf(IllegalArgumentException.class);
        assertThat(Turn.EVERY.length()).isEqualTo(1);
        assertThatThrownBy(() -> new Chance(0.5, 1.5)).isInstanceOf(IllegalArgumentException.class);
    }

    @Test void groupsKeepTheOrderOfTheirZones() {
        Instrument instrument = new Instrument(About.named("Harp"), Optional.empty(),
                List.of(new ZoneGroup("a", List.of(Zone.of(0), Zone.of(1))), new ZoneGroup("b", List.of(Zone.of(2)))));
        assertThat(instrument.zones()).extracting(Zone::sample).containsExactly(0, 1, 2);
        Instrument without = instrument.mapZones(z -> z.sample() == 1 ? List.of() : List.of(z.withSample(z.sample() + 5)));
        assertThat(without.zones()).extracting(Zone::sample).containsExactly(5, 7);
        assertThat(without.groups()).extracting(ZoneGroup::name).containsExactly("a", "b");
    }
}
