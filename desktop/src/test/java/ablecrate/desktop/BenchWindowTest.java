package ablecrate.desktop;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.audio.FrameRange;
import ablecrate.audio.SeekableSource;
import ablecrate.codec.SurvivalTable;
import ablecrate.desktop.bench.WaveScale;
import ablecrate.desktop.keys.KeysModel;
import ablecrate.detect.FoundLoop;
import ablecrate.format.SurvivalTables;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.option.Chop;
import ablecrate.option.Rhythm;
import ablecrate.option.Treatment;
import ablecrate.option.ItemEdit;
import ablecrate.plan.PackingItem;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.TimeUnit;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import javafx.geometry.Bounds;
import javafx.scene.Node;
import javafx.scene.control.MenuItem;
import javafx.scene.control.MenuButton;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Labeled;
import javafx.scene.image.WritableImage;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import javafx.scene.text.Text;
import javafx.stage.Stage;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;
import org.testfx.util.WaitForAsyncUtils;

/// The bench of the real window: wave, levels and keys, each by mouse and by the keys that the overlay tells of.
class BenchWindowTest extends WindowFixture {
    @Start void open(Stage stage) { show(stage); }

    private static final double RULER = 18;

    private PackingItem current() { return window.list().currentProperty().get().orElseThrow(); }

    private ItemEdit edit() { return window.crate().job().edits().getOrDefault(current().source().path(), ItemEdit.NONE); }

    private void showSound(FxRobot robot, String folder, String name) {
        robot.interact(() -> window.crate().gather(List.of(crate.resolve(folder))));
        robot.interact(() -> window.chooseLine(name));
        robot.push(KeyCode.ALT, KeyCode.DIGIT3);
        // What stands beside the wave takes its room in the passes of layout that follow; places are measured after them.
        for (int i = 0; i < 5; i++) {
            robot.sleep(60);
            WaitForAsyncUtils.waitForFxEvents();
        }
    }

    @Test void theWaveIsZoomedAndMovedByKeysAndWheel(FxRobot robot) {
        showSound(robot, "Atmospheres", "orchard at night");
        WaveScale whole = window.wave().scale();
        robot.type(KeyCode.ADD);
        assertThat(window.wave().scale().framesPerPixel()).isCloseTo(whole.framesPerPixel() / 2, within(1e-6));
        double first = window.wave().scale().first();
        robot.type(KeyCode.RIGHT);
        assertThat(window.wave().scale().first()).as("sixty pixels on").isCloseTo(first + 60 * window.wave().scale().framesPerPixel(), within(1.0));
        robot.push(KeyCode.SHIFT, KeyCode.LEFT);
        assertThat(window.wave().scale().first()).as("nearly a width back, not beyond the start").isZero();
        robot.type(KeyCode.SUBTRACT);
        assertThat(window.wave().scale()).isEqualTo(whole);

        Bounds wave = onScreen("#wave", robot);
        robot.moveTo(wave.getMinX() + wave.getWidth() / 4, wave.getCenterY());
        double under = whole.frameAt(wave.getWidth() / 4);
        robot.scroll(3, javafx.geometry.VerticalDirection.UP);
        assertThat(window.wave().scale().framesPerPixel()).isLessThan(whole.framesPerPixel());
        assertThat(window.wave().scale().frameAt(wave.getWidth() / 4)).as("what is under the mouse stays").isCloseTo(under,
                within(2 * whole.framesPerPixel()));
        // Down to single samples, which are then read from the file.
        for (int i = 0; i < 24; i++)
            robot.type(KeyCode.ADD);
        assertThat(window.wave().scale().framesPerPixel()).isLessThan(0.25);
        robot.drag(wave.getCenterX(), wave.getCenterY()).dropBy(40, 0);
        robot.type(KeyCode.HOME);
        assertThat(window.wave().scale()).isEqualTo(whole);
        assertThat(window.crate().job().edits()).as("looking changes nothing").isEmpty();
    }

    private static Bounds onScreen(String id, FxRobot robot) {
        Node node = robot.lookup(id).query();
        return node.localToScreen(node.getBoundsInLocal());
    }

