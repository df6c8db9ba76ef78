package ablecrate.desktop;

import static org.assertj.core.api.Assertions.assertThat;
import static org.testfx.util.WaitForAsyncUtils.waitFor;

import ablecrate.change.Verdict;
import ablecrate.desktop.crate.DeliveryPlan;
import ablecrate.job.Delivery;
import ablecrate.job.Job;
import ablecrate.plan.PackingItem;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import javafx.scene.control.Label;
import javafx.scene.control.TableColumn;
import javafx.scene.control.TableView;
import javafx.scene.control.ToggleButton;
import javafx.scene.input.KeyCode;
import javafx.stage.Stage;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;

/// The same sounds for an archive and for the drum pads, by mouse and by keys.
class DestinationsWindowTest extends WindowFixture {
    @Start void open(Stage stage) {
        stage.setWidth(1280);
        stage.setHeight(800);
        show(stage);
    }

    private void known() throws Exception {
        waitFor(30, TimeUnit.SECONDS, () -> window.crate().isKnownProperty().get() && !window.list().all().isEmpty()
                && window.crate().plans().size() == window.crate().job().deliveries().size());
    }

    @SuppressWarnings("unchecked") private static List<String> columns(FxRobot robot) {
        return ((TableView<PackingItem>) robot.lookup("#packing-list").queryAs(TableView.class)).getColumns().stream().map(TableColumn::getGraphic)
                .filter(Label.class::isInstance).map(g -> ((Label) g).getText()).toList();
    }

    @Test void oneJobPacksForTwo(FxRobot robot) throws Exception {
        robot.interact(() -> window.crate().start(Job.EMPTY.gathering(List.of(crate.resolve("Bottle Organ")))));
        known();
        assertThat(robot.lookup("#deliveries").query().isVisible()).as("one needs no list").isFalse();
        robot.clickOn("#add-destination").clickOn("Drum pad unit, 9 pads");
        known();
        assertThat(window.crate().job().deliveries()).extracting(Delivery::destination).containsExactly("files", "drum-pads");
        assertThat(robot.lookup("#delivery-2").queryAs(ToggleButton.class).getAccessibleText()).startsWith("Destination 2: Drum pad unit, 9 pads, 10 lines")
                .endsWith("no folder");
        assertThat(columns(robot)).as("the first one's verdicts stand beside").containsExactly("1");
        assertThat(window.list().all()).extracting(PackingItem::verdict).as("loops are lost at the pads").contains(Verdict.REDUCED);
        assertThat(window.crate().plans()).extracting(DeliveryPlan::name).containsExactly("Plain files", "Drum pad unit, 9 pads");

        robot.push(KeyCode.ALT, KeyCode.D);
        known();
        assertThat(window.crate().job().destination()).isEqualTo("files");
        assertThat(columns(robot)).containsExactly("2");
        assertThat(window.list().all()).extracting(PackingItem::verdict).doesNotContain(Verdict.REDUCED);

        robot.clickOn("#pack");
        waitFor(60, TimeUnit.SECONDS, () -> window.run().slipsProperty().get().size() == 2);
        assertThat(window.run().slipsProperty().get()).as("each was asked for its folder").extracting(s -> Path.of(s.into()).getFileName().toString())
                .containsExactly("Plain files", "Drum pad unit, 9 pads");
        assertThat(window.run().slipsProperty().get()).allMatch(s -> s.isAllPacked() && Files.exists(Path.of(s.into()).resolve("packing-slip.html")));
        robot.clickOn("#slip-destination-1");
        assertThat(robot.lookup("#slip-summary").queryAs(Label.class).getText()).startsWith("Plain files, packed into");
        assertThat(window.crate().job().destination()).as("list and slip go together").isEqualTo("files");
        robot.clickOn("#slip-destination-2");
        assertThat(robot.lookup("#slip-summary").queryAs(Label.class).getText()).startsWith("Drum pad unit, 9 pads, packed into");
        assertThat(window.run().written(crate.resolve("Bottle Organ/bottle_48.wav")).orElseThrow().toString()).contains("Drum pad unit");

        robot.clickOn("#slip-back").clickOn("#remove-destination");
        known();
        assertThat(window.crate().job().deliveries()).extracting(Delivery::destination).containsExactly("files");
        assertThat(columns(robot)).isEmpty();
        robot.push(KeyCode.SHORTCUT, KeyCode.Z);
        known();
        assertThat(window.crate().job().deliveries()).as("taken back").hasSize(2);
    }

    /// A name pattern that is none, and a sheet that is not there, are told of their destination; the other can be looked at and mended.
    @Test void whatKeepsOneFromBeingPlannedKeepsNoOther(FxRobot robot) throws Exception {
        Job sounds = Job.EMPTY.gathering(List.of(crate.resolve("Bottle Organ"))).packingInto(Optional.of(temp.resolve("a")));
        Job wrong = sounds.alsoFor("drum-pads").packingInto(Optional.of(temp.resolve("b")));
        robot.interact(() -> window.crate().start(wrong.withOptions(wrong.options().withNamePattern(Optional.of("(nam)"))).showing(0)));
        known();
        assertThat(window.list().all()).hasSize(10);
        robot.clickOn("#pack");
        assertThat(window.crate().errorProperty().get()).startsWith("drum-pads: name pattern '(nam)': no word 'nam'");
        robot.interact(() -> window.crate().start(sounds.alsoFor(temp.resolve("gone.json").toString()).packingInto(Optional.of(temp.resolve("b"))).showing(0)));
        known();
        assertThat(robot.lookup("#delivery-2").queryAs(ToggleButton.class).getAccessibleText()).contains("gone.json, no destination '");
        robot.clickOn("#pack");
        assertThat(window.crate().errorProperty().get()).startsWith("gone.json: no destination '");
        assertThat(temp.resolve("a")).as("nothing is begun").doesNotExist();
    }

    @Test void whatIsSavedIsTheSameWhicheverIsLookedAt(FxRobot robot) throws Exception {
        robot.interact(() -> window.crate().start(Job.EMPTY.gathering(List.of(crate.resolve("Bottle Organ"))).alsoFor("session").showing(0)));
        known();
        robot.interact(() -> window.crate().save(temp.resolve("two.ablecrate")));
        waitFor(10, TimeUnit.SECONDS, () -> !window.crate().unsavedProperty().get());
        robot.interact(() -> window.crate().showDelivery(1));
        assertThat(window.crate().unsavedProperty().get()).isFalse();
        assertThat(window.crate().canUndoProperty().get()).as("looking is no step").isFalse();
        robot.interact(() -> window.crate().aim("four-track"));
        robot.interact(() -> window.crate().showDelivery(0));
        robot.interact(() -> window.crate().undo());
        assertThat(window.crate().job().shown()).as("undo turns to what it changes").isEqualTo(1);
        assertThat(window.crate().job().destination()).isEqualTo("session");
    }
}
