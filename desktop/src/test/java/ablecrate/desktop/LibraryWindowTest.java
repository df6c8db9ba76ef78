package ablecrate.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.library.Gathered;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.stream.IntStream;
import javafx.scene.control.Label;
import javafx.scene.control.TableView;
import javafx.scene.input.KeyCode;
import javafx.stage.Stage;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;
import org.testfx.util.WaitForAsyncUtils;

/// A library is walked through by ear before anything of it is gathered.
class LibraryWindowTest extends WindowFixture {
    @Start void open(Stage stage) { show(stage); }

    private TableView<Gathered> table(FxRobot robot) { return robot.lookup("#library-table").queryTableView(); }

    private void until(java.util.function.BooleanSupplier holds) throws Exception {
        for (int i = 0; i < 200 && !holds.getAsBoolean(); i++) {
            Thread.sleep(20);
            WaitForAsyncUtils.waitForFxEvents();
        }
        assertThat(holds.getAsBoolean()).isTrue();
    }

    @Test void oneKeyOpensArrowsPlayAndEnterTakes(FxRobot robot) throws Exception {
        robot.push(KeyCode.SHORTCUT, KeyCode.SHIFT, KeyCode.F);
        TableView<Gathered> table = table(robot);
        int all = table.getItems().size();
        assertThat(all).as("all sounds of the crate").isGreaterThan(70);
        assertThat(window.list().all()).as("nothing is gathered").isEmpty();
        assertThat(window.library().playing().getValue()).as("the first is heard").isTrue();
        assertThat(robot.lookup("#library-count").queryAs(Label.class).getText()).isEqualTo(all + " sounds");

        Gathered first = table.getSelectionModel().getSelectedItem();
        robot.push(KeyCode.DOWN);
        Gathered second = table.getSelectionModel().getSelectedItem();
        assertThat(second).isNotEqualTo(first);
        until(() -> window.library().heard().seconds() > 0 || window.library().heard().leftDb() > -100);
        robot.push(KeyCode.ENTER);
        robot.push(KeyCode.SHIFT, KeyCode.DOWN);
        robot.push(KeyCode.ENTER);
        assertThat(window.list().all()).extracting(i -> i.source().path()).containsExactlyInAnyOrder(second.path(),
                table.getItems().get(table.getItems().indexOf(second) + 1).path());
        assertThat(window.crate().undoLabel()).isNotEmpty();
        robot.push(KeyCode.ENTER);
        assertThat(window.list().all()).as("once more leaves them").isEmpty();
        robot.interact(() -> table.getSelectionModel().clearAndSelect(longest(table)));
        robot.push(KeyCode.SPACE);
        assertThat(window.library().playing().getValue()).isFalse();
    }

    private static int longest(TableView<Gathered> table) {
        return IntStream.range(0, table.getItems().size()).boxed()
                .max(Comparator.comparingDouble(i -> table.getItems().get(i).sound().orElseThrow().durationSeconds()))
                .orElseThrow();
    }

    @Test void filteredSortedAndHeardAtOneLevel(FxRobot robot) throws Exception {
        robot.interact(() -> window.showBench("library"));
        robot.clickOn("#library-open");
        robot.clickOn("#library-plays");
        robot.clickOn("#library-filter").write("marimba");
        TableView<Gathered> table = table(robot);
        assertThat(table.getItems()).isNotEmpty().allMatch(g -> g.relative().toString().toLowerCase(java.util.Locale.ROOT).contains("marimba"));
        robot.interact(() -> table.getSelectionModel().select(0));
        assertThat(window.library().playing().getValue()).as("heard only when asked for").isFalse();
        robot.clickOn("#library-matched");
        robot.clickOn("#play");
        assertThat(window.library().side().getValue()).isEqualTo("One level");
        until(() -> window.library().heard().leftDb() > -100 || !window.library().playing().getValue());
        robot.clickOn("#library-filter").eraseText(7).write("no such sound");
        assertThat(table.getItems()).isEmpty();
        assertThat(((Label) table.getPlaceholder()).getText()).isEqualTo("No sound of this folder has that in its name.");
        robot.clickOn("#face-wave");
        assertThat(window.library().playing().getValue()).as("another bench is silent").isFalse();
    }

    /// What opens and cannot be played is told, and the walk goes on.
    @Test void aFileThatVanishedIsTold(FxRobot robot) throws Exception {
        Path own = Files.createDirectories(temp.resolve("own"));
        Path gone = Files.copy(crate.resolve("Rhythms/windmill 96 bpm.wav"), own.resolve("a.wav"));
        Files.copy(gone, own.resolve("b.wav"));
        robot.interact(() -> window.library().open(own));
        robot.interact(() -> window.showBench("library"));
        Files.delete(gone);
        robot.interact(() -> table(robot).getSelectionModel().clearAndSelect(0));
        until(() -> window.crate().errorProperty().get().startsWith("cannot play a.wav"));
        robot.interact(() -> table(robot).getSelectionModel().clearAndSelect(1));
        assertThat(window.library().playing().getValue()).isTrue();
    }

