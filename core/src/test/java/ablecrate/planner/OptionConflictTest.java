package ablecrate.planner;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ablecrate.audio.Depth;
import ablecrate.destination.ChannelChoice;
import ablecrate.destination.DestinationSheet;
import ablecrate.destination.SheetCatalogue;
import ablecrate.option.Choice;
import ablecrate.option.OptionConflict;
import ablecrate.option.PackOptions;
import ablecrate.planner.sound.Accepted;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/// Options against what a destination takes: a conflict says what it does take, and what is left open is chosen so that the least is lost.
class OptionConflictTest {
    private static final DestinationSheet PADS = new SheetCatalogue().byId("drum-pads").orElseThrow(), ANY = new SheetCatalogue().byId("files").orElseThrow();
    private static final PackOptions NONE = PackOptions.DEFAULT;

    static Stream<Arguments> conflicts() {
        return Stream.of(Arguments.of(NONE.withRate(Choice.of(48_000)), "drum-pads does not take 48000 Hz; it takes 44100"),
                Arguments.of(NONE.withDepth(Choice.of(Depth.INT_24)), "drum-pads does not take depth 24; it takes 16"),
                Arguments.of(NONE.withContainer(Choice.of("aiff")), "aiff"), Arguments.of(NONE.withNamePattern(Optional.of("(nmae)")), "no word 'nmae'"),
                Arguments.of(NONE.withNamePattern(Optional.of("(name")), "never closed"));
    }

    @ParameterizedTest @MethodSource("conflicts") void aConflictSaysWhatIsTaken(PackOptions options, String told) {
        assertThatThrownBy(() -> Planner.plan(List.of(), PADS, options)).isInstanceOf(OptionConflict.class).hasMessageContaining(told);
    }

    @Test void whatIsTakenIsNoConflict() {
        for (PackOptions options : List.of(NONE, NONE.withRate(Choice.of(44_100)), NONE.withDepth(Choice.of(Depth.INT_16)), NONE.withRate(Choice.keep()),
                NONE.withChannels(Optional.of(ChannelChoice.SPLIT)), NONE.withContainer(Choice.of("wav"))))
            assertThatCode(() -> Planner.plan(List.of(), PADS, options)).doesNotThrowAnyException();
    }

    private static DestinationSheet taking(List<Integer> ratesHz, List<String> depths) {
        return new DestinationSheet("own", "Own", "", new DestinationSheet.Accepts(List.of(), List.of(), ratesHz, depths, List.of(), 0, null, null),
                DestinationSheet.Defaults.NONE, ANY.names(), ANY.layout(), ANY.keeps(), ANY.limits(), ANY.card(), null);
    }

    /// The nearest rate and depth that lose nothing, and where all lose, the highest.
    @Test void whatIsLeftOpenLosesTheLeast() throws OptionConflict {
        Accepted rates = Accepted.of(taking(List.of(22_050, 44_100, 96_000), List.of("16", "24")), NONE, Optional.empty());
        assertThat(Stream.of(8000, 22_050, 32_000, 48_000, 96_000, 192_000).map(rates::rateHz)).containsExactly(22_050, 22_050, 44_100, 96_000, 96_000, 96_000);
        assertThat(Stream.of(Depth.INT_8, Depth.INT_16, Depth.INT_24, Depth.INT_32, Depth.FLOAT_32).map(rates::depth)).containsExactly(Depth.INT_16,
                Depth.INT_16,
                Depth.INT_24, Depth.INT_24, Depth.INT_24);
        Accepted any = Accepted.of(taking(List.of(), List.of()), NONE, Optional.empty());
        assertThat(any.rateHz(11_025)).isEqualTo(11_025);
        assertThat(any.depth(Depth.FLOAT_64)).isEqualTo(Depth.FLOAT_64);
        assertThat(any.container("aiff").id()).isEqualTo("aiff");
        assertThat(any.container("caf").id()).as("one that is only read becomes the first that is written").isEqualTo("wav");
        assertThat(Accepted.of(ANY, NONE.withContainer(Choice.of("sfz")), Optional.empty()).container("aiff").id())
                .as("chosen for instruments: sounds beside them stay")
                .isEqualTo("aiff");
    }
}