    @Test void everyHandleOfTheWaveIsDragged(FxRobot robot) {
        showSound(robot, "Tin Kitchen", "Oven Door");
        Bounds wave = onScreen("#wave", robot);
        long frames = current().source().sound().orElseThrow().frames();
        int rateHz = current().source().sound().orElseThrow().rateHz();
        double perFrame = wave.getWidth() / frames;

        robot.drag(wave.getMinX() + 3, wave.getMaxY() - 6).dropTo(wave.getMinX() + wave.getWidth() / 10, wave.getMaxY() - 6);
        assertThat(edit().part().orElseThrow().start()).isCloseTo(frames / 10, within(frames / 50));
        double start = wave.getMinX() + edit().part().orElseThrow().start() * perFrame;
        robot.drag(start + 3, wave.getMinY() + RULER + 4).dropTo(wave.getMinX() + wave.getWidth() * 0.3, wave.getMinY() + RULER + 4);
        assertThat(edit().fadeInMs().orElseThrow()).isCloseTo((0.3 * frames - edit().part().orElseThrow().start()) * 1000 / rateHz,
                within(frames * 20.0 / rateHz));
        robot.drag(wave.getMaxX() - 3, wave.getMinY() + RULER + 4).dropTo(wave.getMinX() + wave.getWidth() * 0.8, wave.getMinY() + RULER + 4);
        assertThat(edit().fadeOutMs().orElseThrow()).isCloseTo(0.2 * frames * 1000 / rateHz, within(frames * 20.0 / rateHz));
        assertThat(current().outputs().getFirst().outputChain().ends().fadeOutFrames()).isPositive();
        // Each drag is one step back.
        for (String id : List.of("fade-out", "fade-in", "start")) {
            assertThat(window.crate().undoLabel()).startsWith(id);
            robot.clickOn("#undo");
        }
        assertThat(window.crate().job().edits()).isEmpty();
    }

    /// Keys go where the focus is, which may take a moment.
    private static void typeInto(FxRobot robot, String id, String text) {
        Node field = robot.lookup(id).query();
        for (int i = 0; i < 5 && !field.isFocused(); i++) {
            robot.clickOn(field);
            WaitForAsyncUtils.waitForFxEvents();
        }
        robot.push(KeyCode.CONTROL, KeyCode.A).write(text).type(KeyCode.ENTER);
        WaitForAsyncUtils.waitForFxEvents();
    }

    private List<Loop> loops() { return edit().loop().loops().orElse(current().source().sound().orElseThrow().metadata().loops()); }

    private double loopEndX(Bounds wave) { return wave.getMinX() + window.wave().scale().xOf(loops().getFirst().frames().end()); }

    /// By mouse, by keys and by figures; the line of the list says so, and each is one step back.
    @Test void loopsAreDraggedNudgedTypedAddedAndRemoved(FxRobot robot) {
        showSound(robot, "Bottle Organ", "bottle_65");
        List<Loop> before = loops();
        Bounds wave = onScreen("#wave", robot);
        // From the middle of the wave's height, as fades and cuts have their handles along its edges.
        double to = wave.getMinX() + wave.getWidth() * 0.9;
        robot.drag(loopEndX(wave), wave.getCenterY()).dropTo(to, wave.getCenterY());
        long end = loops().getFirst().frames().end();
        assertThat(end).isCloseTo((long) window.wave().scale().frameAt(to - wave.getMinX()), within((long) Math.ceil(window.wave().scale().framesPerPixel())));
        assertThat(loops().get(1)).as("the other loop stays").isEqualTo(before.get(1));
        assertThat(current().changes()).anyMatch(c -> c.reason().equals("2 loops set by hand"));

        robot.push(KeyCode.ALT, KeyCode.DIGIT3);
        robot.push(KeyCode.CONTROL, KeyCode.RIGHT).push(KeyCode.CONTROL, KeyCode.RIGHT);
        assertThat(loops().getFirst().frames().end()).isEqualTo(end + 2);
        long start = loops().getFirst().frames().start();
        robot.push(KeyCode.CONTROL, KeyCode.SHIFT, KeyCode.LEFT);
        assertThat(loops().getFirst().frames().start()).isEqualTo(start - 1);

        robot.clickOn("#wave-unit");
        typeInto(robot, "#loop-start", "9000");
        assertThat(loops().getFirst().frames().start()).isEqualTo(9000);
        typeInto(robot, "#loop-start", "here");
        assertThat(robot.lookup("#loop-start").query().getPseudoClassStates()).as("is no place").anyMatch(p -> p.getPseudoClassName().equals("wrong"));
        robot.clickOn("#wave-unit");
        typeInto(robot, "#loop-start", "0,2");
        assertThat(loops().getFirst().frames().start()).as("a decimal comma").isEqualTo(Math.round(0.2 * 44_100));
        ComboBox<LoopMode> mode = robot.lookup("#loop-mode").queryComboBox();
        robot.interact(() -> mode.setValue(LoopMode.ALTERNATING));
        assertThat(loops().getFirst().mode()).isEqualTo(LoopMode.ALTERNATING);
        assertThat(robot.lookup("#seam").query().isVisible()).as("a loop that goes back and forth has no seam").isFalse();
        robot.interact(() -> mode.setValue(LoopMode.FORWARD));
        assertThat(robot.lookup("#seam").query().isVisible()).isTrue();

        robot.clickOn("#loop-remove");
        assertThat(loops()).containsExactly(before.get(1));
        robot.interact(() -> window.wave().markProperty().set(4321));
        robot.push(KeyCode.ALT, KeyCode.DIGIT3);
        robot.type(KeyCode.L);
        assertThat(loops()).hasSize(2).last().satisfies(l -> assertThat(l.frames().start()).isEqualTo(4321));
        assertThat(window.crate().undoLabel()).startsWith("loop added to bottle_65");
        while (!window.crate().undoLabel().startsWith("gather"))
            robot.push(KeyCode.CONTROL, KeyCode.Z);
        assertThat(loops()).isEqualTo(before);
    }

