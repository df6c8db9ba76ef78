package ablecrate.desktop.keys;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.desktop.SharedCrate;
import ablecrate.audio.Depth;
import ablecrate.codec.SoundFormats;
import ablecrate.codec.WholeSound;
import ablecrate.desktop.Background;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.desktop.list.PackingListModel;
import ablecrate.format.names.NameFacts;
import ablecrate.format.names.NamePart;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.Span;
import ablecrate.instrument.Zone;
import ablecrate.job.Jobs;
import ablecrate.option.Choice;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.stream.IntStream;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// What the key bench does to zones: no gaps or overlaps unasked, nothing off the keyboard, each step taken back.
class KeysModelTest {
    @TempDir Path folder;
    private final Deque<Runnable> later = new ArrayDeque<>();
    private CrateModel crate;
    private PackingListModel list;
    private KeysModel keys;

    /// Two groups; in the first three zones side by side and one above the middle one.
    @BeforeEach void open() throws Exception {
        WholeSound.write(folder.resolve("tone.wav"), SoundFormats.written("wav").orElseThrow(), 44_100, Depth.INT_16, SoundMetadata.NONE, List.of(),
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
        crate = new CrateModel(new Background(Runnable::run, later::add), SharedCrate.CATALOGUE);
        list = new PackingListModel(crate);
        keys = new KeysModel(crate, list);
        crate.gather(List.of(folder));
        settle();
        crate.aim("files");
        settle();
        show();
    }

    private void settle() {
        while (!later.isEmpty())
            later.poll().run();
    }

    private Span keysOf(int zone) { return keys.zones().get(zone).get(Parameter.KEYS); }

    private Span velocitiesOf(int zone) { return keys.zones().get(zone).get(Parameter.VELOCITIES); }

    @Test void neighboursOfOneGroupGiveWayAndThoseOfOthersStay() {
        keys.choose(1, false);
        keys.stretch(Edge.HIGH_KEY, 3, false, false);
        settle();
        assertThat(keysOf(1)).isEqualTo(new Span(50, 62));
        assertThat(keysOf(2)).isEqualTo(new Span(63, 69));
        assertThat(keysOf(4)).as("another group").isEqualTo(new Span(60, 72));
        keys.stretch(Edge.HIGH_VELOCITY, -10, false, false);
        settle();
        assertThat(velocitiesOf(1)).isEqualTo(new Span(1, 50));
        assertThat(velocitiesOf(3)).as("the zone above follows down").isEqualTo(new Span(51, 127));
        keys.stretch(Edge.LOW_KEY, 2, true, false);
        settle();
        assertThat(keysOf(0)).as("asked to stay").isEqualTo(new Span(40, 49));
    }

    @Test void zonesNeverBecomeNothingNorLeaveTheKeyboard() {
        keys.choose(0, false);
        keys.stretch(Edge.HIGH_KEY, -50, true, false);
        assertThat(keysOf(0)).isEqualTo(new Span(40, 40));
        keys.stretch(Edge.LOW_KEY, -100, true, false);
        assertThat(keysOf(0)).isEqualTo(new Span(0, 40));
        keys.move(-1, 0, false);
        assertThat(keysOf(0)).as("it stands at the edge").isEqualTo(new Span(0, 40));
        keys.stretch(Edge.LOW_VELOCITY, -5, true, false);
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
        assertThat(keys.chosen()).as("the choice survives").containsExactly(0, 1);
        keys.merge();
        settle();
        assertThat(keysOf(0)).isEqualTo(new Span(40, 49));
        assertThat(keys.zones()).hasSize(5);
    }

    /// A drag of many steps is one step back; what was edited is what the list packs.
    @Test void aDragIsOneStepAndTheListFollows() {
        keys.choose(1, false);
        for (int i = 0; i < 5; i++) {
            keys.stretch(Edge.HIGH_KEY, 1, false, true);
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

    /// A sound that is in nobody's way gets its key; what lay there is cut around it, at its velocities only.
    @Test void aSoundPutOnAKeyMakesRoomForItself() throws Exception {
        Path lid = sound("lid.wav");
        int before = keys.zones().size();
        keys.putSounds(List.of(lid), 55, 30);
        settle();
        assertThat(keys.zones()).hasSize(before + 2);
        Zone placed = keys.zones().get(keys.chosen().first());
        assertThat(keys.sampleName(placed)).isEqualTo("lid.wav");
        assertThat(placed.get(Parameter.KEYS)).isEqualTo(new Span(55, 55));
        assertThat(placed.get(Parameter.ROOT_KEY)).isEqualTo(55);
        assertThat(placed.get(Parameter.VELOCITIES)).as("those of what was there").isEqualTo(new Span(1, 60));
        for (int key = 40; key < 70; key++)
            for (int velocity : new int[]{1, 60, 61}) {
                int k = key, v = velocity;
                long of = keys.zones().stream().limit(6).filter(z -> z.covers(k, v)).count();
                assertThat(of).as("zones of the group at key %d, velocity %d", key, velocity).isEqualTo(velocity <= 60 || key >= 50 && key < 60 ? 1 : 0);
            }
        assertThat(keys.sound(placed.sample()).orElseThrow().path()).isEqualTo(lid);
        crate.undo();
        settle();
        assertThat(keys.zones()).hasSize(before);
    }

    @Test void severalSoundsLieSideBySideAndTheJobKeepsThem() throws Exception {
        List<Path> sounds = List.of(sound("ladle.wav"), sound("lid.wav"), sound("spoon.wav"));
        keys.putSoundsBeside(sounds);
        settle();
        assertThat(keys.chosen()).hasSize(3);
        assertThat(keys.chosen().stream().map(this::keysOf)).containsExactly(new Span(73, 73), new Span(74, 74), new Span(75, 75));
        assertThat(crate.listProperty().get().items()).as("they go with the instrument").hasSize(1);
        assertThat(crate.listProperty().get().items().getFirst().outputs()).hasSize(4);
        Jobs.save(crate.job(), folder.resolve("job.ablecrate"));
        assertThat(Jobs.open(folder.resolve("job.ablecrate"))).isEqualTo(crate.job());
        keys.takeOut();
        settle();
        assertThat(keys.zones()).hasSize(5);
    }

    private Path sound(String name) throws Exception {
        Path file = Files.createDirectories(folder.resolve("kitchen")).resolve(name);
        WholeSound.write(file, SoundFormats.written("wav").orElseThrow(), 44_100, Depth.INT_16, SoundMetadata.NONE, List.of(),
                new double[][]{new double[2000]});
        return file;
    }

    /// A folder whose names say a key twice; the wrong one is put right for all with one word, and so is the octave.
    @Test void oneNamePutRightPutsAllRight() throws Exception {
        Path harp = folder.resolve("names");
        for (String name : List.of("c1 harp 60", "c2 harp 64", "c3 harp 67"))
            Files.copy(sound("x.wav"), Files.createDirectories(harp).resolve(name + ".wav"));
        crate.newJob();
        crate.gather(List.of(harp));
        settle();
        crate.aim("files");
        crate.changeOptions(o -> o.withContainer(Choice.of("sfz")), "container");
        settle();
        show();
        assertThat(roots()).containsExactly(24, 36, 48);
        NameFacts.Part last = keys.nameOf(keys.zones().getFirst()).orElseThrow().parts().getLast();
        assertThat(last.text()).isEqualTo("60");
        keys.explain(last.place(), NamePart.KEY);
        settle();
        assertThat(roots()).containsExactly(60, 64, 67);
        keys.choose(0, false);
        keys.set(z -> z.with(Parameter.ROOT_KEY, 48), "root");
        settle();
        assertThat(keys.shiftBy(keys.zones().getFirst())).hasValue(-12);
        keys.countLike(keys.zones().getFirst());
        settle();
        assertThat(roots()).containsExactly(48, 52, 55);
        assertThat(keys.shiftBy(keys.zones().getFirst())).isEmpty();
        Jobs.save(crate.job(), folder.resolve("job.ablecrate"));
        assertThat(Jobs.open(folder.resolve("job.ablecrate"))).isEqualTo(crate.job());
    }

    private void show() { list.choose(list.all(), Optional.of(list.all().getFirst())); }

    private List<Integer> roots() { return keys.zones().stream().map(z -> z.get(Parameter.ROOT_KEY)).sorted().toList(); }

    /// What the destination makes of a kit that it has no room for is shown as one.
    @Test void aKitThatIsDividedIsShownWhole() throws Exception {
        StringBuilder kit = new StringBuilder("<global> sample=tone.wav pitch_keytrack=0\n");
        for (int key = 36; key < 102; key++)
            kit.append("<region> key=").append(key).append('\n');
        Files.writeString(folder.resolve("drums.sfz"), kit);
        crate.gather(List.of(folder.resolve("drums.sfz")));
        settle();
        crate.aim("card-sampler");
        settle();
        list.choose(list.all(), list.all().stream().filter(i -> i.source().fileName().equals("drums.sfz")).findFirst());
        assertThat(list.currentProperty().get().orElseThrow().maps()).hasSize(2);
        assertThat(keys.planned().orElseThrow().zones()).extracting(z -> z.get(Parameter.KEYS).low())
                .containsExactlyElementsOf(IntStream.range(36, 102).boxed().toList());
    }
}
