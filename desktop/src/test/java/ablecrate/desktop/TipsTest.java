package ablecrate.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Optional;
import java.util.concurrent.TimeUnit;
import javafx.scene.control.TextField;
import javafx.scene.control.Tooltip;
import javafx.stage.Stage;
import javafx.stage.Window;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;
import org.testfx.util.WaitForAsyncUtils;

/// One tooltip says of each control what it is for, and why what was typed into a field cannot be taken.
class TipsTest extends WindowFixture {
    @Start void open(Stage stage) { show(stage); }

    private static Optional<Tooltip> showing() {
        return Window.getWindows().stream().filter(w -> w instanceof Tooltip && w.isShowing()).map(Tooltip.class::cast).findFirst();
    }

    private static void waitFor(String text) throws Exception {
        WaitForAsyncUtils.waitFor(5, TimeUnit.SECONDS, () -> showing().filter(t -> t.getText().equals(text)).isPresent());
    }

    @Test void itSaysWhatThePointerRestsOn(FxRobot robot) throws Exception {
        robot.moveTo("#worst-first");
        waitFor("Sort by verdict, the worst on top (W)");
        robot.moveTo("#filter");
        waitFor(Tips.of(robot.lookup("#filter").query()));
        assertThat(showing().orElseThrow().getText()).startsWith("Show lines whose name");
        assertThat(robot.lookup("#filter").query().getAccessibleHelp()).as("what is read out").startsWith("Show lines whose name");
        assertThat(Window.getWindows().stream().filter(Tooltip.class::isInstance)).as("of all controls").hasSize(1);
    }

    @Test void aFaultStandsInItsPlaceUntilItIsMended(FxRobot robot) {
        TextField field = robot.lookup("#name-pattern").queryAs(TextField.class);
        String usual = Tips.of(field);
        robot.interact(() -> Typed.mark(field, Optional.of("no number")));
        assertThat(Tips.of(field)).isEqualTo(field.getAccessibleHelp()).isEqualTo("no number");
        robot.interact(() -> Typed.mark(field, false));
        assertThat(Tips.of(field)).isEqualTo(usual).isNotEmpty();
        robot.interact(() -> Tips.on(field, ""));
        assertThat(field.getAccessibleHelp()).isNull();
    }
}