    /// Places are looked for, the best is taken with its crossfade, others are walked through; one step takes all back.
    @Test void placesToLoopAreFoundAndTaken(FxRobot robot) {
        showSound(robot, "Bottle Organ", "bottle_65");
        robot.clickOn("#loop-remove").clickOn("#loop-remove");
        assertThat(loops()).isEmpty();
        robot.clickOn("#loop-find");
        ComboBox<FoundLoop> found = robot.lookup("#loop-found").queryComboBox();
        assertThat(found.getItems()).hasSizeGreaterThan(2);
        FoundLoop best = found.getItems().getFirst(), second = found.getItems().get(1);
        assertThat(loops()).singleElement().satisfies(l -> assertThat(l.frames()).isEqualTo(best.frames()));
        robot.interact(() -> found.setValue(second));
        assertThat(loops()).singleElement().satisfies(l -> assertThat(l.frames()).isEqualTo(second.frames()));
        assertThat(edit().loop().crossfadeMs().orElseThrow()).isCloseTo(second.crossfadeFrames() / 44.1, within(0.1));
        assertThat(robot.lookup("#seam").query().isVisible()).isTrue();
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        assertThat(loops()).isEmpty();
    }

    /// A clip that is cut is an instrument with a key a slice, to be played before it is packed.
    @Test void aClipThatIsCutLiesOnTheKeys(FxRobot robot) {
        showSound(robot, "Rhythms", "windmill 96");
        robot.clickOn("#face-levels");
        ComboBox<Chop> chop = robot.lookup("#chop").queryComboBox();
        robot.interact(() -> chop.setValue(Chop.by(Chop.By.ONSETS)));
        assertThat(current().isInstruments()).isTrue();
        assertThat(current().source().instruments().orElseThrow().samples()).hasSize(16);
        robot.clickOn("#face-keys");
        assertThat(window.keys().zones()).hasSize(16);
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        assertThat(current().isInstruments()).isFalse();
    }

    /// A frame from where nothing is takes all zones that it touches; the wheel goes nearer to the keys, Home shows all.
    @Test void zonesAreChosenByAFrameAndSeenNearer(FxRobot robot) {
        showSound(robot, "Instruments", "wind-up harp.sfz");
        Bounds chart = onScreen(".keys-chart", robot);
        robot.drag(chart.getMinX() + 40, chart.getMinY() + 6).dropTo(chart.getMaxX() - 20, chart.getMinY() + chart.getHeight() * 0.4);
        assertThat(window.keys().chosen().size()).isGreaterThan(3);
        int all = window.keys().chosen().size();
        WaitForAsyncUtils.waitForFxEvents();
        Node zone = robot.lookup(".zone").query();
        double width = zone.getBoundsInParent().getWidth();
        robot.moveTo(chart.getCenterX(), chart.getCenterY());
        robot.scroll(4, javafx.geometry.VerticalDirection.UP);
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(robot.lookup(".zone").query().getBoundsInParent().getWidth()).isGreaterThan(2 * width);
        assertThat(window.keys().chosen()).as("looking chooses nothing").hasSize(all);
        robot.push(KeyCode.ALT, KeyCode.DIGIT3);
        robot.type(KeyCode.HOME);
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(robot.lookup(".zone").query().getBoundsInParent().getWidth()).isCloseTo(width, within(0.5));
    }

