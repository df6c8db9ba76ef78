package ablecrate.option;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ablecrate.destination.DestinationSheet;
import ablecrate.destination.SheetCatalogue;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;

/// What holds of every option, whichever it is.
class OptionsTest {
    static Stream<Option<?>> options() { return Options.ALL.stream(); }

    private static List<DestinationSheet> sheets() throws Exception {
        return List.of(new SheetCatalogue().find("files"), new SheetCatalogue().find("session"), new SheetCatalogue().find("drum-pads"), new SheetCatalogue()
                .find("four-track"));
    }

    @Test void eachHasANameOfItsOwnAndWords() {
        assertThat(Options.ALL).extracting(Option::id).doesNotHaveDuplicates().allMatch(id -> id.matches("[a-z]+(-[a-z]+)*"));
        assertThat(Options.ALL).extracting(Option::title).doesNotHaveDuplicates();
        assertThat(Options.ALL).allSatisfy(o -> assertThat(o.help()).matches("(?s)[A-Za-z−].*\\."));
    }

    /// What is told as text is read as the same value, at every destination; and what is set is what is kept.
    @ParameterizedTest @MethodSource("options") void whatIsToldIsReadAgain(Option<?> option) throws Exception {
        for (DestinationSheet sheet : sheets())
            eachValue(option, sheet);
    }

    private static <T> void eachValue(Option<T> option, DestinationSheet sheet) throws OptionConflict {
        for (T value : option.values(sheet, PackOptions.DEFAULT)) {
            PackOptions with = option.with(PackOptions.DEFAULT, value);
            assertThat((Object) option.get(with)).as(option.id()).isEqualTo(value);
            List<String> texts = option.kind().texts(value);
            // Nothing said is the value that nothing says.
            assertThat(texts.isEmpty() ? PackOptions.DEFAULT : option.said(PackOptions.DEFAULT, texts)).as("%s %s", option.id(), texts).isEqualTo(with);
            assertThat(option.kind().label(value)).as(option.id()).isNotBlank();
        }
    }

    /// Options that some destination or other option shuts are shut there, and open elsewhere.
    @ParameterizedTest @CsvSource({"rate,files,true", "rate,session,true", "rate,drum-pads,false", "on-tracks,session,true", "on-tracks,files,false",
        "mono,drum-pads,true", "first-kit,drum-pads,true", "first-kit,files,false",
        "quality,session,false", "quality,files,true", "map,files,false"}) void someAreOpenInPlaces(String id, String sheet, boolean isOpen) throws Exception {
        assertThat(Options.byId(id).orElseThrow().isOpen(new SheetCatalogue().find(sheet), PackOptions.DEFAULT)).isEqualTo(isOpen);
    }

    @Test void instrumentsBringTheirOptions() throws Exception {
        PackOptions banks = PackOptions.DEFAULT.withContainer(Choice.of("sf2"));
        assertThat(Options.byId("map").orElseThrow().isOpen(new SheetCatalogue().find("files"), banks)).isTrue();
    }

    /// Levels, ends and loops hold for chosen sounds as for all; nothing else does.
    @Test void whatIsSaidOfSoundsIsSaidOfAll() throws Exception {
        for (String[] said : new String[][]{{"level", "lufs-i:-20"}, {"ceiling", "-0.5"}, {"fade-out", "30"}, {"trim", "-60"}, {"dc", "true"},
            {"overs", "clip"}}) {
            Option<?> option = Options.byId(said[0]).orElseThrow();
            Treatment one = option.said(Treatment.NONE, List.of(said[1]));
            assertThat(option.said(PackOptions.DEFAULT, List.of(said[1])).treatment()).isEqualTo(one).isNotEqualTo(Treatment.NONE);
        }
        assertThat(Options.ofSounds()).extracting(Option::group).containsOnly(OptionGroup.LEVELS);
    }

    @ParameterizedTest @CsvSource({"ceiling,NaN", "fade-in,Infinity", "trim,3", "kit-step,0", "first-kit,1.5", "pad,0=kick",
        "limiting,-1"}) void whatIsOutOfBoundsIsTold(
                String id, String value) {
        Option<?> option = Options.byId(id).orElseThrow();
        assertThatThrownBy(() -> option.said(PackOptions.DEFAULT, List.of(value))).isInstanceOf(OptionConflict.class).hasMessageStartingWith("--" + id + ": ");
    }
}
