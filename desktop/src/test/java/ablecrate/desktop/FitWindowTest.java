package ablecrate.desktop;

import static org.assertj.core.api.Assertions.assertThat;
import static org.testfx.util.WaitForAsyncUtils.waitFor;

import ablecrate.change.Verdict;
import ablecrate.desktop.fit.FitModel;
import ablecrate.destination.SheetCatalogue;
import ablecrate.library.Gathered;
import ablecrate.library.Gatherer;
import ablecrate.option.Banks;
import ablecrate.option.Choice;
import ablecrate.option.PackOptions;
import ablecrate.pack.Packer;
import ablecrate.pack.PackingSlip;
import ablecrate.pack.StopSignal;
import ablecrate.plan.PackingList;
import ablecrate.planner.Planner;
import ablecrate.signal.SoundPath;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;
import ablecrate.option.Fitting;
import ablecrate.plan.PackingItem;
import java.io.IOException;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

import java.util.stream.Stream;
import javafx.geometry.Bounds;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import javafx.stage.Stage;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;
import org.testfx.util.WaitForAsyncUtils;

/// An instrument that is too much for a device, in the window: what fitting costs is seen, and the user holds the handle.
class FitWindowTest extends WindowFixture {
    @Start void start(Stage stage) { show(stage); }

    private PackingItem harp() { return window.list().all().stream().filter(i -> i.source().fileName().equals("wind-up harp.sfz")).findFirst().orElseThrow(); }

    private Fitting fitting() { return window.crate().job().options().instruments().fitting(); }

    /// The demo's harp on the bench, in so much memory.
    private void showHarp(FxRobot robot, double megabytes) {
        robot.interact(() -> {
            window.crate().gather(List.of(crate.resolve("Instruments/wind-up harp.sfz")));
            window.crate().aim("keyboard-sampler");
            window.crate().changeOptions(o -> o.withInstruments(o.instruments().withFitting(o.instruments().fitting().withMemory(Optional.of(megabytes)))),
                    "memory");
            window.chooseLine("wind-up harp.sfz");
            window.showBench("fit");
        });
        WaitForAsyncUtils.waitForFxEvents();
    }

    private static List<String> gauges(FxRobot robot) { return robot.lookup("#limits .label").queryAllAs(Label.class).stream().map(Label::getText).toList(); }

    private static Node node(FxRobot robot, String id) { return robot.lookup("#" + id).query(); }

    @Test void theHandleGivesLessMemoryAndStepsCanBeForbidden(FxRobot robot) {
        robot.interact(() -> {
            window.crate().gather(List.of(crate.resolve("Instruments/wind-up harp.sfz")));
            window.crate().aim("keyboard-sampler");
        });
        String whole = harp().reason();
        assertThat(whole).as("one of two turns, as the device plays no more").matches("fitted: 24 → 16 samples, .*");
        robot.interact(() -> window.chooseLine("wind-up harp.sfz"));
        assertThat(gauges(robot)).as("what the device counts, and nothing else").contains("Velocity layers", "2 of 4", "Zones", "16 of 128");
        robot.interact(() -> {
            window.crate().changeOptions(o -> o.withInstruments(o.instruments().withFitting(o.instruments().fitting().withMemory(Optional.of(1.0)))), "memory");
            window.chooseLine("wind-up harp.sfz");
            window.showBench("fit");
        });
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(harp().verdict()).isEqualTo(Verdict.REDUCED);
        assertThat(((Label) node(robot, "fit-sentence")).getText()).matches("fitted: .* MB → .*; sounds \\d\\.\\d dB different in the mean, .*");
        Node curve = node(robot, "fit-curve");
        double wide = curve.getBoundsInLocal().getWidth();
        robot.moveTo(curve).moveBy(wide / 8, 0).press(MouseButton.PRIMARY).moveBy(-10, 0).release(MouseButton.PRIMARY);
        WaitForAsyncUtils.waitForFxEvents();
        double dragged = fitting().memoryMb().orElseThrow();
        assertThat(dragged).as("MB").isBetween(0.2, 0.9);
        assertThat(harp().outputs().stream().mapToLong(o -> o.audioBytes()).sum()).isLessThanOrEqualTo(Math.round(dragged * 1e6));
        robot.interact(curve::requestFocus);
        robot.press(KeyCode.RIGHT).release(KeyCode.RIGHT);
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(fitting().memoryMb().orElseThrow()).as("a little more").isGreaterThan(0.2);

        CheckBox roots = (CheckBox) node(robot, "fit-step-roots");
        assertThat(roots.isSelected()).isTrue();
        robot.interact(roots::fire);
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(fitting().without()).containsExactly("roots");
        assertThat(harp().changes()).noneSatisfy(c -> assertThat(c.reason()).contains("neighbours stand in"));
        assertThat(((CheckBox) node(robot, "fit-step-roots")).isSelected()).isFalse();
        robot.interact(() -> window.crate().undo());
        assertThat(fitting().without()).isEmpty();
        robot.clickOn("#fit-all");
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(fitting().memoryMb()).isEmpty();
        assertThat(harp().reason()).isEqualTo(whole);
    }

