package ablecrate.desktop.keys;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.audio.Depth;
import ablecrate.codec.SoundFormats;
import ablecrate.codec.WholeSound;
import ablecrate.desktop.Background;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.desktop.list.PackingListModel;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.SoundFacts;
import ablecrate.instrument.Span;
import ablecrate.library.Catalogue;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// What the key bench does to zones: no gaps or overlaps unasked, nothing off the keyboard, each step taken back.
class KeysModelTest {
    @TempDir Path folder;
    private final Deque<Runnable> later = new ArrayDeque<>();
    private CrateModel crate;
    private KeysModel keys;

    /// Two groups; in the first three zones side by side and one above the middle one.
    @BeforeEach void open() throws Exception {
        WholeSound.write(folder.resolve("tone.wav"), SoundFormats.written("wav").orElseThrow(), 44_100, Depth.INT_16, SoundFacts.NONE, List.of(),
                new double[][]{new double[2000]});
        Files.writeString(folder.resolve("harp.sfz"), """
                <group> group_label=soft sample=tone.wav
                <region> lokey=40 hikey=49 hivel=60 pitch_keycenter=45
                <region> lokey=50 hikey=59 hivel=60 pitch_keycenter=55
                <region> lokey=60 hikey=69 hivel=60 pitch_keycenter=65
                <region> lokey=50 hikey=59 lovel=61 pitch_keycenter=55
                <group> sample=tone.wav
                <region> lokey=60 hikey=72 pitch_keycenter=66
                """);
        crate = new CrateModel(new Background(Runnable::run, later::add), Catalogue.none());
        PackingListModel list = new PackingListModel(crate);
        keys = new KeysModel(crate, list);
        crate.gather(List.of(folder));
        settle();
        crate.aim("files");
        settle();
        list.choose(list.all(), Optional.of(list.all().getFirst()));
    }

    private void settle() {
        while (!later.isEmpty())
            later.poll().run();
    }

    private Span keysOf(int zone) { return keys.zones().get(zone).get(Parameter.KEYS); }

    private Span velocitiesOf(int zone) { return keys.zones().get(zone).get(Parameter.VELOCITIES); }

    @Test void neighboursOfOneGroupGiveWayAndThoseOfOthersStay() {
        keys.choose(1, false);
        keys.stretch(KeysModel.Edge.HIGH_KEY, 3, false, false);
        settle();
        assertThat(keysOf(1)).isEqualTo(new Span(50, 62));
        assertThat(keysOf(2)).isEqualTo(new Span(63, 69));
        assertThat(keysOf(4)).as("another group").isEqualTo(new Span(60, 72));
        keys.stretch(KeysModel.Edge.HIGH_VELOCITY, -10, false, false);
        settle();
        assertThat(velocitiesOf(1)).isEqualTo(new Span(1, 50));
        assertThat(velocitiesOf(3)).as("the zone above follows down").isEqualTo(new Span(51, 127));
        keys.stretch(KeysModel.Edge.LOW_KEY, 2, true, false);
        settle();
        assertThat(keysOf(0)).as("asked to stay").isEqualTo(new Span(40, 49));
    }

    @Test void zonesNeverBecomeNothingNorLeaveTheKeyboard() {
        keys.choose(0, false);
        keys.stretch(KeysModel.Edge.HIGH_KEY, -50, true, false);
        assertThat(keysOf(0)).isEqualTo(new Span(40, 40));
        keys.stretch(KeysModel.Edge.LOW_KEY, -100, true, false);
        assertThat(keysOf(0)).isEqualTo(new Span(0, 40));
        keys.move(-1, 0, false);
        assertThat(keysOf(0)).as("it stands at the edge").isEqualTo(new Span(0, 40));
        keys.stretch(KeysModel.Edge.LOW_VELOCITY, -5, true, false);
        assertThat(velocitiesOf(0).low()).isEqualTo(1);
    }

    @Test void rootsMoveWithTheirZones() {
        keys.chooseAll(List.of(0, 1, 2));
        keys.move(12, 0, false);
        settle();
        assertThat(List.of(keysOf(0), keysOf(1), keysOf(2))).containsExactly(new Span(52, 61), new Span(62, 71), new Span(72, 81));
        assertThat(keys.zones().getFirst().get(Parameter.ROOT_KEY)).isEqualTo(57);
    }

    @Test void walkingGoesToTheNearestZoneThatWay() {
        keys.choose(0, false);
        keys.walk(1, 0);
        assertThat(keys.chosen()).containsExactly(1);
        keys.walk(0, 1);
        assertThat(keys.chosen()).containsExactly(3);
        keys.walk(0, 1);
        assertThat(keys.chosen()).as("there is none above").containsExactly(3);
        keys.walk(-1, 0);
        assertThat(keys.chosen()).containsExactly(0);
    }

    @Test void splitAndMergedZonesCoverWhatTheyCovered() {
        keys.choose(0, false);
        keys.split();
        settle();
        assertThat(keysOf(0)).isEqualTo(new Span(40, 44));
        assertThat(keysOf(1)).isEqualTo(new Span(45, 49));
        keys.chooseAll(List.of(0, 1));
        keys.merge();
        settle();
        assertThat(keysOf(0)).isEqualTo(new Span(40, 49));
        assertThat(keys.zones()).hasSize(5);
    }

    /// A drag of many steps is one step back; what was edited is what the list packs.
    @Test void aDragIsOneStepAndTheListFollows() {
        keys.choose(1, false);
        for (int i = 0; i < 5; i++) {
            keys.stretch(KeysModel.Edge.HIGH_KEY, 1, false, true);
            settle();
        }
        assertThat(keys.chosen()).as("still chosen after the list was renewed").containsExactly(1);
        assertThat(keys.planned().orElseThrow().zones().get(1).get(Parameter.KEYS)).isEqualTo(new Span(50, 64));
        crate.undo();
        settle();
        assertThat(keysOf(1)).isEqualTo(new Span(50, 59));
        keys.takeOut();
        settle();
        assertThat(keys.zones()).hasSize(4);
        keys.asTheSource();
        settle();
        assertThat(keys.zones()).hasSize(5);
    }
}
