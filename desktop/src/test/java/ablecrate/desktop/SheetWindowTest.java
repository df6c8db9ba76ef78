package ablecrate.desktop;

import static org.assertj.core.api.Assertions.assertThat;
import static org.testfx.util.WaitForAsyncUtils.waitFor;

import ablecrate.change.Verdict;
import ablecrate.destination.SheetCatalogue;
import ablecrate.job.Job;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.TimeUnit;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.stage.Stage;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;

/// A sheet of one's own is made of one that ships, tried on what is gathered, saved and packed for.
class SheetWindowTest extends WindowFixture {
    @Start void open(Stage stage) {
        stage.setWidth(1280);
        stage.setHeight(800);
        show(stage);
    }

    private static String text(FxRobot robot, String label) { return robot.lookup(label).queryAs(Label.class).getText(); }

    private static void type(FxRobot robot, String field, String text) {
        robot.interact(() -> {
            robot.lookup(field).queryAs(TextField.class).requestFocus();
            robot.lookup(field).queryAs(TextField.class).selectAll();
        });
        robot.write(text);
    }

    @Test void aSheetIsMadeTriedSavedAndUsed(FxRobot robot) throws Exception {
        robot.interact(() -> window.crate().start(Job.EMPTY.gathering(List.of(crate.resolve("Tin Kitchen"))).aimedAt("drum-pads")));
        waitFor(30, TimeUnit.SECONDS, () -> window.crate().isKnownProperty().get() && !window.list().all().isEmpty());
        robot.push(KeyCode.SHORTCUT, KeyCode.SHIFT, KeyCode.D);
        assertThat(robot.lookup("#sheet-id").queryAs(TextField.class).getText()).isEqualTo("drum-pads-own");
        waitFor(10, TimeUnit.SECONDS, () -> text(robot, "#sheet-outcome").contains("18 lines adjusted"));

        type(robot, "#sheet-accepts-maxSeconds", "0.6");
        waitFor(10, TimeUnit.SECONDS, () -> text(robot, "#sheet-outcome").contains("blocked"));
        type(robot, "#sheet-accepts-ratesHz", "44100, 12");
        assertThat(text(robot, "#sheet-fault")).isEqualTo("Not right yet: accepts.ratesHz: 12 is no rate from 1000 to 1000000 Hz");
        assertThat(robot.lookup("#sheet-save").queryButton().isDisabled()).isTrue();
        type(robot, "#sheet-accepts-ratesHz", "48000, fast");
        assertThat(text(robot, "#sheet-fault")).isEqualTo("Not right yet: accepts.ratesHz: 'fast' is no number");
        type(robot, "#sheet-accepts-ratesHz", "48000");
        robot.interact(() -> robot.lookup("#sheet-accepts-depths-24").queryAs(CheckBox.class).fire());
        assertThat(text(robot, "#sheet-fault")).isEmpty();
        robot.clickOn("#sheet-save");

        Path saved = temp.resolve("drum-pads-own.json");
        assertThat(SheetCatalogue.read(Files.readString(saved), "saved").accepts())
                .satisfies(a -> assertThat(a.ratesHz()).containsExactly(48_000))
                .satisfies(a -> assertThat(a.depths()).containsExactly("16", "24"))
                .satisfies(a -> assertThat(a.maxSeconds()).isEqualTo(0.6));
        assertThat(window.crate().sheetProperty().get().name()).isEqualTo("Drum pad unit, 9 pads, own");
        waitFor(30, TimeUnit.SECONDS, () -> window.crate().isKnownProperty().get());
        assertThat(window.crate().listProperty().get().totals().get(Verdict.BLOCKED)).as("as was foretold").isPositive();

        robot.clickOn("#edit-sheet");
        assertThat(robot.lookup("#sheet-id").queryAs(TextField.class).getText()).as("it is changed, not copied once more").isEqualTo("drum-pads-own");
        robot.clickOn("#sheet-close");
        assertThat(robot.lookup("#sheet").tryQuery()).isEmpty();
    }
}