    /// Plucked sounds have no loops; with them, what lies behind goes, and notes die away by an envelope.
    @Test void loopsAreFoundWhereMemoryIsShort(FxRobot robot) {
        showHarp(robot, 0.4);
        CheckBox loops = (CheckBox) node(robot, "fit-loops");
        assertThat(loops.isSelected()).isFalse();
        assertThat(loops.getText()).isEqualTo("find loops for 24 samples that have none");
        robot.interact(loops::fire);
        WaitForAsyncUtils.waitForFxEvents();
        loops = (CheckBox) node(robot, "fit-loops");
        assertThat(loops.isSelected()).isTrue();
        assertThat(loops.getText()).matches("loops found for \\d+ of 24 samples that had none");
        assertThat(harp().changes()).anySatisfy(c -> assertThat(c.reason()).startsWith("notes in found loops die away"));
        robot.interact(() -> window.crate().undo());
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(((CheckBox) node(robot, "fit-loops")).isSelected()).isFalse();
    }

    @Test void eachNoteIsSeenAndHeardFromBothSides(FxRobot robot) throws Exception {
        showHarp(robot, 0.4);
        robot.interact(() -> window.actions().find("bench-size").run().run());
        WaitForAsyncUtils.waitForFxEvents();
        Matcher said = Pattern.compile(", ([\\d.]+ dB) at (\\S+) at velocity (\\d+)").matcher(((Label) node(robot, "fit-sentence")).getText());
        assertThat(said.find()).isTrue();
        String velocity = " at velocity " + said.group(3), worst = said.group(2) + velocity + ": " + said.group(1) + " different";
        Label told = (Label) node(robot, "fit-note");
        assertThat(told.getText()).as("the note that differs most comes first").isEqualTo(worst);
        Node map = node(robot, "fit-notes");
        assertThat(map.getAccessibleText()).isEqualTo(worst);
        robot.interact(map::requestFocus);
        robot.press(KeyCode.LEFT).release(KeyCode.LEFT);
        assertThat(told.getText()).contains(velocity).doesNotStartWith(said.group(2) + " ");
        robot.press(KeyCode.DOWN).release(KeyCode.DOWN);
        assertThat(told.getText()).as("a softer one").doesNotContain(velocity);

        Button side = (Button) node(robot, "side");
        robot.press(KeyCode.ENTER).release(KeyCode.ENTER);
        assertThat(side.getText()).as("first").isEqualTo("Source");
        waitFor(5, TimeUnit.SECONDS, () -> side.getText().equals("Result"));
        waitFor(5, TimeUnit.SECONDS, () -> side.getText().equals("Source"));

        Bounds box = map.localToScreen(map.getBoundsInLocal());
        robot.clickOn(box.getMinX() + 40, box.getMinY() + 20);
        assertThat(told.getText()).as("the lowest key, in the upper row").startsWith("C2 at velocity 95");
    }

