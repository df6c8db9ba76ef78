package ablecrate.planner.instrument;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Fixtures;
import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.change.Change;
import ablecrate.change.Verdict;
import ablecrate.destination.ChannelChoice;
import ablecrate.destination.SheetCatalogue;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Turn;
import ablecrate.instrument.Zone;
import ablecrate.library.Gathered;
import ablecrate.library.Gatherer;
import ablecrate.option.Choice;
import ablecrate.option.InstrumentOptions;
import ablecrate.option.PackOptions;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PackingList;
import ablecrate.plan.PlannedOutput;
import ablecrate.planner.Planner;
import ablecrate.signal.ChannelMix;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/// What the packing list says of instruments before anything is written.
class InstrumentPlanTest {
    @TempDir Path folder;

    private PackingItem plan(String sfz, String container) throws Exception {
        Sounds.wav(folder.resolve("a.wav"), 44_100, Depth.INT_16, Sounds.sine(440, 0.5, 44_100, 5000));
        Sounds.wav(folder.resolve("b.wav"), 44_100, Depth.INT_16, Sounds.sine(330, 0.5, 44_100, 5000));
        Path file = Files.writeString(folder.resolve("harp.sfz"), sfz);
        List<Gathered> gathered = Gatherer.readAll(Gatherer.find(List.of(folder), () -> false));
        PackingList list = Planner.plan(gathered, new SheetCatalogue().find("files"), PackOptions.DEFAULT.withContainer(Choice.of(container)));
        assertThat(list.items()).as("the sounds go with the instrument, not once more by themselves").hasSize(1);
        assertThat(list.items().getFirst().source().path()).isEqualTo(file);
        return list.items().getFirst();
    }

    private static String reasons(PackingItem item) { return item.changes().stream().map(Change::reason).collect(Collectors.joining("\n")); }

    /// Two layers that fade into each other over velocities 60…80 meet at 70.
    @Test void crossfadesBecomeStrictSplitsAtTheMiddle() throws Exception {
        PackingItem item = plan(
                "<region> sample=a.wav lovel=1 hivel=80 xfout_lovel=60 xfout_hivel=80 <region> sample=b.wav lovel=60 hivel=127 xfin_lovel=60 xfin_hivel=80",
                "sf2");
        List<Zone> zones = item.maps().getFirst().instruments().getFirst().zones();
        assertThat(zones).extracting(z -> z.get(Parameter.VELOCITIES)).containsExactly(new Span(1, 70), new Span(71, 127));
        assertThat(item.verdict()).isEqualTo(Verdict.REDUCED);
        assertThat(reasons(item)).contains("strict splits at the middle");
        assertThat(plan(Files.readString(folder.resolve("harp.sfz")), "sfz").maps().getFirst().instruments().getFirst().zones().getFirst()
                .get(Parameter.VELOCITY_FADE_OUT)).isPresent();
    }

    @Test void ofARoundRobinTheFirstTurnStays() throws Exception {
        PackingItem item = plan("<group> seq_length=2 <region> sample=a.wav seq_position=1 <region> sample=b.wav seq_position=2", "dls");
        assertThat(item.maps().getFirst().instruments().getFirst().zones()).hasSize(1);
        assertThat(item.outputs()).as("the sound of the other turn is not carried for nothing").hasSize(1);
        assertThat(reasons(item)).contains("1 zone left out: later turns of round robins");
    }

    /// A key that has no first turn keeps the one that it has.
    @Test void noKeyFallsSilentForItsTurn() throws Exception {
        PackingItem item = plan(
                "<group> seq_length=3 <region> sample=a.wav key=60 seq_position=1 <region> sample=b.wav key=60 seq_position=2 <region> sample=b.wav key=62 seq_position=3 <region> sample=b.wav lokey=58 hikey=60 seq_position=3",
                "dls");
        assertThat(item.maps().getFirst().instruments().getFirst().zones()).extracting(z -> z.get(Parameter.KEYS).low(), z -> z.get(Parameter.TURN))
                .containsExactly(tuple(60, Turn.EVERY), tuple(62, Turn.EVERY));
        assertThat(reasons(item)).as("none sounds together with a first turn").contains("2 zones left out: later turns of round robins");
    }

    @Test void noKeyFallsSilentForItsShareOfARandomChoice() throws Exception {
        PackingItem item = plan(
                "<region> sample=a.wav key=60 lorand=0 hirand=0.5 <region> sample=b.wav key=60 lorand=0.5 hirand=1 <region> sample=b.wav key=62 lorand=0.5 hirand=1",
                "dls");
        assertThat(item.maps().getFirst().instruments().getFirst().zones()).extracting(z -> z.get(Parameter.KEYS).low(), Zone::sample)
                .containsExactly(tuple(60, 0), tuple(62, 1));
        assertThat(reasons(item)).contains("1 zone left out: further choices at random");
    }

