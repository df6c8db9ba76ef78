package ablecrate.desktop;

import static org.assertj.core.api.Assertions.assertThat;
import static org.testfx.util.WaitForAsyncUtils.waitFor;

import ablecrate.desktop.dump.DumpModel;
import ablecrate.dump.Outcome;
import ablecrate.job.Job;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import javafx.scene.control.Label;
import javafx.scene.control.ListView;
import javafx.scene.input.KeyCode;
import javafx.stage.Stage;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;

/// What was packed as dumps goes over the cable, is asked for again, and comes into the crate.
class DumpWindowTest extends WindowFixture {
    @Start void open(Stage stage) {
        stage.setWidth(1280);
        stage.setHeight(800);
        show(stage);
    }

    private static String told(FxRobot robot) { return robot.lookup("#dumps-told").queryAs(Label.class).getText(); }

    @SuppressWarnings("unchecked") private static Stream<DumpModel.Line> lines(FxRobot robot) {
        return ((ListView<DumpModel.Line>) robot.lookup("#dumps-lines").queryAs(ListView.class)).getItems().stream();
    }

    @Test void dumpsAreSentAndAskedForAgain(FxRobot robot) throws Exception {
        robot.interact(() -> window.crate().start(Job.EMPTY.gathering(List.of(crate.resolve("Bottle Organ"))).aimedAt("rack-sampler")));
        waitFor(30, TimeUnit.SECONDS, () -> window.crate().isKnownProperty().get() && !window.list().all().isEmpty());
        robot.push(KeyCode.SHORTCUT, KeyCode.SHIFT, KeyCode.M);
        assertThat(robot.lookup("#dumps-sounds").queryAs(Label.class).getText()).startsWith("No dumps in the folder");
        assertThat(robot.lookup("#dumps-send").queryButton().isDisabled()).isTrue();
        robot.clickOn("#dumps-close");

        robot.push(KeyCode.SHORTCUT, KeyCode.ENTER);
        waitFor(60, TimeUnit.SECONDS, () -> window.run().slipProperty().get().isPresent());
        robot.interact(() -> {
            window.cards().close();
            window.showBench("device");
        });
        waitFor(10, TimeUnit.SECONDS, () -> robot.lookup("#device-dumps").query().isVisible());
        robot.clickOn("#device-dumps");
        waitFor(10, TimeUnit.SECONDS, () -> !robot.lookup("#dumps-send").queryButton().isDisabled());
        assertThat(robot.lookup("#dumps-sounds").queryAs(Label.class).getText()).startsWith("10 sounds, ").endsWith("min on the cable.");
        robot.clickOn("#dumps-send");
        waitFor(60, TimeUnit.SECONDS, () -> told(robot).startsWith("10 sounds arrived; "));
        assertThat(lines(robot)).extracting(DumpModel.Line::outcome).hasSize(10).containsOnly(Outcome.CONFIRMED);

        robot.clickOn("#dumps-numbers").write("first");
        robot.clickOn("#dumps-receive");
        assertThat(told(robot)).contains("'first' is no list of numbers");
        robot.doubleClickOn("#dumps-numbers").write("0-1, 77");
        robot.clickOn("#dumps-receive");
        waitFor(60, TimeUnit.SECONDS, () -> told(robot).startsWith("2 sounds arrived, 1 did not"));
        Path back = lines(robot).findFirst().orElseThrow().file().orElseThrow();
        try (Stream<Path> sent = Files.list(temp.resolve("out"))) {
            Path same = sent.filter(f -> f.getFileName().equals(back.getFileName())).findFirst().orElseThrow();
            assertThat(Files.readAllBytes(back)).as("bit for bit, and its name behind it").startsWith(Files.readAllBytes(same));
        }
        robot.interact(() -> window.cards().close());
        waitFor(30, TimeUnit.SECONDS, () -> window.list().all().stream().anyMatch(i -> i.source().path().equals(back)));
    }
}