    /// A bank may have several presets of one name; each has its own notes.
    @Test void instrumentsOfOneNameAreToldApart(FxRobot robot) throws Exception {
        for (int[] keys : new int[][]{{48, 57, 65}, {53, 60, 69, 72}}) {
            Path into = Files.createDirectories(temp.resolve("in").resolve("from " + keys[0]));
            StringBuilder map = new StringBuilder();
            for (int key : keys) {
                Path sound = Files.copy(bottle(key), into.resolve(bottle(key).getFileName()));
                map.append("<region> sample=" + sound.getFileName() + " lokey=" + (key - 4) + " hikey=" + (key + 3) + " pitch_keycenter=" + key + "\n");
            }
            Files.writeString(into.resolve("bottles.sfz"), map);
        }
        PackOptions oneBank = PackOptions.DEFAULT.withContainer(Choice.of("sf2")).withInstruments(PackOptions.DEFAULT.instruments().withBanks(Banks.ONE));
        List<Gathered> both = Gatherer.readAll(Gatherer.find(List.of(temp.resolve("in")), () -> false));
        PackingList list = Planner.plan(both, new SheetCatalogue().byId("files").orElseThrow(), oneBank);
        PackingSlip slip = new Packer(list, new SoundPath(), 1, new StopSignal(), _ -> {}, InstantSource.system()).packInto(temp.resolve("bank"));
        String bank = slip.items().getFirst().maps().getFirst().path();
        robot.interact(() -> {
            window.crate().gather(List.of(temp.resolve("bank").resolve(bank)));
            window.crate().aim("bank-player");
            window.crate().changeOptions(o -> o.withInstruments(o.instruments().withFitting(o.instruments().fitting().withMemory(Optional.of(0.25)))),
                    "memory");
            window.chooseLine(bank);
            window.showBench("fit");
        });
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(window.keys().names()).containsExactly("bottles", "bottles");
        ComboBox<FitModel.Changed> chooser = robot.lookup("#fit-instrument").queryComboBox();
        assertThat(chooser.getItems()).hasSize(2);
        Label note = (Label) node(robot, "fit-note");
        for (FitModel.Changed changed : List.copyOf(chooser.getItems())) {
            robot.interact(() -> chooser.setValue(changed));
            WaitForAsyncUtils.waitForFxEvents();
            assertThat(chooser.getValue()).isEqualTo(changed);
            assertThat(window.keys().indexProperty().get()).isEqualTo(changed.place().orElseThrow());
            assertThat(note.getText()).as("its own worst note").contains(String.format(Locale.ROOT, "%.1f dB", changed.harm().worstDb()));
        }
    }

    private static Path bottle(int key) throws IOException {
        try (Stream<Path> files = Files.list(crate.resolve("Bottle Organ"))) {
            return files.filter(f -> f.getFileName().toString().startsWith("bottle_" + key + ".")).findFirst().orElseThrow();
        }
    }

    @Test void rootsAndLayersAreHeldOnTheKeys(FxRobot robot) {
        robot.interact(() -> {
            window.crate().gather(List.of(crate.resolve("Instruments/wind-up harp.sfz")));
            window.crate().aim("keyboard-sampler");
            window.chooseLine("wind-up harp.sfz");
            window.showBench("keys");
            window.keys().choose(0, false);
        });
        WaitForAsyncUtils.waitForFxEvents();
        Zone zone = window.keys().zones().getFirst();
        robot.press(KeyCode.ALT, KeyCode.DIGIT3).release(KeyCode.DIGIT3, KeyCode.ALT);
        robot.press(KeyCode.F).release(KeyCode.F);
        robot.press(KeyCode.SHIFT, KeyCode.F).release(KeyCode.F, KeyCode.SHIFT);
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(fitting().keptRoots()).containsExactly(zone.get(Parameter.ROOT_KEY));
        assertThat(fitting().keptVelocities()).containsExactly(zone.get(Parameter.VELOCITIES).high());
        assertThat(robot.lookup(".zone-kept").queryAll()).as("rings on what is held").hasSizeGreaterThan(1);
        robot.press(KeyCode.F).release(KeyCode.F);
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(fitting().keptRoots()).as("once more lets go").isEmpty();
        robot.interact(() -> window.crate().undo());
        assertThat(fitting().keptRoots()).isNotEmpty();
    }

