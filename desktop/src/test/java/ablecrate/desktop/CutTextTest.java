package ablecrate.desktop;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;
import javafx.geometry.Bounds;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.control.IndexedCell;
import javafx.scene.control.Labeled;
import javafx.scene.control.ScrollPane;
import javafx.scene.input.KeyCode;
import javafx.scene.text.Text;
import javafx.stage.Stage;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;
import org.testfx.util.WaitForAsyncUtils;

/// At small sizes, and with text half as large again, nothing that has to be read or pressed is cut off.
class CutTextTest extends WindowFixture {
    @Start void open(Stage stage) { show(stage); }

    /// Text that ends in dots and is told whole nowhere, and controls that lie outside of the window.
    private static void collect(Node node, boolean scrolls, String place, Set<String> cut) {
        if (!node.isVisible()) return;
        if (node instanceof Labeled l && l.getText() != null && !l.getText().isBlank()) {
            boolean isShort = l.lookup(".text") instanceof Text t && !l.isWrapText() && t.getText().length() < l.getText().length();
            if (isShort && Tips.of(l).isEmpty()
                    && Stream.iterate(l.getParent(), p -> p != null, Parent::getParent).noneMatch(p -> p instanceof IndexedCell<?> && !Tips.of(p).isEmpty()))
                cut.add(place + ": '" + l.getText() + "'");
            Bounds inScene = l.localToScene(l.getLayoutBounds());
            if (!scrolls && (inScene.getMinX() < -1 || inScene.getMaxX() > l.getScene().getWidth() + 1)) cut.add(place + ": '" + l.getText() + "' outside");
        }
        boolean below = scrolls || node instanceof ScrollPane || node.getStyleClass().contains("virtual-flow")
                || node.getStyleClass().contains("column-header-background");
        if (node instanceof Parent parent) parent.getChildrenUnmodifiable().forEach(child -> collect(child, below, place, cut));
    }

    private void look(FxRobot robot, String place, Set<String> cut) {
        WaitForAsyncUtils.waitForFxEvents();
        robot.interact(() -> collect(window.scene().getRoot(), false, place, cut));
    }

    @Test void nothingIsCutOff(FxRobot robot) throws Exception {
        Stage stage = (Stage) window.scene().getWindow();
        Set<String> cut = new LinkedHashSet<>();
        robot.interact(() -> window.crate().gather(List.of(crate)));
        for (int[] size : List.of(new int[]{1280, 800, 100}, new int[]{1280, 800, 150}, new int[]{1000, 700, 100})) {
            robot.interact(() -> {
                stage.setWidth(size[0]);
                stage.setHeight(size[1]);
                window.setTextSize(size[2]);
            });
            String at = size[0] + "x" + size[1] + " at " + size[2] + " %, ";
            robot.interact(() -> window.chooseLine("bottle_65"));
            look(robot, at + "wave", cut);
            robot.interact(() -> window.chooseLine("overture.m3u"));
            look(robot, at + "blocked", cut);
            robot.interact(() -> window.chooseLine("wind-up harp.sfz"));
            for (String bench : List.of("keys", "levels", "result", "fit", "session", "device", "library")) {
                robot.interact(() -> window.showBench(bench));
                look(robot, at + bench, cut);
            }
            for (String destination : List.of("keyboard-sampler", "session")) {
                robot.interact(() -> window.crate().aim(destination));
                look(robot, at + destination, cut);
            }
            robot.interact(() -> window.crate().aim("files"));
            robot.interact(() -> window.cards().showActions(window.actions()));
            look(robot, at + "actions", cut);
            robot.interact(window.cards()::close);
            robot.interact(window.cards()::showJoinOrder);
            look(robot, at + "order of joined sounds", cut);
            robot.interact(window.cards()::close);
            robot.interact(window.cards()::showPresets);
            look(robot, at + "presets", cut);
            robot.interact(window.cards()::close);
            robot.interact(window.cards()::showFormats);
            look(robot, at + "formats", cut);
            robot.interact(window.cards()::close);
        }
        assertThat(cut).isEmpty();
    }

    /// Where the window is narrow for its text, folders and list take turns; the size is remembered.
    @Test void textGrowsByKeysAndFoldersTakeTurns(FxRobot robot) {
        robot.interact(() -> window.crate().gather(List.of(crate.resolve("Rhythms"))));
        assertThat(robot.lookup("#show-folders").queryButton().isVisible()).isFalse();
        double before = robot.lookup("#pack").queryButton().localToScene(robot.lookup("#pack").queryButton().getLayoutBounds()).getHeight();
        for (int i = 0; i < 3; i++)
            robot.push(KeyCode.CONTROL, KeyCode.EQUALS);
        WaitForAsyncUtils.waitForFxEvents();
        double after = robot.lookup("#pack").queryButton().localToScene(robot.lookup("#pack").queryButton().getLayoutBounds()).getHeight();
        assertThat(after / before).isCloseTo(1.5, within(0.05));
        assertThat(window.settings().look().textPercent()).isEqualTo(150);
        assertThat(robot.lookup("#gathered").tryQuery()).isEmpty();
        robot.clickOn("#show-folders");
        assertThat(robot.lookup("#gathered").tryQuery()).isPresent();
        robot.push(KeyCode.ALT, KeyCode.DIGIT2);
        assertThat(robot.lookup("#packing-list").tryQuery()).isPresent();
        robot.push(KeyCode.CONTROL, KeyCode.DIGIT0);
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(robot.lookup("#gathered").tryQuery()).isPresent();
    }
}