    /// By choice ends go where the wave passes zero upwards.
    /// What fades into each other and what takes turns is seen on the keys.
    @Test void crossfadesAndTurnsAreSeenOnTheKeys(FxRobot robot) throws Exception {
        Path folder = Files.createDirectories(temp.resolve("soft and loud"));
        for (String sound : List.of("bottle_57.wav", "bottle_65.wav", "bottle_72.wav"))
            Files.copy(crate.resolve("Bottle Organ").resolve(sound), folder.resolve(sound));
        Files.writeString(folder.resolve("bottles.sfz"), """
                <region> sample=bottle_57.wav lokey=40 hikey=60 pitch_keycenter=57 xfout_lokey=56 xfout_hikey=60
                <region> sample=bottle_65.wav lokey=56 hikey=80 pitch_keycenter=65 xfin_lokey=56 xfin_hikey=60 seq_length=2 seq_position=1
                <region> sample=bottle_72.wav lokey=56 hikey=80 pitch_keycenter=72 xfin_lokey=56 xfin_hikey=60 seq_length=2 seq_position=2
                """);
        robot.interact(() -> window.crate().gather(List.of(folder)));
        robot.interact(() -> window.chooseLine("bottles.sfz"));
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(robot.lookup(".zone-fade").queryAll()).hasSize(3);
        assertThat(robot.lookup(".zone-name").queryAllAs(Text.class)).extracting(Text::getText).anyMatch(t -> t.endsWith("2 in turn"));
    }

    @Test void loopEndsGoToZeroCrossings(FxRobot robot) throws Exception {
        showSound(robot, "Bottle Organ", "bottle_65");
        robot.interact(() -> {
            window.loops().snapsProperty().set(true);
            window.loops().moveStart(20_000);
            window.loops().settle(true);
        });
        int start = (int) loops().getFirst().frames().start();
        double[][] planes = new double[1][start + 1];
        try (SeekableSource source = current().source().sound().orElseThrow().open()) {
            source.readFully(planes, 0, start + 1);
        }
        assertThat(planes[0][start - 1]).isNegative();
        assertThat(planes[0][start]).isNotNegative();
        // A period of this bottle is some 126 frames.
        assertThat(start).isCloseTo(20_000, within(70));
    }

    /// The other ways to look at a sound draw something else.
    @Test void aStereoSoundIsSeenAsSpectrumAndAsMiddleAndSides(FxRobot robot) {
        showSound(robot, "Atmospheres", "orchard at night");
        Set<Integer> pictures = new HashSet<>(Set.of(picture(robot)));
        robot.clickOn("#wave-sides");
        assertThat(pictures.add(picture(robot))).isTrue();
        robot.clickOn("#wave-sides").clickOn("#wave-spectrum");
        assertThat(pictures.add(picture(robot))).isTrue();
        robot.clickOn("#wave-sides");
        assertThat(pictures.add(picture(robot))).as("spectra of middle and sides").isTrue();
        robot.push(KeyCode.ALT, KeyCode.DIGIT3);
        robot.type(KeyCode.ADD);
        assertThat(pictures.add(picture(robot))).as("zoomed").isTrue();
    }

    /// Where the name tells a tempo the ruler counts bars and beats; a sound without one offers none.
    @Test void aClipWithATempoHasBarsAndBeats(FxRobot robot) {
        showSound(robot, "Rhythms", "windmill 96");
        assertThat(robot.lookup("#wave-bars").query().isVisible()).isTrue();
        int seconds = top(robot);
        robot.clickOn("#wave-bars");
        assertThat(top(robot)).isNotEqualTo(seconds);
        robot.interact(() -> window.crate().gather(List.of(crate.resolve("Tin Kitchen"))));
        robot.interact(() -> window.chooseLine("Oven Door"));
        assertThat(robot.lookup("#wave-bars").query().isVisible()).isFalse();
    }

    /// What the name tells is one tempo among others: what is heard, the next best, half and double are offered, and can be taken and given back.
    @Test void anotherTempoIsTaken(FxRobot robot) {
        showSound(robot, "Rhythms", "windmill 96");
        MenuButton tempo = robot.lookup("#wave-tempo").query();
        assertThat(tempo.getText()).isEqualTo("96 bpm");
        assertThat(tempos(robot, tempo)).containsExactly("96 bpm: by its texts, its name or its folder", "48 bpm: half", "192 bpm: double",
                "Bar 1 begins at the mark (D)", "Listen for it");
        take(robot, tempo, "Listen for it");
        assertThat(tempos(robot, tempo)).anyMatch(t -> t.endsWith("heard, next best")).doesNotContain("Listen for it");
        take(robot, tempo, "192 bpm");
        assertThat(tempo.getText()).isEqualTo("192 bpm");
        assertThat(window.crate().job().edits().values()).singleElement()
                .satisfies(e -> assertThat(e.treatment(Treatment.NONE).finds().chop().bpm()).hasValue(192.0));
        assertThat(tempos(robot, tempo)).contains("192 bpm: chosen", "as it is told or heard");
        take(robot, tempo, "as it is told");
        assertThat(tempo.getText()).isEqualTo("96 bpm");

        robot.clickOn("#wave-bars");
        int bars = top(robot);
        robot.type(KeyCode.D);
        assertThat(top(robot)).as("there is no mark yet").isEqualTo(bars);
        robot.interact(() -> window.wave().markProperty().set(9_000));
        robot.type(KeyCode.D);
        assertThat(top(robot)).as("bars move").isNotEqualTo(bars);
        assertThat(window.crate().job().edits().values()).singleElement()
                .satisfies(e -> assertThat(e.treatment(Treatment.NONE).finds().chop().beats().downbeatSeconds())
                        .hasValue(0.204082));
        take(robot, tempo, "Bar 1 begins with the clip");
        assertThat(window.crate().job().edits().values())
                .allSatisfy(e -> assertThat(e.treatment(Treatment.NONE).finds().chop().beats().downbeatSeconds()).isEmpty());
    }

