package ablecrate.desktop;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.withinPercentage;

import ablecrate.change.Verdict;
import ablecrate.option.ItemEdit;
import ablecrate.pack.Packer;
import ablecrate.plan.PackingItem;
import java.nio.file.Files;
import java.util.Comparator;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.function.Supplier;
import javafx.geometry.Bounds;
import javafx.scene.Node;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Labeled;
import javafx.scene.control.TableView;
import javafx.scene.control.TextInputControl;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import javafx.stage.Stage;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;
import org.testfx.service.query.NodeQuery;
import org.testfx.util.WaitForAsyncUtils;

/// The whole job, with the keyboard alone and with the mouse, from an empty window to the slip and back, as somebody with a folder and ten minutes does it.
class JourneyTest extends WindowFixture {
    @Start void open(Stage stage) { show(stage); }

    private PackingItem current() { return window.list().currentProperty().get().orElseThrow(); }

    private ItemEdit edit() { return window.crate().job().edits().getOrDefault(current().source().path(), ItemEdit.NONE); }

    private static String text(FxRobot robot, String id) { return robot.lookup(id).queryAs(Labeled.class).getText(); }

    private void find(FxRobot robot, String words) {
        robot.push(KeyCode.CONTROL, KeyCode.F).push(KeyCode.CONTROL, KeyCode.A).write(words).type(KeyCode.DOWN);
        WaitForAsyncUtils.waitForFxEvents();
    }

    @Test void fromAnEmptyWindowToTheSlipAndBackByKeys(FxRobot robot) throws Exception {
        // Gather, and look at the worst first.
        robot.push(KeyCode.CONTROL, KeyCode.G);
        assertThat(window.list().all()).hasSize(90);
        robot.push(KeyCode.CONTROL, KeyCode.D);
        ComboBox<String> destination = robot.lookup("#destination").queryComboBox();
        assertThat(destination.isFocused()).isTrue();
        while (!window.crate().job().destination().equals("session"))
            robot.type(KeyCode.DOWN);
        robot.push(KeyCode.ALT, KeyCode.DIGIT2).type(KeyCode.W);
        TableView<PackingItem> table = robot.lookup("#packing-list").queryTableView();
        assertThat(table.getItems().getFirst().verdict()).isEqualTo(Verdict.BLOCKED);
        assertThat(table.getItems()).isSortedAccordingTo(Comparator.comparing(PackingItem::verdict).reversed());
        robot.type(KeyCode.W);

        // One sound: what is said of it, its start and end, the result beside it.
        find(robot, "Kettle");
        assertThat(current().source().fileName()).startsWith("Kettle Drum");
        robot.push(KeyCode.ALT, KeyCode.DIGIT3).push(KeyCode.ALT, KeyCode.LEFT);
        double mark = window.wave().markProperty().get();
        assertThat(mark).isPositive();
        robot.type(KeyCode.E);
        assertThat(edit().part().orElseThrow().end()).isEqualTo((long) mark);
        robot.push(KeyCode.ALT, KeyCode.LEFT).push(KeyCode.SHIFT, KeyCode.E);
        assertThat(edit().fadeOutMs().orElseThrow()).isPositive();
        robot.type(KeyCode.R);
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(window.beside().comparedProperty().get()).as("a null test of the result").isPresent();
        robot.type(KeyCode.R);

        // A loop for the bottle, a folder levelled as one.
        find(robot, "bottle_57");
        robot.push(KeyCode.ALT, KeyCode.DIGIT3).push(KeyCode.SHIFT, KeyCode.L);
        assertThat(edit().loop().loops().orElseThrow()).isNotEmpty();
        find(robot, "Tin Kitchen");
        int inFolder = window.list().shown().size();
        robot.push(KeyCode.CONTROL, KeyCode.SHIFT, KeyCode.J);
        assertThat(window.treatments().chosenCount()).isEqualTo(inFolder);

        // A preset, then pack, and read the slip.
        robot.push(KeyCode.CONTROL, KeyCode.E);
        TextInputControl name = robot.lookup("#preset-name").query();
        while (!name.isFocused())
            robot.type(KeyCode.TAB);
        robot.write("rehearsal").type(KeyCode.ENTER).type(KeyCode.ESCAPE);
        assertThat(Files.list(temp.resolve("presets"))).singleElement().satisfies(f -> assertThat(f.getFileName().toString()).startsWith("rehearsal"));
        robot.push(KeyCode.CONTROL, KeyCode.I);
        assertThat(window.crate().job().into()).contains(temp.resolve("out"));
        robot.push(KeyCode.CONTROL, KeyCode.ENTER);
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(text(robot, "#slip-summary")).contains("Recording session", "packed into");
        assertThat(temp.resolve("out").resolve(Packer.SLIP_HTML)).exists();
        robot.type(KeyCode.ESCAPE);

        // Save, take everything back, open what was saved.
        robot.push(KeyCode.CONTROL, KeyCode.S);
        var saved = window.crate().job();
        for (int i = 0; i < 12 && !window.crate().undoLabel().isEmpty(); i++)
            robot.push(KeyCode.CONTROL, KeyCode.Z);
        assertThat(window.crate().job().sources()).isEmpty();
        assertThat(window.crate().job().edits()).isEmpty();
        for (int i = 0; i < 20 && !window.crate().job().equals(saved); i++)
            robot.push(KeyCode.CONTROL, KeyCode.Y);
        assertThat(window.crate().job()).isEqualTo(saved);
        robot.push(KeyCode.CONTROL, KeyCode.N);
        assertThat(window.list().all()).isEmpty();
        robot.push(KeyCode.CONTROL, KeyCode.O);
        assertThat(window.crate().job()).isEqualTo(saved);
        assertThat(window.list().all()).hasSize(90);
        assertThat(List.of(window.crate().errorProperty().get())).containsExactly("");
    }

