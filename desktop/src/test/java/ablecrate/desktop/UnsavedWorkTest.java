package ablecrate.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.audio.FrameRange;
import ablecrate.job.Job;
import ablecrate.job.Jobs;
import ablecrate.job.Recovery;
import ablecrate.option.ItemEdit;
import java.io.File;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.TimeUnit;
import javafx.application.Platform;
import javafx.scene.Node;
import javafx.scene.control.Labeled;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.stage.Stage;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;
import org.testfx.util.WaitForAsyncUtils;
import org.testfx.framework.junit5.Start;

/// What the window asks before work would be lost, and how it finds what was left or moved.
class UnsavedWorkTest extends WindowFixture {
    @Start void open(Stage stage) { show(stage); }

    private static boolean isThere(FxRobot robot, String id) { return robot.lookup(id).tryQuery().isPresent(); }

    private static List<String> texts(FxRobot robot, String card) {
        return robot.from(robot.lookup(card)).lookup(".label").queryAllAs(Labeled.class).stream().map(Labeled::getText).toList();
    }

    @Test void aNewJobAsksFirstAndCanBeCancelledSavedOrGivenUp(FxRobot robot) throws Exception {
        robot.push(KeyCode.CONTROL, KeyCode.N);
        assertThat(isThere(robot, "#unsaved")).as("nothing to lose").isFalse();
        robot.clickOn("#gather-folder");
        robot.push(KeyCode.CONTROL, KeyCode.N);
        robot.clickOn("#unsaved-cancel");
        assertThat(window.list().all()).hasSize(90);
        robot.push(KeyCode.CONTROL, KeyCode.N);
        robot.type(KeyCode.ESCAPE);
        assertThat(isThere(robot, "#unsaved")).isFalse();
        assertThat(window.list().all()).hasSize(90);
        robot.push(KeyCode.CONTROL, KeyCode.N);
        robot.type(KeyCode.ENTER);
        assertThat(Jobs.open(temp.resolve("job.ablecrate")).sources()).containsExactly(crate);
        assertThat(window.list().all()).as("saved, and begun anew").isEmpty();
        robot.clickOn("#gather-folder");
        boolean[] isClosed = {false};
        robot.interact(() -> window.beforeClosing(() -> isClosed[0] = true));
        assertThat(isClosed[0]).isFalse();
        robot.clickOn("#unsaved-drop");
        assertThat(isClosed[0]).isTrue();
    }

    @Test void aDroppedJobAsksFirst(FxRobot robot) throws Exception {
        Path other = temp.resolve("other.ablecrate");
        Jobs.save(Job.EMPTY.aimedAt("session"), other);
        robot.clickOn("#gather-folder");
        robot.interact(() -> window.dropped(List.of(new File(other.toString()))));
        assertThat(window.list().all()).hasSize(90);
        robot.clickOn("#unsaved-drop");
        assertThat(window.crate().job().destination()).isEqualTo("session");
        assertThat(window.list().all()).isEmpty();
    }

    @Test void keysReachNothingBehindACard(FxRobot robot) {
        robot.clickOn("#gather-folder");
        robot.interact(() -> window.chooseLine("windmill"));
        robot.type(KeyCode.F2);
        robot.type(KeyCode.DELETE, KeyCode.DIGIT5, KeyCode.W);
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        robot.type(KeyCode.TAB, KeyCode.TAB, KeyCode.TAB);
        for (Node node = window.scene().getFocusOwner(); node != null; node = node.getParent())
            assertThat(node.getStyleClass()).as("focus stays on the card").doesNotContain("board");
        assertThat(window.list().all()).hasSize(90);
        assertThat(window.list().shown()).hasSize(90);
        robot.type(KeyCode.ESCAPE);
        robot.type(KeyCode.DELETE);
        assertThat(window.list().all()).as("the list has its keys again").hasSize(89);
    }

    @Test void undoInATextFieldIsTheFields(FxRobot robot) {
        robot.clickOn("#gather-folder");
        TextField filter = robot.lookup("#filter").queryAs(TextField.class);
        robot.clickOn(filter).write("owl");
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        assertThat(filter.getText()).isNotEqualTo("owl");
        assertThat(window.list().all()).as("gathering is not undone").hasSize(90);
    }

    @Test void whatACrashLeftIsOfferedAndKeptAsItChanges(FxRobot robot) throws Exception {
        Path folder = temp.resolve("unsaved");
        try (Recovery crashed = Recovery.begin(folder)) {
            crashed.keep(Job.EMPTY.gathering(List.of(crate)).aimedAt("session"), Optional.of(temp.resolve("evening.ablecrate")));
        }
        Recovery recovery = Recovery.begin(folder);
        robot.interact(() -> window.keepWork(recovery, new Background(Runnable::run, Platform::runLater)));
        assertThat(texts(robot, "#left-job")).anyMatch(t -> t.contains("evening.ablecrate with 1 source"));
        robot.clickOn("#left-open");
        assertThat(window.list().all()).hasSize(90);
        assertThat(robot.lookup("#job-name").queryLabeled().getText()).isEqualTo("evening.ablecrate – not saved");
        WaitForAsyncUtils.waitFor(10, TimeUnit.SECONDS, () -> Files.exists(folder.resolve("open-2.ablecrate")));
        assertThat(folder.resolve("open-1.ablecrate")).doesNotExist();
        robot.push(KeyCode.CONTROL, KeyCode.S);
        WaitForAsyncUtils.waitFor(10, TimeUnit.SECONDS, () -> !Files.exists(folder.resolve("open-2.ablecrate")));
        recovery.close();
    }

    @Test void movedFoldersAreNamedAndFoundAgain(FxRobot robot) throws Exception {
        Path old = temp.resolve("gone/Orchard crate"), sound = old.resolve(crate.relativize(crate.resolve("Rhythms/windmill 96 bpm.wav")).toString());
        ItemEdit trimmed = ItemEdit.NONE.withPart(Optional.of(new FrameRange(100, 20_000)));
        Jobs.save(Job.EMPTY.gathering(List.of(old)).editing(Set.of(sound), _ -> trimmed), temp.resolve("job.ablecrate"));
        robot.clickOn("#open");
        assertThat(texts(robot, "#moved")).contains(old.toString());
        // The fixture points at the crate.
        robot.clickOn("#moved-find");
        assertThat(isThere(robot, "#moved")).isFalse();
        assertThat(window.list().all()).hasSize(90);
        assertThat(window.crate().job().edits()).containsEntry(crate.resolve("Rhythms/windmill 96 bpm.wav"), trimmed);
        assertThat(robot.lookup("#message").queryLabeled().getText()).contains("found all 1");
        robot.clickOn("#undo");
        assertThat(window.crate().job().sources()).containsExactly(old);
    }
}