    private static String text(FxRobot robot, String id) { return robot.lookup(id).queryAs(Label.class).getText(); }

    /// What lands in a watched folder is told, listed and heard; what was there, and changes, is not.
    @Test void whatLandsInAWatchedFolderIsOffered(FxRobot robot) throws Exception {
        Path own = Files.createDirectories(temp.resolve("drops"));
        Path there = Files.copy(crate.resolve("Rhythms/windmill 96 bpm.wav"), own.resolve("there.wav"));
        robot.interact(() -> window.library().open(own));
        robot.interact(() -> window.showBench("library"));
        robot.clickOn("#library-watch");
        until(() -> window.library().watchedProperty().get().contains(own));
        assertThat(window.settings().watched()).as("remembered for the next start").containsExactly(own.toString());
        assertThat(robot.lookup("#library-new").query().isVisible()).isFalse();
        Files.copy(crate.resolve("Atmospheres/orchard at night.wav"), Files.createDirectories(own.resolve("new folder")).resolve("night.wav"));
        Files.writeString(own.resolve("notes.txt"), "no sound");
        Files.setLastModifiedTime(there, java.nio.file.attribute.FileTime.fromMillis(0));
        until(() -> !window.library().landed().isEmpty());
        assertThat(window.crate().messageProperty().get()).isEqualTo("night.wav has landed in drops: bench Library, New");
        assertThat(table(robot).getItems()).extracting(Gathered::fileName).containsExactlyInAnyOrder("there.wav", "night.wav");
        robot.interact(() -> window.library().open(crate.resolve("Tin Kitchen")));
        robot.clickOn("#library-new");
        assertThat(table(robot).getItems()).extracting(Gathered::fileName).containsExactly("night.wav");
        until(() -> !robot.lookup("#library-width").query().getAccessibleText().contains("not stereo"));
        assertThat(robot.lookup("#library-width").query().getAccessibleText()).matches("Stereo width: correlation -?[01].[0-9]{2}, sides .*");
        robot.interact(() -> window.library().watch(own, false));
        until(() -> window.library().watchedProperty().get().isEmpty());
        assertThat(window.settings().watched()).isEmpty();
    }

    /// At 96 bpm a second of the player is a second of the clip; at 120 it is a quarter more.
    @Test void clipsAreHeardInTime(FxRobot robot) throws Exception {
        robot.interact(() -> window.library().open(crate.resolve("Rhythms")));
        robot.interact(() -> window.showBench("library"));
        until(() -> !table(robot).getItems().isEmpty());
        robot.clickOn("#library-bpm").push(KeyCode.SHORTCUT, KeyCode.A).write("fast").push(KeyCode.ENTER);
        assertThat(robot.lookup("#library-bpm").query().getPseudoClassStates()).as("no tempo").isNotEmpty();
        assertThat(window.library().bpmProperty().get()).isEqualTo(120);
        robot.clickOn("#library-bpm").push(KeyCode.SHORTCUT, KeyCode.A).write("48").push(KeyCode.ENTER);
        assertThat(window.library().bpmProperty().get()).isEqualTo(48);
        robot.clickOn("#library-in-time");
        robot.interact(() -> table(robot).getSelectionModel().clearAndSelect(0));
        assertThat(window.library().speedProperty().get()).as("96 is twice 48: it fits as it is").isEqualTo(1);
        robot.clickOn("#library-bpm").push(KeyCode.SHORTCUT, KeyCode.A).write("120").push(KeyCode.ENTER);
        assertThat(window.library().speedProperty().get()).as("what plays goes on at the new tempo").isEqualTo(1.25);
        robot.clickOn("#library-in-time");
        assertThat(window.library().speedProperty().get()).isEqualTo(1);

        robot.interact(() -> {
            window.crate().aim("session");
            window.crate().changeOptions(o -> o.withSession(o.session().withBpm(90)), "tempo");
        });
        until(() -> window.library().bpmProperty().get() == 90);
        robot.clickOn("#library-bpm").push(KeyCode.SHORTCUT, KeyCode.A).write("133").push(KeyCode.ENTER);
        robot.interact(() -> window.crate().changeOptions(o -> o.withDither(ablecrate.dsp.Dither.NONE), "dither"));
        until(() -> window.crate().isKnownProperty().get());
        assertThat(window.library().bpmProperty().get()).as("what was typed stays while the session is the same").isEqualTo(133);
    }
}