    private void chooseOf(FxRobot robot, String combo, String label) {
        robot.clickOn(combo);
        WaitForAsyncUtils.waitForFxEvents();
        robot.clickOn(robot.lookup(".combo-box-popup .list-cell").match((Node n) -> n instanceof Labeled l && n.isVisible() && label.equals(l.getText()))
                .queryAs(Node.class));
        WaitForAsyncUtils.waitForFxEvents();
    }

    /// The button comes up with the first filter; it is clicked once it has its place.
    private static void showAll(FxRobot robot) throws TimeoutException {
        Node button = robot.lookup("#show-all").query();
        WaitForAsyncUtils.waitFor(10, TimeUnit.SECONDS,
                () -> button.isVisible() && button.getLayoutBounds().getWidth() > 0 && !button.getParent().isNeedsLayout());
        robot.clickOn(button);
    }

    /// The row of the packing list that shows this name, once the list has been laid out anew.
    private Node row(FxRobot robot, String name) throws TimeoutException {
        TableView<PackingItem> table = robot.lookup("#packing-list").queryTableView();
        // A query looks around when it is made.
        Supplier<NodeQuery> shown = () -> robot.lookup(".row-name").match((Node n) -> n instanceof Labeled l && n.isVisible() && l.getText().startsWith(name));
        WaitForAsyncUtils.waitFor(10, TimeUnit.SECONDS, () -> {
            robot.interact(() -> table.getItems().stream().filter(i -> i.source().fileName().startsWith(name)).findFirst().ifPresent(table::scrollTo));
            return shown.get().tryQuery().isPresent();
        });
        return shown.get().queryAs(Node.class);
    }

    /// The same with the mouse alone, but for what has to be typed.
    @Test void fromAnEmptyWindowToTheSlipAndBackByMouse(FxRobot robot) throws Exception {
        robot.clickOn("#gather-folder");
        assertThat(window.list().all()).hasSize(90);
        chooseOf(robot, "#destination", "Recording session");
        assertThat(window.crate().job().destination()).isEqualTo("session");
        robot.clickOn("#worst-first");
        TableView<PackingItem> table = robot.lookup("#packing-list").queryTableView();
        assertThat(table.getItems().getFirst().verdict()).isEqualTo(Verdict.BLOCKED);
        robot.clickOn("#worst-first").clickOn("#verdict-blocked");
        assertThat(table.getItems()).isNotEmpty().allMatch(i -> i.verdict() == Verdict.BLOCKED);
        showAll(robot);

        // A sound: its end, a fade, the result beside it.
        robot.clickOn(row(robot, "Kettle Drum"));
        Bounds wave = robot.lookup("#wave").query().localToScreen(robot.lookup("#wave").query().getLayoutBounds());
        robot.drag(wave.getMaxX() - 2, wave.getMaxY() - 8, MouseButton.PRIMARY).dropTo(wave.getCenterX(), wave.getMaxY() - 8);
        assertThat(edit().part().orElseThrow().end()).isCloseTo(current().source().sound().orElseThrow().frames() / 2, withinPercentage(2));
        robot.clickOn("#face-result");
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(window.beside().comparedProperty().get()).isPresent();
        for (String heard : List.of("#hear-result", "#hear-difference", "#play", "#play"))
            robot.clickOn(heard);

        // A folder's levels; a loop that is found; zones of an instrument.
        robot.clickOn(
                robot.lookup(".tree-cell").match((Node n) -> n.lookup(".label") instanceof Labeled l && l.getText().equals("Tin Kitchen")).queryAs(Node.class));
        int inFolder = window.list().shown().size();
        assertThat(inFolder).isEqualTo(18);
        robot.clickOn("#face-levels").clickOn("#levels-aim");
        assertThat(window.list().shown()).allMatch(i -> i.outputs().getFirst().levels().after().isPresent());
        showAll(robot);
        robot.clickOn(row(robot, "bottle_57")).clickOn("#face-wave").clickOn("#loop-find");
        assertThat(edit().loop().loops().orElseThrow()).isNotEmpty();
        robot.clickOn(row(robot, "wind-up harp.sfz"));
        Node zone = robot.lookup(".zone").nth(0).query();
        robot.clickOn(zone).clickOn("#zone-out");
        assertThat(edit().map()).isPresent();

        // Pack, look at what became of it, and go back to one sound from the slip.
        robot.clickOn("#choose-into").clickOn("#pack");
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(text(robot, "#slip-summary")).contains("Recording session", "packed into");
        TableView<?> slip = robot.lookup("#slip-table").queryTableView();
        int lines = slip.getItems().size();
        robot.clickOn("#slip-blocked");
        assertThat(slip.getItems().size()).isBetween(1, lines - 1);
        robot.clickOn("#slip-back");

        // Save, take steps back and again, begin anew, open what was saved.
        robot.clickOn("#save");
        var saved = window.crate().job();
        for (int i = 0; i < 3; i++)
            robot.clickOn("#undo");
        assertThat(window.crate().job()).isNotEqualTo(saved);
        for (int i = 0; i < 3; i++)
            robot.clickOn("#redo");
        assertThat(window.crate().job()).isEqualTo(saved);
        robot.clickOn("#more").clickOn("#menu-new");
        assertThat(window.list().all()).isEmpty();
        robot.clickOn("#open");
        assertThat(window.crate().job()).isEqualTo(saved);
        assertThat(window.crate().errorProperty().get()).isEmpty();
    }
}
