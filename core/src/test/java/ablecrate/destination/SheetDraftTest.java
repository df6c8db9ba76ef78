package ablecrate.destination;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;

/// A sheet while it is written.
class SheetDraftTest {
    static Stream<DestinationSheet> shipped() { return new SheetCatalogue().builtIn().stream(); }

    private static SheetDraft.Field field(String path) {
        return SheetDraft.fields().stream().filter(f -> f.path().equals(path)).findFirst().orElseThrow();
    }

    /// Each field is set to the text that it shows, which must change nothing.
    @ParameterizedTest @MethodSource("shipped") void everySheetThatShipsGoesThroughItsFields(DestinationSheet sheet) {
        SheetDraft draft = SheetDraft.of(sheet);
        for (SheetDraft.Field field : SheetDraft.fields())
            draft.set(field, draft.text(field.path()));
        assertThat(draft.fault()).isEmpty();
        assertThat(draft.sheet()).contains(sheet);
    }

    @Test void everyFieldHasWordsForPeople() {
        assertThat(SheetDraft.fields()).hasSizeGreaterThan(35).allSatisfy(f -> assertThat(f.label()).as(f.path()).isNotBlank());
        assertThat(field("accepts.loops.modes")).returns("What it takes", SheetDraft.Field::group).returns(SheetDraft.Type.WORDS, SheetDraft.Field::type);
        assertThat(field("accepts.depths").words()).contains("16", "32f");
        assertThat(field("defaults.container").words()).contains("wav", "preset");
    }

    @ParameterizedTest @CsvSource(delimiter = '|', value = {"id|Two Words|id", "accepts.ratesHz|44100, 1|accepts.ratesHz",
        "accepts.rateRangeHz|48000|accepts.rateRangeHz",
        "names.pattern|(nonsense)|names.pattern", "layout.folder|(kit|layout.folder", "limits.layers|4|limits"}) void aFaultIsToldWithItsPlace(String path,
                String typed,
                String place) {
        SheetDraft draft = SheetDraft.of(new SheetCatalogue().byId("drum-pads").orElseThrow());
        draft.set(field(path), typed);
        assertThat(draft.fault().map(SheetDraft.Fault::path)).isEqualTo(Optional.of(place));
        assertThat(draft.sheet()).isEmpty();
    }

    @Test void whatIsNoNumberIsRefusedAndNothingIsNothingSaid() {
        SheetDraft draft = SheetDraft.of(new SheetCatalogue().byId("drum-pads").orElseThrow());
        assertThatThrownBy(() -> draft.set(field("accepts.maxSeconds"), "a minute")).isInstanceOf(IllegalArgumentException.class)
                .hasMessage("'a minute' is no number");
        assertThatThrownBy(() -> draft.set(field("names.maxLength"), "8.5")).hasMessage("'8.5' is no whole number");
        assertThatThrownBy(() -> draft.set(field("accepts.ratesHz"), "44100, 48000.5")).hasMessage("'48000.5' is no whole number");
        draft.set(field("accepts.maxSeconds"), "2.5");
        assertThat(draft.sheet().orElseThrow().accepts().maxSeconds()).isEqualTo(2.5);
        draft.set(field("accepts.maxSeconds"), "");
        assertThat(draft.sheet().orElseThrow().accepts().maxSeconds()).isZero();
    }
}