    /// What a clip in slices is heard as: itself, and as each of its MIDI files plays it.
    @Test void aClipInSlicesIsHeardAsItsMidiFilesPlayIt(FxRobot robot) throws Exception {
        showSound(robot, "Rhythms", "windmill 96");
        // What a clip has of its own leaves it open to what all get.
        robot.interact(() -> window.wave().markProperty().set(9_000));
        robot.type(KeyCode.D);
        robot.interact(() -> window.crate().changeOptions(o -> o.withTreatment(o.treatment().withFinds(o.treatment().finds().withChop(Chop.by(Chop.By.ONSETS))
                .withRhythm(o.treatment().finds().rhythm().withAs(Rhythm.As.BOTH)))), "slices"));
        WaitForAsyncUtils.waitFor(30, TimeUnit.SECONDS, () -> current().sidecars().size() == 2);
        List<String> sides = new ArrayList<>();
        for (int i = 0; i < 4; i++) {
            sides.add(robot.lookup("#side").queryButton().getText());
            robot.type(KeyCode.A);
        }
        assertThat(sides).containsExactly("Source", "By MIDI", "On the grid", "Source");
        robot.type(KeyCode.SPACE);
        WaitForAsyncUtils.waitFor(10, TimeUnit.SECONDS, () -> window.hearing().sourceFrame() > 10_000);
        robot.type(KeyCode.A);
        WaitForAsyncUtils.waitFor(10, TimeUnit.SECONDS, () -> window.hearing().sourceFrame() > 20_000);
        robot.type(KeyCode.SPACE);
        assertThat(window.crate().messageProperty().get()).doesNotContain("cannot play");
    }

    private static List<String> tempos(FxRobot robot, MenuButton tempo) {
        robot.interact(tempo::show);
        List<String> all = tempo.getItems().stream().map(MenuItem::getText).toList();
        robot.interact(tempo::hide);
        return all;
    }

    private static void take(FxRobot robot, MenuButton tempo, String starting) {
        tempos(robot, tempo);
        robot.interact(() -> tempo.getItems().stream().filter(i -> i.getText().startsWith(starting)).findFirst().orElseThrow().fire());
    }

    /// The ruler's part of the picture.
    private int top(FxRobot robot) {
        WaitForAsyncUtils.waitForFxEvents();
        WritableImage[] image = new WritableImage[1];
        robot.interact(() -> image[0] = robot.lookup("#wave").query().snapshot(null, null));
        int sum = 0;
        for (int y = 2; y < 16; y++)
            for (int x = 0; x < image[0].getWidth(); x++)
                sum = 31 * sum + image[0].getPixelReader().getArgb(x, y);
        return sum;
    }

    private int picture(FxRobot robot) {
        WaitForAsyncUtils.waitForFxEvents();
        WritableImage[] image = new WritableImage[1];
        robot.interact(() -> image[0] = robot.lookup("#wave").query().snapshot(null, null));
        int sum = 0;
        for (int y = 30; y < image[0].getHeight() - 4; y += 3)
            for (int x = 0; x < image[0].getWidth(); x += 3)
                sum = 31 * sum + image[0].getPixelReader().getArgb(x, y);
        return sum;
    }

    /// The overlay says what the formats declare, cell by cell, and goes by a key.
    @Test void whatSurvivesWhereIsShown(FxRobot robot) {
        robot.push(KeyCode.CONTROL, KeyCode.H);
        Set<String> shown = robot.from(robot.lookup("#formats").queryAll()).lookup(".label").queryAllAs(Labeled.class).stream()
                .map(l -> l.getAccessibleText() == null ? l.getText() : l.getAccessibleText())
                .collect(Collectors.toSet());
        for (SurvivalTable table : SurvivalTables.all()) {
            assertThat(shown).contains(table.title()).containsAll(table.columns());
            for (SurvivalTable.Row row : table.rows())
                assertThat(shown).contains(row.property()).containsAll(row.cells());
        }
        robot.type(KeyCode.ESCAPE);
        assertThat(robot.lookup("#formats").tryQuery()).isEmpty();
    }

