package ablecrate.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ablecrate.audio.Depth;
import ablecrate.codec.Quality;
import ablecrate.destination.ChannelChoice;
import ablecrate.destination.DestinationSheet.Keeps;
import ablecrate.dsp.Dither;
import ablecrate.dsp.FadeShape;
import ablecrate.dsp.LevelMeasure;
import ablecrate.format.names.NamePart;
import ablecrate.format.names.NameReading;
import ablecrate.option.Banks;
import ablecrate.option.CeilingBy;
import ablecrate.option.Choice;
import ablecrate.option.ExistingFiles;
import ablecrate.option.MetadataChoice;
import ablecrate.option.KeyGaps;
import ablecrate.option.KitLayout;
import ablecrate.option.LevelTarget;
import ablecrate.option.MapBy;
import ablecrate.option.Mending;
import ablecrate.option.MonoLaw;
import ablecrate.option.OptionConflict;
import ablecrate.option.PackOptions;
import ablecrate.option.Treatment;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import picocli.CommandLine;

/// What the words of the command line mean.
class OptionsTest {
    private static PackOptions options(String... words) throws OptionConflict { return on(PackOptions.DEFAULT, words); }

    private static PackOptions on(PackOptions base, String... words) throws OptionConflict {
        OptionsMixin mixin = new OptionsMixin();
        new CommandLine(new Holder(mixin)).setCaseInsensitiveEnumValuesAllowed(true).parseArgs(words);
        return mixin.options(base);
    }

    @CommandLine.Command private record Holder(@CommandLine.Mixin OptionsMixin options) {}

    @Test void whatIsNotSaidStaysAsItWas() throws Exception {
        assertThat(options()).isEqualTo(PackOptions.DEFAULT);
        PackOptions base = options("--rate", "48000", "--level", "lufs-m:-16", "--metadata", "loops", "--banks", "each", "--name-part", "2=key", "--check");
        assertThat(on(base)).isEqualTo(base);
        assertThat(on(base, "--depth", "24")).isEqualTo(base.withDepth(Choice.of(Depth.INT_24)));
    }

    @Test void shapesOfAudio() throws Exception {
        PackOptions o = options("--container", "flac", "--rate", "keep", "--depth", "32f", "--channels", "split", "--mono", "left", "--dither", "shaped");
        assertThat(o.container()).isEqualTo(Choice.of("flac"));
        assertThat(o.rateHz()).isEqualTo(Choice.keep());
        assertThat(o.depth()).isEqualTo(Choice.of(Depth.FLOAT_32));
        assertThat(o.channels()).contains(ChannelChoice.SPLIT);
        assertThat(o.monoLaw()).isEqualTo(MonoLaw.LEFT);
        assertThat(o.dither()).isEqualTo(Dither.SHAPED);
    }

    @Test void placesAndNames() throws Exception {
        PackOptions o = options("--name", "(number..) (name)", "--existing", "number", "--mirror");
        assertThat(o.namePattern()).contains("(number..) (name)");
        assertThat(o.existing()).isEqualTo(ExistingFiles.NUMBER);
        assertThat(o.mirror()).contains(true);
    }

    @Test void levelsFadesAndTrims() throws Exception {
        Treatment t = options("--level", "truepeak:-3", "--together", "--ceiling", "-0.5", "--ceiling-by", "gain", "--fade-in", "3", "--fade-in-shape", "s",
                "--fade-out", "150", "--trim", "-60", "--dc", "--loop-crossfade", "20").treatment();
        assertThat(t.level()).contains(new LevelTarget(LevelMeasure.TRUE_PEAK, -3));
        assertThat(t.together()).isTrue();
        assertThat(t.ceilingDbtp()).contains(-0.5);
        assertThat(t.ceilingBy()).isEqualTo(CeilingBy.GAIN);
        assertThat(t.fadeIn().ms()).isEqualTo(3);
        assertThat(t.fadeIn().shape()).isEqualTo(FadeShape.byId("s").orElseThrow());
        assertThat(t.fadeOut().ms()).isEqualTo(150);
        assertThat(t.trimDbfs()).contains(-60.0);
        assertThat(t.removesOffset()).isTrue();
        assertThat(t.loopCrossfadeMs()).isEqualTo(20);
        assertThat(options("--level", "lufs-i:-23", "--ceiling", "none").treatment().ceilingDbtp()).isEmpty();
        assertThat(options("--level", "peak:-3").treatment().ceilingDbtp()).as("a peak needs no ceiling").isEmpty();
    }