    /// A stereo sound taken apart plays as before: its first channel on the left, its second on the right.
    @Test void sidesOfASplitSoundLieLeftAndRight() throws Exception {
        double[] left = Sounds.sine(440, 0.5, 44_100, 5000), right = Sounds.sine(330, 0.5, 44_100, 5000);
        Sounds.wav(folder.resolve("wide.wav"), 44_100, Depth.INT_16, left, right);
        Files.writeString(folder.resolve("harp.sfz"), "<region> sample=wide.wav");
        PackOptions split = PackOptions.DEFAULT.withContainer(Choice.of("sfz")).withChannels(Optional.of(ChannelChoice.SPLIT));
        PackingItem item = Planner.plan(Gatherer.readAll(Gatherer.find(List.of(folder), () -> false)), new SheetCatalogue().find("files"), split).items()
                .getFirst();
        List<Zone> zones = item.maps().getFirst().instruments().getFirst().zones();
        assertThat(zones).extracting(z -> z.get(Parameter.PAN)).containsExactly(-100.0, 100.0);
        assertThat(zones).extracting(z -> item.outputs().get(z.sample()).sourceChain().mix()).containsExactly(ChannelMix.only(0, 2), ChannelMix.only(1, 2));
    }

    @Test void gainsThatCannotBeRaisedAreLoweredTogether() throws Exception {
        PackingItem item = plan("<region> sample=a.wav volume=4 <region> sample=b.wav volume=-2 key=62", "sf2");
        assertThat(reasons(item)).contains("4.0 dB softer, so that their steps stay");
        assertThat(item.maps().getFirst().instruments().getFirst().zones()).extracting(z -> z.get(Parameter.GAIN)).containsExactly(0.0, -6.0);
    }

    @ParameterizedTest @ValueSource(strings = {"sf2", "dls"}) void aOneShotSoundsToItsEndWithoutAWordForIt(String format) throws Exception {
        PackingItem item = plan("<region> sample=a.wav loop_mode=one_shot <region> sample=b.wav key=62 ampeg_release=0.5", format);
        assertThat(reasons(item)).contains("one-shot in 1 zone becomes a release of 100 s, so that they sound to their end").doesNotContain("release moved");
        assertThat(item.maps().getFirst().instruments().getFirst().zones()).extracting(z -> z.get(Parameter.RELEASE))
                .satisfiesExactly(r -> assertThat(r).isCloseTo(100, within(0.05)), r -> assertThat(r).isCloseTo(0.5, within(0.001)));
    }

    @Test void problemsOfTheMapAreTold() throws Exception {
        String told = reasons(plan(
                "<region> sample=a.wav lokey=40 hikey=45 <region> sample=b.wav lokey=44 hikey=50 <region> sample=a.wav lokey=60 hikey=70 hivel=90 <region> sample=gone.wav key=30",
                "sf2"));
        assertThat(told).contains("18 keys between others silent, first G1", "11 keys silent at some velocities, first C4", "1 pair of zones overlap",
                "1 zone left out: 'gone.wav'");
    }

    @Test void aReleaseIsGivenWhereTheSourceHasNoneAndNeverOverWhatItSays() throws Exception {
        Files.createDirectories(folder);
        PackingItem item = plan("// name: Glass marimba\n<region> sample=a.wav key=60 <region> sample=b.wav key=61 ampeg_release=0.05", "sfz");
        assertThat(item.maps().getFirst().instruments().getFirst().zones()).extracting(z -> z.get(Parameter.RELEASE)).containsExactly(0.6, 0.05);
        assertThat(reasons(item)).contains("1 like mallets, 600 ms");
    }

    @Test void oneInstrumentOfABankCanBeChosen() throws Exception {
        List<Gathered> gathered = List
                .of(Gatherer.read(new Gathered(Fixtures.path("metadata/sf2_tiny_valid.sf2"), Path.of("tiny.sf2"), new Gathered.Content.Unread())));
        PackOptions only = PackOptions.DEFAULT.withContainer(Choice.of("sfz")).withInstruments(InstrumentOptions.DEFAULT.withOnly(List.of("tiny PRESET")));
        assertThat(Planner.plan(gathered, new SheetCatalogue().find("files"), only).items().getFirst().maps()).hasSize(1);
        PackingItem none = Planner.plan(gathered, new SheetCatalogue().find("files"), only.withInstruments(InstrumentOptions.DEFAULT.withOnly(List.of("harp"))))
                .items().getFirst();
        assertThat(none.verdict()).isEqualTo(Verdict.BLOCKED);
        assertThat(none.reason()).contains("no instrument in it has one of the names");
    }

    /// A sheet that takes sounds alone takes instruments apart, each into a folder of its own.
    @Test void aDestinationWithoutInstrumentsTakesThemApart() throws Exception {
        plan("<region> sample=a.wav key=60 <region> sample=b.wav key=61", "sfz");
        PackingItem item = Planner
                .plan(Gatherer.readAll(Gatherer.find(List.of(folder.resolve("harp.sfz")), () -> false)), new SheetCatalogue().find("session"),
                        PackOptions.DEFAULT)
                .items().getFirst();
        assertThat(item.maps()).isEmpty();
        assertThat(item.outputs()).extracting(PlannedOutput::path).containsExactly("audio/a.wav", "audio/b.wav");
        assertThat(item.outputs().getFirst().metadata().mapping().keys()).hasValue(new Span(60, 60));
    }
}