    /// From sound to sound by the arrows, in the order that is shown; the ceiling is a line to drag as well.
    @Test void theLevelsAnswerKeysAndMouse(FxRobot robot) {
        showSound(robot, "Tin Kitchen", "Oven Door");
        robot.clickOn("#face-levels");
        robot.interact(() -> window.crate().changeOptions(o -> o.withTreatment(o.treatment().withCeiling(Optional.of(-3.0))), "ceiling"));
        robot.push(KeyCode.ALT, KeyCode.DIGIT3);
        PackingItem before = current();
        robot.type(KeyCode.RIGHT);
        PackingItem next = current();
        assertThat(next.source().path()).isNotEqualTo(before.source().path());
        robot.type(KeyCode.LEFT);
        assertThat(current().source().path()).isEqualTo(before.source().path());
        robot.type(KeyCode.UP);
        double first = window.crate().job().options().treatment().level().orElseThrow().value();
        robot.type(KeyCode.DOWN).push(KeyCode.SHIFT, KeyCode.DOWN);
        assertThat(window.crate().job().options().treatment().level().orElseThrow().value()).as("half a decibel, then a tenth")
                .isCloseTo(first - 0.6, within(0.051));
        robot.drag("#levels-ceiling-grip").dropBy(0, 30);
        assertThat(window.crate().job().options().treatment().ceilingDbtp().orElseThrow()).isLessThan(-3.2);
        robot.clickOn("#undo");
        assertThat(window.crate().job().options().treatment().ceilingDbtp()).contains(-3.0);
    }

    private KeysModel keys() { return window.keys(); }

    private Span span(Parameter<Span> p) { return keys().zones().get(keys().chosen().first()).get(p); }

    private int root() { return keys().zones().get(keys().chosen().first()).get(Parameter.ROOT_KEY); }

    /// All that the overlay tells of the keys, on one zone.
    @Test void zonesAreWorkedOnByKeys(FxRobot robot) {
        showSound(robot, "Instruments", "wind-up harp");
        robot.interact(() -> keys().choose(0, false));
        Span was = span(Parameter.KEYS), soft = span(Parameter.VELOCITIES);
        int root = root(), count = keys().zones().size();
        robot.type(KeyCode.CLOSE_BRACKET, KeyCode.CLOSE_BRACKET, KeyCode.OPEN_BRACKET);
        assertThat(root()).isEqualTo(root + 1);
        robot.push(KeyCode.CONTROL, KeyCode.UP);
        assertThat(span(Parameter.VELOCITIES).low()).isGreaterThan(soft.low());
        robot.interact(window.crate()::undo);
        robot.push(KeyCode.ALT, KeyCode.RIGHT);
        assertThat(span(Parameter.KEYS)).isEqualTo(new Span(was.low() + 1, was.high()));
        robot.push(KeyCode.ALT, KeyCode.LEFT).push(KeyCode.SHIFT, KeyCode.LEFT);
        assertThat(span(Parameter.KEYS)).isEqualTo(new Span(was.low(), was.high() - 1));
        robot.type(KeyCode.X);
        assertThat(keys().zones()).hasSize(count + 1);
        robot.interact(() -> keys().chooseAll(List.of(0, 1)));
        robot.type(KeyCode.M);
        assertThat(keys().zones()).hasSize(count);
        robot.interact(() -> keys().choose(0, false));
        robot.type(KeyCode.O);
        assertThat(keys().zones()).hasSize(count - 1);
        robot.interact(() -> keys().choose(0, false));
        int before = keys().chosen().first();
        robot.type(KeyCode.RIGHT);
        assertThat(keys().chosen().first()).as("on to the next zone").isNotEqualTo(before);
        while (window.crate().job().edits().containsKey(current().source().path()))
            robot.interact(window.crate()::undo);
        assertThat(keys().zones()).hasSize(count);
        robot.interact(() -> keys().choose(0, false));
        assertThat(span(Parameter.KEYS)).isEqualTo(was);
        assertThat(root()).isEqualTo(root);
    }

    /// Where it lies on the screen.
    private Bounds chooseFirstZone(FxRobot robot) {
        showSound(robot, "Instruments", "orchestra pit");
        Node zone = robot.lookup(".zone").nth(0).query();
        Bounds bounds = zone.localToScreen(zone.getBoundsInLocal());
        robot.clickOn(zone);
        return bounds;
    }

