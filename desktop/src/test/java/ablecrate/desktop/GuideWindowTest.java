package ablecrate.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.desktop.help.Guide;
import ablecrate.desktop.help.GuideView;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javafx.scene.input.Clipboard;
import javafx.scene.input.KeyCode;
import javafx.stage.Stage;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;
import org.testfx.util.WaitForAsyncUtils;

/// The guide in the window.
class GuideWindowTest extends WindowFixture {
    private static final Pattern LINK = Pattern.compile("\\]\\(([a-z-]+)\\.md\\)"), PICTURE = Pattern.compile("!\\[[^]]*\\]\\(([^)]+)\\)");

    @Start void open(Stage stage) { show(stage); }

    private static String page(FxRobot robot) { return robot.lookup("#guide").queryAs(GuideView.class).page(); }

    private void opensAt(FxRobot robot, String page) {
        robot.type(KeyCode.F1);
        assertThat(page(robot)).isEqualTo(page);
        robot.type(KeyCode.ESCAPE);
    }

    @Test void itOpensAtWhatIsOnTheScreen(FxRobot robot) {
        opensAt(robot, Guide.INDEX);
        robot.interact(() -> window.crate().gather(List.of(crate)));
        robot.interact(() -> window.chooseLine("bottle_65"));
        opensAt(robot, "loops");
        robot.interact(() -> window.chooseLine("Whisk"));
        robot.interact(() -> window.crate().aim("drum-pads"));
        opensAt(robot, "drum-pads");
        robot.interact(() -> window.showBench("levels"));
        opensAt(robot, "levels");
    }

    @Test void aReportOfFaultsIsCopied(FxRobot robot) {
        robot.push(KeyCode.SHIFT, KeyCode.F1);
        assertThat(robot.lookup("#guide").tryQuery()).isEmpty();
        robot.interact(() -> assertThat(Clipboard.getSystemClipboard().getString()).startsWith("Able Crate ").contains("Java "));
    }

    @Test void pagesLeadToEachOtherAndBack(FxRobot robot) {
        robot.type(KeyCode.F1);
        robot.clickOn("#guide-to-loops");
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(page(robot)).isEqualTo("loops");
        assertThat(robot.lookup(".guide-text .image-view").queryAll()).hasSize(1);
        robot.clickOn("#guide-back");
        assertThat(page(robot)).isEqualTo(Guide.INDEX);
        robot.clickOn("#guide-close");
        assertThat(robot.lookup("#guide").tryQuery()).isEmpty();
    }

    /// Every page that another names is there, can be shown, and has its pictures.
    @Test void everyPageCanBeRead(FxRobot robot) {
        Set<String> seen = new HashSet<>();
        Deque<String> next = new ArrayDeque<>(List.of(Guide.INDEX));
        while (!next.isEmpty()) {
            String name = next.pop();
            if (!seen.add(name)) continue;
            String text = Guide.page(name).orElseThrow(() -> new AssertionError("no page " + name));
            robot.interact(() -> assertThat(new GuideView(name, () -> {}).page()).isEqualTo(name));
            for (Matcher link = LINK.matcher(text); link.find();)
                next.push(link.group(1));
            for (Matcher picture = PICTURE.matcher(text); picture.find();)
                assertThat(Guide.picture(picture.group(1), 100)).as(name + ": " + picture.group(1)).isPresent();
        }
        assertThat(seen).hasSize(15);
    }
}
