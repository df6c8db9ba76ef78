package ablecrate.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import javafx.scene.AccessibleRole;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.control.Control;
import javafx.scene.control.Label;
import javafx.scene.control.Labeled;
import javafx.scene.control.ScrollBar;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.SplitPane;
import javafx.scene.control.TableRow;
import javafx.scene.input.KeyCode;
import javafx.stage.Stage;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;
import org.testfx.util.WaitForAsyncUtils;

/// The window for people who do not see it, or use no mouse.
class AccessTest extends WindowFixture {
    @Start void open(Stage stage) { show(stage); }

    private static void walk(Node node, List<Node> into) {
        if (!node.isVisible()) return;
        into.add(node);
        if (node instanceof Parent parent) parent.getChildrenUnmodifiable().forEach(child -> walk(child, into));
    }

    private List<Node> nodes() {
        List<Node> all = new ArrayList<>();
        walk(window.scene().getRoot(), all);
        return all;
    }

    private static boolean hasName(Node node) {
        return node.getAccessibleText() != null && !node.getAccessibleText().isBlank()
                || node instanceof Labeled l && l.getText() != null && !l.getText().isBlank();
    }

    /// Parts of other controls speak through these.
    private static boolean isPart(Node node) {
        return node instanceof ScrollBar || node instanceof ScrollPane || node instanceof SplitPane || node instanceof TableRow<?> || node instanceof Label
                || node.getParent() instanceof Control parent && hasName(parent);
    }

    private static String told(Node node) { return node.getClass().getSimpleName() + "#" + node.getId() + " " + node.getStyleClass(); }

    private void every(FxRobot robot, String place, Set<String> silent, Set<String> unframed) {
        WaitForAsyncUtils.waitForFxEvents();
        robot.interact(() -> nodes().stream().filter(Node::isFocusTraversable).forEach(n -> {
            if (!isPart(n) && !hasName(n)) silent.add(place + ": " + told(n));
            // What draws itself says what it is.
            if (!(n instanceof Control) && n.getAccessibleRole() == AccessibleRole.PARENT) unframed.add(place + ": " + told(n));
        }));
    }

    @Test void everythingThatTakesTheFocusHasANameAndARole(FxRobot robot) {
        Set<String> silent = new LinkedHashSet<>(), unframed = new LinkedHashSet<>();
        every(robot, "empty", silent, unframed);
        robot.interact(() -> window.crate().gather(List.of(crate)));
        robot.interact(() -> window.chooseLine("bottle_65"));
        every(robot, "wave", silent, unframed);
        robot.interact(() -> window.chooseLine("wind-up harp.sfz"));
        for (String bench : List.of("keys", "levels", "result")) {
            robot.interact(() -> window.showBench(bench));
            every(robot, bench, silent, unframed);
        }
        robot.interact(() -> window.cards().showActions(window.actions()));
        every(robot, "actions", silent, unframed);
        robot.type(KeyCode.ESCAPE);
        robot.interact(window.cards()::showPresets);
        every(robot, "presets", silent, unframed);
        robot.type(KeyCode.ESCAPE);
        robot.clickOn("#choose-into").clickOn("#pack");
        every(robot, "slip", silent, unframed);
        assertThat(silent).as("without a name").isEmpty();
        assertThat(unframed).as("without a role").isEmpty();
    }

    /// From the folders to the button that packs, with nothing but Tab; where the focus is can be seen.
    @Test void tabGoesToEverythingAndTheFocusIsSeen(FxRobot robot) {
        robot.interact(() -> window.crate().gather(List.of(crate.resolve("Bottle Organ"))));
        robot.interact(() -> window.chooseLine("bottle_65"));
        robot.push(KeyCode.ALT, KeyCode.DIGIT1);
        Set<String> reached = new LinkedHashSet<>();
        for (int i = 0; i < 120; i++) {
            robot.type(KeyCode.TAB);
            Node focus = window.scene().getFocusOwner();
            if (focus.getId() != null) reached.add(focus.getId());
            assertThat(focus.getPseudoClassStates()).as(told(focus)).anyMatch(s -> s.getPseudoClassName().equals("focus-visible"));
        }
        assertThat(reached).contains("gathered", "gather-folder", "filter", "packing-list", "wave", "wave-start", "loop-start", "loop-mode", "seam",
                "face-levels",
                "play", "destination", "option-dither", "name-pattern", "choose-into", "pack", "undo");
    }
}