    /// The handle moves what all instruments share, or what each of them has.
    @ParameterizedTest @ValueSource(strings = {"bank-player", "keyboard-sampler"}) void theHandleOfABankGivesLessMemory(String device, FxRobot robot) {
        robot.interact(() -> {
            window.crate().gather(List.of(crate.resolve("Instruments/orchestra pit.sf2")));
            window.crate().aim(device);
            window.crate().changeOptions(o -> o.withInstruments(o.instruments().withFitting(o.instruments().fitting().withMemory(Optional.of(0.6)))), "memory");
            window.chooseLine("orchestra pit.sf2");
            window.showBench("fit");
        });
        WaitForAsyncUtils.waitForFxEvents();
        double before = fitting().memoryMb().orElseThrow();
        long bytes = bytes();
        robot.interact(() -> node(robot, "fit-curve").requestFocus());
        for (int press = 0; press < 3; press++) {
            robot.press(KeyCode.LEFT).release(KeyCode.LEFT);
            WaitForAsyncUtils.waitForFxEvents();
        }
        double mb = fitting().memoryMb().orElseThrow();
        boolean isEach = device.equals("keyboard-sampler");
        assertThat(mb).isLessThan(before);
        assertThat(bytes()).as("bytes of all").isLessThan(bytes).isLessThanOrEqualTo(Math.round(mb * 1e6 * (isEach ? 3 : 1)));
        assertThat(robot.lookup("#fit-curve .fit-text").queryText().getText()).matches(isEach ? ".* kB each, .* dB" : ".* kB, .* dB");
        assertThat(gauges(robot)).contains(isEach ? "Memory each" : "Memory");
    }

    /// Loose sounds share one memory: all of them go, and the line of the curve leaves room for what is on the device.
    @Test void looseSoundsShareTheMemory(FxRobot robot) {
        robot.interact(() -> {
            window.crate().gather(List.of(crate.resolve("Wind-up Harp"), crate.resolve("Tin Kitchen"), crate.resolve("Rhythms")));
            window.crate().aim("pocket-sampler");
        });
        assertThat(gauges(robot)).as("also where no line is chosen").contains("Memory");
        robot.interact(() -> {
            window.chooseLine("harp A#3.wav");
            window.showBench("fit");
        });
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(window.crate().listProperty().get().items()).noneMatch(i -> i.verdict() == Verdict.BLOCKED);
        assertThat(((Label) node(robot, "fit-sentence")).getText())
                .matches("(fitted: .*, \\d\\.\\d dB different|it stays whole); all sounds together take .* → (1\\.9|2\\.0) MB");
        long before = bytes();
        robot.interact(() -> node(robot, "fit-curve").requestFocus());
        robot.press(KeyCode.LEFT).release(KeyCode.LEFT);
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(fitting().memoryMb().orElseThrow()).isLessThan(2);
        assertThat(bytes()).isLessThan(before).isLessThanOrEqualTo(Math.round(fitting().memoryMb().orElseThrow() * 1e6));

        robot.interact(
                () -> window.crate().changeOptions(o -> o.withInstruments(o.instruments().withFitting(fitting().withMemory(Optional.of(0.05)))), "memory"));
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(((Label) node(robot, "fit-sentence")).getText()).matches("it takes .*; however small they are made, sounds take at least .* together");
    }

    private long bytes() {
        return window.crate().listProperty().get().items().stream().flatMap(i -> i.outputs().stream()).mapToLong(o -> o.audioBytes()).sum();
    }
}