    /// Zones are moved by their middle and stretched by each edge; one step back each.
    @Test void zonesAreDraggedByTheMouse(FxRobot robot) {
        Bounds b = chooseFirstZone(robot);
        int chosen = keys().chosen().first();
        Span before = keys().zones().get(chosen).get(Parameter.KEYS);
        double key = b.getWidth() / before.size();
        robot.drag(b.getMinX() + 2, b.getCenterY(), MouseButton.PRIMARY).dropTo(b.getMinX() + 2 + key, b.getCenterY());
        assertThat(keys().zones().get(chosen).get(Parameter.KEYS)).isEqualTo(new Span(before.low() + 1, before.high()));
        robot.clickOn("#undo");
        assertThat(keys().zones().get(chosen).get(Parameter.KEYS)).isEqualTo(before);
        robot.drag(b.getCenterX(), b.getCenterY(), MouseButton.PRIMARY).dropTo(b.getCenterX() + 3 * key, b.getCenterY());
        assertThat(keys().zones().get(chosen).get(Parameter.KEYS)).isEqualTo(new Span(before.low() + 3, before.high() + 3));
        robot.clickOn("#undo");
        assertThat(window.crate().job().edits()).isEmpty();
        // Away and back again in one go, and farther than the keyboard goes.
        robot.moveTo(b.getCenterX(), b.getCenterY()).press(MouseButton.PRIMARY).moveTo(b.getCenterX() + 5 * key, b.getCenterY());
        assertThat(keys().zones().get(chosen).get(Parameter.KEYS)).isEqualTo(new Span(before.low() + 5, before.high() + 5));
        robot.moveTo(b.getCenterX() - key, b.getCenterY()).release(MouseButton.PRIMARY);
        assertThat(keys().zones().get(chosen).get(Parameter.KEYS)).as("it keeps to the mouse").isEqualTo(new Span(before.low() - 1, before.high() - 1));
        robot.interact(() -> keys().move(200, -200, false));
        assertThat(keys().zones().get(chosen).get(Parameter.KEYS)).as("it stays on the keyboard").isEqualTo(new Span(127 - before.size() + 1, 127));
        assertThat(keys().zones().get(chosen).get(Parameter.VELOCITIES).low()).isEqualTo(1);
    }

    /// A zone that is let go of by a further click is not there to be dragged any more, and an edge stays with the mouse beyond where it can go.
    @Test void draggingNothingMovesNothing(FxRobot robot) {
        Bounds b = chooseFirstZone(robot);
        int chosen = keys().chosen().first();
        Span before = keys().zones().get(chosen).get(Parameter.KEYS);
        double key = b.getWidth() / before.size();
        robot.moveTo(b.getCenterX(), b.getCenterY()).press(MouseButton.PRIMARY);
        robot.interact(() -> keys().choose(chosen, true)); // as a click with Shift does
        robot.moveTo(b.getCenterX() + 3 * key, b.getCenterY()).release(MouseButton.PRIMARY);
        assertThat(keys().chosen()).isEmpty();
        assertThat(window.crate().job().edits()).isEmpty();
        robot.moveTo(b.getMaxX() - 2, b.getCenterY()).press(MouseButton.PRIMARY).moveTo(b.getMinX() - 5 * key, b.getCenterY());
        assertThat(keys().zones().get(chosen).get(Parameter.KEYS)).as("one key is left").isEqualTo(new Span(before.low(), before.low()));
        robot.moveTo(b.getMaxX() - 2 - key, b.getCenterY()).release(MouseButton.PRIMARY);
        assertThat(keys().zones().get(chosen).get(Parameter.KEYS)).isEqualTo(new Span(before.low(), before.high() - 1));
    }