    @Test void instruments() throws Exception {
        PackOptions o = options("--map", "names", "--gaps", "down", "--start-key", "C2", "--kit-step", "3", "--one-kit", "--banks", "each", "--instrument",
                "Harp",
                "--instrument", "Organ",
                "--no-playing-defaults", "--middle-c", "c3", "--name-part", "-1=turn", "--name-part", "2=nothing");
        assertThat(o.instruments().mapBy()).isEqualTo(MapBy.NAMES);
        assertThat(o.instruments().gaps()).isEqualTo(KeyGaps.DOWN);
        assertThat(o.instruments().kit()).isEqualTo(new KitLayout(36, 3, true));
        assertThat(o.instruments().banks()).isEqualTo(Banks.EACH);
        assertThat(o.instruments().only()).containsExactly("Harp", "Organ");
        assertThat(o.instruments().playing().defaults()).isFalse();
        assertThat(o.instruments().names()).isEqualTo(new NameReading(Map.of(-1, NamePart.TURN, 2, NamePart.NOTHING), OptionalInt.of(12)));
        assertThat(options("--banks", "one").instruments().banks()).isEqualTo(Banks.ONE);
    }

    @ParameterizedTest @CsvSource({"heard,", "c3,12", "c4,0", "c5,-12"}) void middleC(String said, Integer shift) throws Exception {
        assertThat(options("--middle-c", said).instruments().names().shiftKeys()).isEqualTo(shift == null ? OptionalInt.empty() : OptionalInt.of(shift));
    }

    @Test void factsQualityAndMending() throws Exception {
        assertThat(options("--metadata", "all").metadata()).isEqualTo(MetadataChoice.ALL);
        assertThat(options("--metadata", "as-they-are").metadata()).isEqualTo(MetadataChoice.AS_THEY_ARE);
        assertThat(options("--metadata", "none").metadata().written()).isEqualTo(new Keeps(false, false, false, false, false));
        assertThat(options("--metadata", "loops,texts").metadata().written()).isEqualTo(new Keeps(true, false, false, false, true));
        assertThat(options("--quality", "small").quality()).isEqualTo(Quality.of(Quality.Word.SMALL));
        assertThat(options("--bit-rate", "192").quality()).isEqualTo(Quality.constant(192));
        assertThat(options("--check", "--line-up").mending()).isEqualTo(Mending.NONE.withLooking(true).withLikelyDelay(true));
        assertThat(options("--mend-clicks").mending().mendsClicks()).isTrue();
    }

    @ParameterizedTest @ValueSource(strings = {"--container zip", "--rate 12", "--depth 17", "--channels five", "--level loud:-3", "--level peak:loud",
        "--level peak:99",
        "--ceiling high", "--fade-in -3", "--fade-in 99999", "--fade-in-shape wild", "--start-key H9", "--start-key 128", "--kit-step 0", "--kit-step 13",
        "--middle-c c6", "--name-part 0=key",
        "--name-part 1=colour", "--metadata loops,colour", "--quality fair", "--bit-rate 4", "--banks two",
        "--mirror --no-mirror"}) void whatMakesNoSenseIsRefusedByName(
                String words) {
        assertThatThrownBy(() -> {
            PackOptions o = options(words.split(" "));
            // Which containers there are is known where a destination is.
            if (o.container() instanceof Choice.Of<String>(String id) && id.equals("zip"))
                ablecrate.planner.Planner.plan(java.util.List.of(), new ablecrate.destination.SheetCatalogue().find("files"), o);
        }).isInstanceOf(OptionConflict.class).hasMessageContaining(words.split(" ")[words.startsWith("--container") ? 1 : 0]);
    }

    @Test void optionsAreOfOneKindEach() {
        assertThat(Optional.of(CommandLine.Model.CommandSpec.forAnnotatedObject(new Holder(new OptionsMixin())))).hasValueSatisfying(spec -> assertThat(spec
                .options()).extracting(o -> o.longestName()).doesNotHaveDuplicates().allMatch(n -> n.matches("--[a-z-]+")).hasSizeGreaterThan(30));
    }
}