    @Test void partsOfAClipAreMarkedOffWalkedThroughAndTakenAway(FxRobot robot) {
        showSound(robot, "Rhythms", "windmill 96");
        int bar = 4 * 44_100 * 60 / 96;
        part(robot, 0, bar);
        assertThat(current().output().orElseThrow().sourceChain().part()).as("one part is the sound itself").isEqualTo(new FrameRange(0, bar));
        part(robot, 2L * bar, 3L * bar);
        assertThat(current().source().pieces()).as("two become sounds of their own, from frame to frame").extracting(p -> p.frames())
                .containsExactly(new FrameRange(0, bar), new FrameRange(2L * bar, 3L * bar));
        assertThat(current().outputs()).hasSize(2);
        assertThat(window.wave().getAccessibleText()).as("the wave is still that of the clip").contains("windmill 96", "2 parts");

        robot.interact(() -> window.wave().markProperty().set(-1));
        robot.type(KeyCode.N);
        assertThat(window.wave().markProperty().get()).isZero();
        robot.type(KeyCode.N);
        assertThat(window.wave().markProperty().get()).isEqualTo(2.0 * bar);
        assertThat(window.hearing().playing().getValue()).as("and plays").isTrue();
        robot.push(KeyCode.SHIFT, KeyCode.N);
        assertThat(window.wave().markProperty().get()).isZero();
        Bounds wave = onScreen("#wave", robot);
        robot.clickOn(wave.getMinX() + wave.getWidth() * 0.6, wave.getMaxY() - 8);
        assertThat(window.wave().markProperty().get()).as("its bracket is clicked").isEqualTo(2.0 * bar);

        robot.interact(window.hearing()::stop);
        robot.interact(() -> window.wave().markProperty().set(1.5 * bar));
        robot.push(KeyCode.SHIFT, KeyCode.P);
        assertThat(current().source().pieces()).as("between them there is nothing to take away").hasSize(2);
        robot.push(KeyCode.SHIFT, KeyCode.N);
        robot.push(KeyCode.SHIFT, KeyCode.P);
        assertThat(current().source().pieces()).as("one is left, and is the sound again").isEmpty();
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        assertThat(current().source().pieces()).hasSize(2);
    }

    /// Onsets are found, then moved, added and taken out by hand; from the first change on they are the user's, and stay.
    @Test void slicesAreMovedAddedAndTakenOutByHand(FxRobot robot) throws Exception {
        showSound(robot, "Rhythms", "windmill 96");
        robot.interact(() -> window.crate().changeOptions(
                o -> o.withTreatment(o.treatment().withFinds(o.treatment().finds().withChop(Chop.by(Chop.By.ONSETS)))), "slices"));
        WaitForAsyncUtils.waitFor(30, TimeUnit.SECONDS, () -> current().source().pieces().size() > 4);
        List<Long> found = current().source().pieces().stream().map(p -> p.place()).toList();
        long between = (found.get(1) + found.get(2)) / 2;
        robot.interact(() -> window.wave().markProperty().set(between));
        robot.type(KeyCode.C);
        WaitForAsyncUtils.waitForFxEvents();
        List<Long> more = new ArrayList<>(found);
        more.add(2, between);
        assertThat(places()).as("one more, the others where they were").isEqualTo(more);

        Bounds wave = onScreen("#wave", robot);
        double y = wave.getMaxY() - 8, x = wave.getMinX() + window.wave().scale().xOf(current().source().pieces().get(2).frames().start());
        robot.moveTo(x, y).press(MouseButton.PRIMARY).moveTo(x + 6, y).release(MouseButton.PRIMARY);
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(places().get(2)).as("dragged by some pixels").isGreaterThan(between);
        assertThat(places().get(3)).isEqualTo(found.get(2));

        robot.interact(() -> window.wave().markProperty().set(found.get(2) + 100));
        robot.push(KeyCode.SHIFT, KeyCode.C);
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(places()).doesNotContain(found.get(2)).hasSize(found.size());
        for (int i = 0; i < 3; i++)
            robot.push(KeyCode.CONTROL, KeyCode.Z);
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(places()).as("undone step by step").isEqualTo(found);

        // Cue points where slices would begin are set in the same way.
        robot.interact(() -> window.crate().changeOptions(o -> o.withTreatment(o.treatment()
                .withFinds(o.treatment().finds().withPieces(o.treatment().finds().pieces().withAsCues(true)))), "cues"));
        WaitForAsyncUtils.waitFor(30, TimeUnit.SECONDS, () -> current().isSettled() && !current().outputs().isEmpty());
        List<Long> own = cues();
        assertThat(own).as("the file has some at these places already").hasSameSizeAs(found);
        robot.interact(() -> window.wave().markProperty().set(between));
        robot.type(KeyCode.C);
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(cues()).contains(between).hasSize(own.size() + 1);
        robot.moveTo(x, y).press(MouseButton.PRIMARY).moveTo(x + 6, y).release(MouseButton.PRIMARY);
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(cues()).as("dragged").doesNotContain(between).hasSize(own.size() + 1);
    }

    private List<Long> cues() { return current().outputs().getFirst().metadata().cues().stream().map(c -> c.frame()).toList(); }

    private List<Long> places() { return current().source().pieces().stream().map(p -> p.place()).toList(); }

    private void part(FxRobot robot, long start, long end) {
        robot.interact(() -> window.wave().markProperty().set(end));
        robot.type(KeyCode.E);
        robot.interact(() -> window.wave().markProperty().set(start));
        robot.type(KeyCode.S);
        robot.interact(() -> window.wave().markProperty().set(end));
        robot.type(KeyCode.E);
        robot.type(KeyCode.P);
        WaitForAsyncUtils.waitForFxEvents();
    }
}
