package ablecrate.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.audio.Depth;
import ablecrate.change.Property;
import ablecrate.change.Verdict;
import ablecrate.desktop.keys.KeyBenchView;
import ablecrate.desktop.keys.KeysModel;
import ablecrate.desktop.levels.TreatmentModel;
import ablecrate.desktop.list.PackingListModel;
import ablecrate.format.names.NamePart;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.job.Job;
import ablecrate.job.Jobs;
import ablecrate.option.Choice;
import ablecrate.pack.Packer;
import ablecrate.pack.PackingSlip;
import ablecrate.plan.PackingItem;
import ablecrate.option.Joining;
import javafx.scene.control.ListView;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import javafx.scene.Node;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.Labeled;
import javafx.scene.control.MenuButton;
import javafx.scene.control.TableColumn;
import javafx.scene.control.TableView;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.stage.Stage;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;
import org.testfx.util.WaitForAsyncUtils;

/// The real window with the demo crate, driven by mouse and keys.
class WindowTest extends WindowFixture {
    @Start void open(Stage stage) { show(stage); }

    private PackingListModel list() { return window.list(); }

    private static String text(FxRobot robot, String id) { return robot.lookup(id).queryAs(Labeled.class).getText(); }

    private long count(Verdict verdict) { return list().all().stream().filter(i -> i.verdict() == verdict).count(); }

    private void aim(FxRobot robot, String name) {
        ComboBox<String> combo = robot.lookup("#destination").queryComboBox();
        robot.clickOn(combo);
        robot.interact(() -> combo.getSelectionModel().select(name));
        robot.type(KeyCode.ESCAPE);
    }

    @Test void aCrateIsGatheredCheckedFixedAndPackedByMouse(FxRobot robot) throws Exception {
        robot.clickOn("#gather-folder");
        assertThat(list().all()).hasSize(90);
        aim(robot, "Recording session");
        assertThat(window.crate().job().destination()).isEqualTo("session");
        robot.clickOn("#verdict-blocked");
        assertThat(list().shown()).hasSize(6).allMatch(i -> i.verdict() == Verdict.BLOCKED);
        List<Label> reasons = robot.lookup(".row-reason").queryAllAs(Label.class).stream().filter(l -> l.getText().length() > 50).toList();
        assertThat(reasons).isNotEmpty()
                .allSatisfy(l -> assertThat(l.getWidth()).as("the whole reason goes on below the figures: %s", l.getText()).isGreaterThan(l.prefWidth(-1)));
        robot.clickOn("#show-all");

        ComboBox<?> channels = robot.lookup("#option-channels").queryComboBox();
        robot.interact(() -> channels.getSelectionModel().selectLast()); // split into mono files
        assertThat(count(Verdict.BLOCKED)).isEqualTo(5);
        robot.clickOn("#undo");
        assertThat(count(Verdict.BLOCKED)).isEqualTo(6);

        robot.clickOn("#choose-into");
        assertThat(text(robot, "#pack")).isEqualTo("Pack 84 lines");
        robot.clickOn("#pack");
        assertThat(text(robot, "#slip-summary")).contains("Recording session", "packed into");
        assertThat(temp.resolve("out").resolve(Packer.SLIP_JSON)).exists();
        try (var written = Files.list(temp.resolve("out/audio"))) {
            // 82 sounds, and the 25 and 31 of two instruments, which a session takes apart.
            assertThat(written).hasSize(82 + 25 + 31);
        }
        TableView<PackingSlip.Item> slip = robot.lookup("#slip-table").queryTableView();
        robot.interact(() -> slip.getItems().stream().filter(i -> i.source().endsWith("overture harp.wav")).forEach(slip.getSelectionModel()::select));
        assertThat(text(robot, "#slip-detail")).endsWith("overture harp.wav");
        // Figures show what they count, and the list says why.
        int lines = slip.getItems().size();
        robot.clickOn("#slip-blocked");
        assertThat(slip.getItems()).hasSize(6).allMatch(i -> i.outcome().equals("blocked"));
        robot.interact(() -> slip.getSelectionModel().select(0));
        assertThat(text(robot, "#slip-detail")).contains(slip.getItems().getFirst().error().orElseThrow());
        robot.clickOn("#slip-blocked");
        assertThat(slip.getItems()).hasSize(lines);
        assertThat(robot.lookup("#slip-continue").query().isVisible()).as("nothing is left").isFalse();
        robot.interact(() -> slip.getItems().stream().filter(i -> i.source().endsWith("overture harp.wav")).forEach(slip.getSelectionModel()::select));
        robot.clickOn("#slip-beside");
        assertThat(window.beside().comparedProperty().get().orElseThrow().isPacked()).isTrue();
        assertThat(window.beside().comparedProperty().get().orElseThrow().result().path()).isEqualTo(temp.resolve("out/audio/overture harp.wav"));
        robot.push(KeyCode.CONTROL, KeyCode.L).clickOn("#slip-back");
        assertThat(robot.lookup("#slip-table").tryQuery()).isEmpty();
    }

    /// Several chosen lines say what they come to; columns are sorted by their heads, hidden, and remembered.
    @Test void chosenLinesAreAddedUpAndColumnsRemembered(FxRobot robot) {
        robot.clickOn("#gather-folder");
        aim(robot, "Recording session");
        Labeled totals = robot.lookup("#chosen-totals").query();
        robot.interact(() -> window.chooseLines("Kettle"));
        assertThat(totals.isVisible()).isFalse();
        robot.interact(() -> window.chooseLines("Kettle", "Lid, large", "Lid, small"));
        double seconds = list().chosen().stream().mapToDouble(i -> i.source().sound().orElseThrow().durationSeconds()).sum();
        assertThat(totals.getText()).startsWith(String.format(Locale.ROOT, "3 lines chosen, %.1f s, ", seconds)).contains(" kB → ")
                .endsWith(": 1 kept, 2 converted");

        // Where no display is, JavaFX makes no order of a click on a head.
        TableView<PackingItem> table = robot.lookup("#packing-list").queryTableView();
        robot.interact(() -> table.getColumns().stream().filter(c -> c.getText().equals("Length s")).forEach(table.getSortOrder()::add));
        List<Double> lengths = list().shown().stream().flatMap(i -> i.source().sound().stream()).map(s -> s.durationSeconds()).toList();
        assertThat(lengths).hasSizeGreaterThan(50).isSorted();
        assertThat(window.settings().look().columns()).containsExactly("-Size MB", "<Length s");
        robot.interact(() -> table.getColumns().getFirst().setVisible(false));
        assertThat(window.settings().look().columns()).containsExactly("-Verdict", "-Size MB", "<Length s");
        robot.interact(() -> table.getColumns().stream().filter(c -> c.getText().equals("Tempo")).forEach(c -> c.setVisible(true)));
        assertThat(window.settings().look().columns()).containsExactly("-Verdict", "-Size MB", "+Tempo", "<Length s");
        // Twice as fast goes along as well; what tells no tempo does not.
        robot.interact(() -> list().textProperty().set("fits 192"));
        assertThat(list().shown()).singleElement().satisfies(i -> assertThat(i.source().fileName()).isEqualTo("windmill 96 bpm.wav"));
    }

    /// Folders that were gathered are offered again; the bench stays as it was left.
    @Test void foldersAndTheBenchAreRemembered(FxRobot robot) {
        robot.interact(() -> window.crate().gather(List.of(crate.resolve("Rhythms"))));
        robot.interact(() -> window.crate().gather(List.of(crate.resolve("Tin Kitchen"))));
        assertThat(window.settings().recent().folders()).containsExactly(crate.resolve("Tin Kitchen").toString(), crate.resolve("Rhythms").toString());
        assertThat(robot.lookup("#gather-recent").query().isVisible()).as("both are in the job").isFalse();
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        MenuButton recent = robot.lookup("#gather-recent").query();
        assertThat(recent.getItems()).singleElement().satisfies(i -> assertThat(i.getText()).endsWith("Tin Kitchen"));
        robot.interact(() -> recent.getItems().getFirst().fire());
        assertThat(window.crate().job().sources()).hasSize(2);

        double share = window.settings().look().benchShare();
        robot.push(KeyCode.ALT, KeyCode.DIGIT2).type(KeyCode.B);
        assertThat(window.settings().look().isBenchLarge()).isTrue();
        assertThat(window.settings().look().benchShare()).isEqualTo(share);
        robot.type(KeyCode.B);
        assertThat(window.settings().look().isBenchLarge()).isFalse();
    }

    /// What is shown, by a folder or a filter, is levelled or taken out as one.
    @Test void theShownLinesAreTreatedAsOne(FxRobot robot) {
        robot.interact(() -> window.crate().gather(List.of(crate)));
        robot.interact(() -> window.list().textProperty().set("Tin Kitchen"));
        int shown = list().shown().size(), all = list().all().size();
        robot.push(KeyCode.CONTROL, KeyCode.SHIFT, KeyCode.J);
        assertThat(window.treatments().chosenCount()).isEqualTo(shown);
        assertThat(robot.lookup("#treatment-scope").queryComboBox().getValue()).isEqualTo(TreatmentModel.Scope.CHOSEN);
        robot.push(KeyCode.CONTROL, KeyCode.DELETE);
        robot.interact(() -> list().showAll());
        assertThat(list().all()).hasSize(all - shown);
    }

    @Test void theWordsTakeTheRoomOfAWideWindow(FxRobot robot) {
        robot.clickOn("#gather-folder");
        TableView<PackingItem> table = robot.lookup("#packing-list").queryTableView();
        robot.interact(() -> window.scene().getWindow().setWidth(1600));
        WaitForAsyncUtils.waitForFxEvents();
        double all = table.getColumns().stream().filter(TableColumn::isVisible).mapToDouble(TableColumn::getWidth).sum(),
                words = table.getColumns().stream().filter(c -> c.getText().equals("Sound")).mapToDouble(TableColumn::getWidth).sum();
        assertThat(all).isBetween(table.getWidth() - 30, table.getWidth());
        assertThat(words).isGreaterThan(table.getWidth() * 0.45);
    }

    private KeysModel keys() { return window.keys(); }

    private Span span(int zone, Parameter<Span> p) { return keys().zones().get(zone).get(p); }

    /// The first zone of the first instrument of the bank: keys 48…57, velocities 1…42; its neighbour starts at key 58.
    @Test void zonesAreChosenStretchedSplitAndTakenBack(FxRobot robot) throws Exception {
        robot.interact(() -> window.crate().gather(List.of(crate.resolve("Instruments"))));
        robot.interact(() -> window.chooseLine("orchestra pit"));
        assertThat(robot.lookup("#keys").tryQuery()).as("an instrument brings its keys to the bench").isPresent();
        ComboBox<?> which = robot.lookup("#keys-instrument").queryComboBox();
        robot.interact(() -> which.getSelectionModel().select(1));
        assertThat(keys().instrumentProperty().get().orElseThrow().name()).isEqualTo("Bottle organ");
        robot.interact(() -> which.getSelectionModel().select(0));
        assertThat(keys().instrumentProperty().get().orElseThrow().name()).isEqualTo("Glass marimba");
        robot.interact(() -> keys().choose(0, false));
        assertThat(span(0, Parameter.KEYS)).isEqualTo(new Span(48, 57));

        robot.press(KeyCode.ALT).type(KeyCode.DIGIT3).release(KeyCode.ALT); // to the bench
        robot.press(KeyCode.SHIFT).type(KeyCode.RIGHT).release(KeyCode.SHIFT);
        assertThat(span(0, Parameter.KEYS)).isEqualTo(new Span(48, 58));
        assertThat(span(1, Parameter.KEYS)).as("the neighbour gives way").isEqualTo(new Span(59, 62));
        assertThat(list().currentProperty().get().orElseThrow().verdict()).isEqualTo(Verdict.CONVERTED);

        TextField root = robot.lookup("#zone-root").query();
        robot.interact(() -> {
            root.setText("E4");
            root.fireEvent(new javafx.event.ActionEvent());
        });
        assertThat(keys().zones().getFirst().get(Parameter.ROOT_KEY)).isEqualTo(64);
        int zones = keys().zones().size();
        robot.interact(() -> robot.lookup("#zone-split").queryButton().fire());
        assertThat(keys().zones()).hasSize(zones + 1);
        robot.interact(() -> keys().chooseAll(List.of(0, 1)));
        WaitForAsyncUtils.waitForFxEvents();
        robot.interact(() -> robot.lookup("#zone-merge").queryButton().fire());
        assertThat(span(0, Parameter.KEYS)).isEqualTo(new Span(48, 58));

        robot.interact(() -> window.crate().save(temp.resolve("job.ablecrate")));
        Job opened = Jobs.open(temp.resolve("job.ablecrate"));
        assertThat(opened.edits()).isEqualTo(window.crate().job().edits());
        for (int i = 0; i < 4; i++)
            robot.interact(window.crate()::undo);
        assertThat(span(0, Parameter.KEYS)).isEqualTo(new Span(48, 57));
        assertThat(list().currentProperty().get().orElseThrow().verdict()).isEqualTo(Verdict.KEPT);
    }

    /// Clicks on the keyboard and on zones play; dragging an edge stretches.
    @Test void theKeyBenchAnswersTheMouse(FxRobot robot) {
        robot.interact(() -> window.crate().gather(List.of(crate.resolve("Instruments"))));
        robot.interact(() -> window.chooseLine("orchestra pit"));
        javafx.scene.shape.Rectangle zone = robot.lookup(".zone").nth(0).query();
        javafx.geometry.Bounds b = zone.localToScreen(zone.getBoundsInLocal());
        robot.clickOn(zone);
        assertThat(keys().chosen()).hasSize(1);
        int chosen = keys().chosen().first();
        Span before = span(chosen, Parameter.KEYS);
        double key = b.getWidth() / before.size();
        robot.drag(b.getMaxX() - 2, b.getCenterY(), javafx.scene.input.MouseButton.PRIMARY).dropTo(b.getMaxX() - 2 - 2 * key, b.getCenterY());
        assertThat(span(chosen, Parameter.KEYS).high()).isEqualTo(before.high() - 2);
        assertThat(window.crate().undoLabel()).isEqualTo("stretch zones");
    }

    /// A sound chosen in the list goes onto keys by a key, or by being dropped on one; the instrument that was looked at last stays at hand.
    @Test void soundsArePutOnKeys(FxRobot robot) {
        robot.interact(() -> window.crate().gather(List.of(crate.resolve("Instruments"), crate.resolve("Tin Kitchen"))));
        robot.interact(() -> window.chooseLine("wind-up harp"));
        int zones = keys().zones().size();
        Path spoon = list().all().stream().filter(i -> i.source().sound().isPresent()).findFirst().orElseThrow().source().path();
        robot.interact(() -> window.chooseLine(spoon.getFileName().toString()));
        assertThat(robot.lookup("#keys").tryQuery()).as("a sound brings its wave").isEmpty();
        robot.press(KeyCode.CONTROL).type(KeyCode.K).release(KeyCode.CONTROL);
        assertThat(robot.lookup("#keys").tryQuery()).isPresent();
        assertThat(keys().zones()).hasSizeGreaterThan(zones);
        assertThat(keys().sampleName(keys().zones().get(keys().chosen().first()))).isEqualTo(spoon.getFileName().toString());
        assertThat(window.crate().undoLabel()).isEqualTo("put a sound on a key");
        robot.interact(window.crate()::undo);
        assertThat(keys().zones()).hasSize(zones);
        robot.interact(() -> robot.lookup("#keys").queryAs(KeyBenchView.class).dropped(List.of(spoon), 200, 60));
        assertThat(keys().sampleName(keys().zones().get(keys().chosen().first()))).isEqualTo(spoon.getFileName().toString());
        assertThat(keys().zones().get(keys().chosen().first()).get(Parameter.KEYS).size()).isEqualTo(1);
    }

    /// Who knows them is not shown them again, until they are asked for.
    @Test void theFirstStepsGoForGood(FxRobot robot) {
        assertThat(robot.lookup("#first-steps").query().isVisible()).isTrue();
        robot.clickOn("#hide-steps");
        assertThat(robot.lookup("#first-steps").query().isVisible()).isFalse();
        assertThat(window.settings().look().areStepsHidden()).isTrue();
        robot.push(KeyCode.SHORTCUT, KeyCode.F1);
        assertThat(robot.lookup("#first-steps").query().isVisible()).isTrue();
        assertThat(window.settings().look().areStepsHidden()).isFalse();
    }

    /// What a name was taken for stands beside the zone, and is put right there for the whole folder.
    @Test void aMisreadNameIsPutRightOnTheKeyBench(FxRobot robot) throws Exception {
        Path harp = Files.createDirectories(temp.resolve("harp"));
        for (String name : List.of("c1 harp 60", "c2 harp 64", "c3 harp 67"))
            Files.copy(crate.resolve("Rhythms/windmill 96 bpm.wav"), harp.resolve(name + ".wav"));
        robot.interact(() -> window.crate().gather(List.of(harp)));
        robot.interact(() -> window.crate().changeOptions(o -> o.withContainer(Choice.of("sfz")), "container"));
        robot.interact(() -> window.chooseLine("harp"));
        robot.interact(() -> keys().choose(0, false));
        ComboBox<NamePart> last = robot.lookup("#name-part-3").queryComboBox();
        robot.interact(() -> last.getSelectionModel().select(NamePart.KEY));
        assertThat(keys().zones().stream().map(z -> z.get(Parameter.ROOT_KEY)).sorted()).containsExactly(60, 64, 67);
        assertThat(window.crate().undoLabel()).isEqualTo("what names mean");
    }

    /// The sounds of an instrument unfold below it, and it stays whole: taking one out takes the instrument.
    @Test void instrumentsUnfoldInTheList(FxRobot robot) {
        robot.interact(() -> window.crate().gather(List.of(crate.resolve("Instruments"))));
        assertThat(list().shown()).hasSize(2);
        robot.interact(() -> window.chooseLine("wind-up harp"));
        robot.press(KeyCode.ALT).type(KeyCode.DIGIT2).release(KeyCode.ALT).type(KeyCode.RIGHT);
        assertThat(list().shown()).hasSize(2 + 25);
        robot.clickOn("#worst-first");
        PackingItem harp = list().shown().stream().filter(i -> i.source().fileName().contains("harp")).findFirst().orElseThrow();
        int at = list().shown().indexOf(harp);
        assertThat(list().shown().subList(at + 1, at + 26)).allMatch(i -> list().parentOf(i).equals(Optional.of(harp)));
        robot.press(KeyCode.ALT).type(KeyCode.DIGIT2).release(KeyCode.ALT).type(KeyCode.LEFT);
        assertThat(list().shown()).hasSize(2);
    }

    private void gatherKitchen(FxRobot robot) {
        robot.interact(() -> window.crate().gather(List.of(crate.resolve("Tin Kitchen"))));
        robot.interact(() -> window.crate().aim("session"));
    }

    private static double target(AppWindow window) { return window.crate().job().options().treatment().level().orElseThrow().value(); }

    /// Levels are asked for in the form, moved by dragging the line and by keys; the list and the dumbbells follow; one step is taken back at once.
    @Test void levelsAreSetByFormMouseAndKeys(FxRobot robot) {
        gatherKitchen(robot);
        robot.clickOn("#face-levels");
        ComboBox<?> measure = robot.lookup("#level-measure").queryComboBox();
        robot.interact(() -> measure.getSelectionModel().select(4)); // maximum momentary loudness
        robot.clickOn("#level-target").push(KeyCode.CONTROL, KeyCode.A).write("-20").type(KeyCode.ENTER);
        assertThat(target(window)).isEqualTo(-20);
        assertThat(window.crate().job().options().treatment().ceilingDbtp()).as("a loudness target brings a ceiling").contains(-1.0);
        List<PackingItem> sounds = list().all().stream().filter(i -> !i.outputs().isEmpty()).toList();
        assertThat(sounds).isNotEmpty().allSatisfy(i -> {
            var after = i.outputs().getFirst().levels().after().orElseThrow();
            assertThat(after.loudnessMomentaryMaxLufs().orElseThrow()).isBetween(-20.05, -19.95);
            assertThat(after.truePeakDbtp().orElseThrow()).isLessThanOrEqualTo(-1);
        });
        robot.drag("#levels-target-grip").dropBy(0, 25);
        double dragged = target(window);
        assertThat(dragged).isLessThan(-20.5);
        robot.push(KeyCode.ALT, KeyCode.DIGIT3);
        robot.type(KeyCode.UP);
        assertThat(target(window)).isEqualTo(Math.rint((dragged + 0.5) * 10) / 10);
        robot.clickOn("#undo");
        assertThat(target(window)).isEqualTo(-20);
    }

    /// The end of a sound is drawn with its handle, a fade by key; both show in the list and go again by one key.
    @Test void endsAreDrawnOnTheWave(FxRobot robot) {
        gatherKitchen(robot);
        robot.interact(() -> window.chooseLine("Oven Door"));
        Node wave = robot.lookup("#wave").query();
        var bounds = wave.localToScreen(wave.getBoundsInLocal());
        robot.drag(bounds.getMaxX() - 4, bounds.getMaxY() - 6).dropTo(bounds.getMinX() + bounds.getWidth() / 2, bounds.getMaxY() - 6);
        PackingItem item = list().currentProperty().get().orElseThrow();
        long frames = item.source().sound().orElseThrow().frames();
        assertThat(item.outputs().getFirst().sourceChain().part().end()).isBetween(frames * 4 / 10, frames * 6 / 10);
        assertThat(item.change(Property.TRIM)).isPresent();
        robot.interact(() -> window.wave().playedFrameProperty().set(100));
        robot.push(KeyCode.SHIFT, KeyCode.S);
        assertThat(list().currentProperty().get().orElseThrow().outputs().getFirst().outputChain().ends().fadeInFrames()).isPositive();
        robot.push(KeyCode.SHIFT, KeyCode.BACK_SPACE);
        assertThat(list().currentProperty().get().orElseThrow().change(Property.TRIM)).isEmpty();
        assertThat(window.crate().job().edits()).isEmpty();
    }

    /// The result is laid over its source as packing would write it: the null test tells what 16 bits take, a key goes from one side to the next.
    @Test void theResultIsLaidOverItsSource(FxRobot robot) {
        robot.interact(() -> window.crate().gather(List.of(crate.resolve("Overture, as mailed"))));
        robot.interact(() -> window.crate().aim("session"));
        robot.interact(() -> window.chooseLine("overture harp.flac"));
        robot.push(KeyCode.ALT, KeyCode.DIGIT2);
        robot.type(KeyCode.R);
        var compared = window.beside().comparedProperty().get().orElseThrow();
        assertThat(compared.result().rateHz()).isEqualTo(48_000);
        assertThat(compared.found().nullDb().orElseThrow()).as("little but what lies above 20.9 kHz, which the conversion takes").isLessThan(-30);
        assertThat(((Labeled) robot.lookup("#beside-sentence").query()).getText()).contains("below the source");
        robot.type(KeyCode.A).type(KeyCode.A);
        assertThat(((Labeled) robot.lookup("#side").query()).getText()).isEqualTo("Difference");
        robot.type(KeyCode.SPACE);
        assertThat(window.beside().playingProperty().get()).isTrue();
        robot.type(KeyCode.SPACE);
        assertThat(window.beside().playingProperty().get()).isFalse();
        robot.type(KeyCode.R);
        assertThat(robot.lookup("#wave").tryQuery()).isPresent();
    }

    /// What a playlist points at is gathered by one click; damage is looked for, shown, and mended when asked.
    @Test void whatIsNotQuiteAudioIsHandled(FxRobot robot) {
        robot.interact(
                () -> window.crate().gather(List.of(crate.resolve("Overture, as mailed/overture.m3u"), crate.resolve("Odds and Ends/lantern, clicks.wav"))));
        robot.interact(() -> window.crate().aim("session"));
        assertThat(list().all()).hasSize(2);
        robot.clickOn("#rule-kind").clickOn("Gather the 2 sounds that playlists point at");
        assertThat(list().all()).hasSize(4);
        robot.type(KeyCode.DIGIT0);
        robot.interact(() -> window.crate().changeOptions(o -> o.withMending(o.mending().withLooking(true)), "damage"));
        PackingItem lantern = list().all().stream().filter(i -> i.source().fileName().startsWith("lantern")).findFirst().orElseThrow();
        assertThat(lantern.change(Property.DAMAGE).orElseThrow().before()).isEqualTo("3 clicks");
        robot.clickOn("#rule-damage").clickOn("Mend short clicks");
        lantern = list().all().stream().filter(i -> i.source().fileName().startsWith("lantern")).findFirst().orElseThrow();
        assertThat(lantern.outputs().getFirst().sourceChain().mends()).hasSize(3);
    }

    @Test void optionsAreKeptUnderANameAndUsedAgain(FxRobot robot) {
        gatherKitchen(robot);
        robot.interact(() -> window.crate().changeOptions(o -> o.withTreatment(o.treatment().withOffsetRemoved(true)), "offset"));
        robot.push(KeyCode.CONTROL, KeyCode.E).clickOn("#preset-name").write("for the session").clickOn("#preset-save").clickOn("#preset-close");
        robot.interact(() -> window.crate().aim("drum-pads"));
        robot.interact(() -> window.crate().changeOptions(o -> o.withTreatment(o.treatment().withOffsetRemoved(false)), "offset"));
        robot.push(KeyCode.CONTROL, KeyCode.E).clickOn("for the session").clickOn("#preset-use");
        assertThat(window.crate().job().destination()).isEqualTo("session");
        assertThat(window.crate().job().options().treatment().removesOffset()).isTrue();
        robot.clickOn("#undo");
        assertThat(window.crate().job().destination()).isEqualTo("drum-pads");
        robot.push(KeyCode.CONTROL, KeyCode.E).clickOn("for the session").clickOn("#preset-delete");
        assertThat(robot.lookup("#preset-list").queryListView().getItems()).isEmpty();
    }

    @Test void everyKeyMeansOneThingAndTheOverlayTellsIt(FxRobot robot) {
        List<String> keys = window.actions().all().stream().flatMap(a -> a.keys().stream()).map(Object::toString).toList();
        assertThat(keys).doesNotHaveDuplicates().hasSizeGreaterThan(40);
        robot.push(KeyCode.F2);
        List<String> shown = Stream.of("label", "hyperlink").flatMap(style -> robot.lookup("#actions ." + style).queryAllAs(Labeled.class).stream())
                .map(l -> l.getText().replaceAll(" \\((on|off)\\)$", "")).toList();
        assertThat(shown).containsAll(window.actions().all().stream().map(a -> a.label()).toList()).contains("Ctrl+G", "Shift+S", "↑ ↓");
        robot.type(KeyCode.ESCAPE);
        assertThat(robot.lookup("#actions").tryQuery()).isEmpty();
    }

    @Test void whatWentWrongStaysUntilItIsDismissed(FxRobot robot) {
        assertThat(robot.lookup("#error").query().getParent().isVisible()).isFalse();
        robot.interact(() -> window.crate().fail("the disk is full; make room"));
        robot.interact(() -> window.crate().tell("undone: rate"));
        assertThat(text(robot, "#error")).contains("make room");
        assertThat(text(robot, "#message")).isEqualTo("undone: rate");
        robot.clickOn("#dismiss-error");
        assertThat(robot.lookup("#error").query().getParent().isVisible()).isFalse();
    }

    @Test void actionsAreFoundByTheirWordsAndDone(FxRobot robot) {
        robot.push(KeyCode.F2).write("dark");
        assertThat(robot.lookup("#actions .hyperlink").queryAllAs(Labeled.class)).extracting(Labeled::getText).containsExactly("Dark window (off)");
        robot.type(KeyCode.ENTER);
        assertThat(robot.lookup("#actions").tryQuery()).isEmpty();
        assertThat(window.scene().getRoot().getStyleClass()).contains("dark");
        robot.push(KeyCode.F2).write("dark");
        assertThat(robot.lookup("#action-dark").queryAs(Labeled.class).getText()).as("it says what is on").endsWith("(on)");
        robot.clickOn("#action-dark");
        assertThat(window.scene().getRoot().getStyleClass()).doesNotContain("dark");
        robot.push(KeyCode.F2).write("sing a song").type(KeyCode.ENTER);
        assertThat(robot.lookup("No action has these words.").tryQuery()).as("nothing is done by mistake").isPresent();
    }

    /// Dumbbells appear for whoever only looks: nothing has to be set first.
    @Test void levelsAreShownBeforeAnythingIsSet(FxRobot robot) {
        gatherKitchen(robot);
        robot.push(KeyCode.V);
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(robot.lookup(".dumbbell-after").queryAll()).hasSizeGreaterThan(10);
        robot.clickOn("#levels-aim");
        assertThat(target(window)).isEqualTo(-18);
        assertThat(robot.lookup("#levels-target-grip").tryQuery()).isPresent();
        robot.push(KeyCode.V);
        assertThat(robot.lookup("#wave").tryQuery()).isPresent();
    }

    @Test void aFewOfManySoundsAreLookedAtAndWalkedThrough(FxRobot robot) {
        gatherKitchen(robot);
        robot.push(KeyCode.V);
        WaitForAsyncUtils.waitForFxEvents();
        int all = robot.lookup(".dumbbell").queryAll().size();
        robot.clickOn("#levels-order").type(KeyCode.END).type(KeyCode.ENTER);
        robot.push(KeyCode.ALT, KeyCode.DIGIT3);
        for (int i = 0; i < 5; i++)
            robot.type(KeyCode.PLUS);
        assertThat(robot.lookup(".dumbbell").queryAll().size()).isBetween(8, all / 2);
        for (int i = 0; i < all; i++)
            robot.type(KeyCode.RIGHT);
        assertThat(robot.lookup(".levels-name-current").tryQuery()).as("the current sound stays in view").isPresent();
        robot.type(KeyCode.HOME);
        assertThat(robot.lookup(".dumbbell").queryAll()).hasSize(all);
    }

    /// A line that cannot go offers its ways out as soon as it is chosen.
    @Test void waysOutOfABlockedLineAreOneClick(FxRobot robot) throws Exception {
        Path list = Files.writeString(temp.resolve("overture.m3u"),
                crate.resolve("Rhythms/windmill 96 bpm.wav") + "\n" + crate.resolve("Bottle Organ/bottle_57.wav") + "\n");
        robot.interact(() -> window.crate().gather(List.of(list)));
        assertThat(list().all()).hasSize(1);
        assertThat(robot.lookup(".fix").queryAll()).isEmpty();
        robot.interact(() -> window.chooseLine("overture.m3u"));
        robot.clickOn("Gather the 2 sounds that playlists point at");
        assertThat(list().all()).hasSize(3);
        robot.interact(() -> window.chooseLine("windmill"));
        assertThat(robot.lookup(".fix").queryAll()).as("it goes").isEmpty();
    }

    @Test void theSameWorkIsDoneByKeysAlone(FxRobot robot) {
        robot.push(KeyCode.CONTROL, KeyCode.G);
        robot.push(KeyCode.CONTROL, KeyCode.D);
        robot.type(KeyCode.DOWN);
        assertThat(window.crate().job().destination()).isEqualTo("session");
        robot.push(KeyCode.ALT, KeyCode.DIGIT2);
        robot.type(KeyCode.DIGIT5);
        assertThat(list().shown()).hasSize(6);
        robot.type(KeyCode.DIGIT0);
        robot.type(KeyCode.W);
        assertThat(list().shown().getFirst().verdict()).isEqualTo(Verdict.BLOCKED);
        robot.push(KeyCode.CONTROL, KeyCode.F);
        robot.write("bottle");
        assertThat(list().shown()).isNotEmpty().allMatch(i -> i.source().relative().toString().toLowerCase().contains("bottle"));
        robot.push(KeyCode.ALT, KeyCode.DIGIT2);
        robot.type(KeyCode.DELETE);
        assertThat(list().all()).hasSize(89);
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        assertThat(list().all()).hasSize(90);
        robot.push(KeyCode.CONTROL, KeyCode.I);
        robot.push(KeyCode.CONTROL, KeyCode.ENTER);
        assertThat(window.run().slipProperty().get()).hasValueSatisfying(s -> assertThat(s.outcomes()).containsEntry("packed", 84).containsEntry("blocked", 6));
        robot.type(KeyCode.ESCAPE);
        robot.type(KeyCode.F2);
        assertThat(robot.lookup("#actions").tryQuery()).isPresent();
        robot.type(KeyCode.ESCAPE);
        assertThat(robot.lookup("#actions").tryQuery()).isEmpty();
    }

    @Test void aRuleShowsWhatItTouchesAndOffersAFix(FxRobot robot) {
        robot.interact(() -> window.crate().gather(List.of(crate)));
        aim(robot, "Recording session");
        robot.clickOn("#rule-kind");
        assertThat(list().shown()).hasSize(5).allMatch(i -> i.change(Property.KIND).isPresent());
        robot.clickOn("Take 5 blocked files out of the job");
        assertThat(list().all()).hasSize(85);
        assertThat(list().all()).noneMatch(i -> i.change(Property.KIND).isPresent());
    }

    @Test void whatASamplerDoesNotLoadJoinedIsTakenApartByOneClick(FxRobot robot) {
        robot.interact(() -> {
            window.crate().gather(List.of(crate.resolve("Bottle Organ")));
            window.crate().aim("card-sampler");
            window.crate().changeOptions(o -> o.withPlacing(o.placing().withJoining(o.placing().joining().withName("all of it"))), "join");
        });
        assertThat(list().all()).singleElement().extracting(PackingItem::verdict).isEqualTo(Verdict.BLOCKED);
        robot.clickOn("#rule-container");
        robot.clickOn("Do not join them");
        assertThat(list().all()).singleElement().extracting(PackingItem::verdict).isNotEqualTo(Verdict.BLOCKED);
        robot.interact(() -> window.crate().undo());
        assertThat(list().all()).singleElement().extracting(PackingItem::verdict).isEqualTo(Verdict.BLOCKED);
    }

    @Test void aDroppedFolderAppearsAndAFolderOfTheTreeFilters(FxRobot robot) {
        robot.interact(() -> window.dropped(List.of(crate.toFile())));
        assertThat(list().all()).hasSize(90);
        robot.clickOn("Tin Kitchen");
        assertThat(list().shown()).hasSize(18);
        robot.push(KeyCode.CONTROL, KeyCode.SHIFT, KeyCode.G);
        assertThat(list().all()).hasSize(90); // the windmill was there already
    }

    @Test void theChosenLineStaysChosenWhenAnOptionChanges(FxRobot robot) {
        robot.interact(() -> window.crate().gather(List.of(crate)));
        robot.interact(() -> window.chooseLine("harp C3"));
        robot.interact(() -> window.crate().changeOptions(o -> o.withDepth(Choice.of(Depth.INT_8)), "depth"));
        assertThat(list().currentProperty().get()).hasValueSatisfying(i -> assertThat(i.source().fileName()).isEqualTo("harp C3.wav"));
        assertThat(list().chosen()).singleElement().extracting(PackingItem::verdict).isEqualTo(Verdict.REDUCED);
    }

    /// By keys, by a button and by the mouse; the way back is one step each.
    @Test void joinedSoundsAreOrderedByHand(FxRobot robot) {
        robot.interact(() -> window.crate().gather(List.of(crate.resolve("Bottle Organ"))));
        robot.interact(() -> window.crate()
                .changeOptions(o -> o.withPlacing(o.placing().withJoining(o.placing().joining().withName("bottles").withOrder(Joining.Order.NAME))), "join"));
        List<String> before = joined();
        assertThat(before).hasSizeGreaterThan(3);
        robot.push(KeyCode.CONTROL, KeyCode.SHIFT, KeyCode.T);
        ListView<String> list = robot.lookup("#join-order-list").queryListView();
        assertThat(list.getItems()).hasSameSizeAs(before);
        robot.push(KeyCode.ALT, KeyCode.DOWN);
        robot.push(KeyCode.ALT, KeyCode.DOWN);
        assertThat(joined()).startsWith(before.get(1), before.get(2), before.get(0));
        robot.clickOn("#join-up");
        assertThat(joined()).startsWith(before.get(1), before.get(0), before.get(2));
        Node first = robot.from(list).lookup(".list-cell").nth(0).query(), third = robot.from(list).lookup(".list-cell").nth(2).query();
        robot.drag(first).moveTo(third).drop();
        assertThat(joined()).as("dragged").startsWith(before.get(0), before.get(2), before.get(1));
        robot.clickOn("#join-as-before");
        assertThat(joined()).isEqualTo(before);
        robot.type(KeyCode.ESCAPE).push(KeyCode.CONTROL, KeyCode.Z);
        assertThat(joined()).as("taken back").startsWith(before.get(0), before.get(2), before.get(1));
    }

    private List<String> joined() {
        WaitForAsyncUtils.waitForFxEvents();
        return list().all().getFirst().outputs().getFirst().metadata().cues().stream().filter(c -> c.lengthFrames() > 0).map(c -> c.label().orElseThrow())
                .toList();
    }

    @Test void spacePlaysAndStopsEvenWithoutASoundDevice(FxRobot robot) throws Exception {
        robot.interact(() -> window.crate().gather(List.of(crate)));
        robot.interact(() -> window.chooseLine("orchard at night"));
        robot.push(KeyCode.ALT, KeyCode.DIGIT2);
        robot.type(KeyCode.SPACE);
        assertThat(window.hearing().playingProperty().get()).isTrue();
        WaitForAsyncUtils.waitFor(5, java.util.concurrent.TimeUnit.SECONDS, () -> window.hearing().sourceFrame() > 4800);
        robot.type(KeyCode.A);
        assertThat(window.hearing().resultProperty().get()).isTrue();
        robot.type(KeyCode.SPACE);
        assertThat(window.hearing().playingProperty().get()).isFalse();
        robot.clickOn("#wave");
        double marked = window.hearing().markProperty().get();
        assertThat(marked).as("a click marks, and plays nothing").isGreaterThan(400_000);
        assertThat(window.hearing().playingProperty().get()).isFalse();
        robot.push(KeyCode.ALT, KeyCode.SHIFT, KeyCode.RIGHT);
        assertThat(window.hearing().markProperty().get()).isEqualTo(marked + 1);
        robot.clickOn("#wave-mark").push(KeyCode.CONTROL, KeyCode.A).write("10.5").type(KeyCode.ENTER);
        assertThat(window.hearing().markProperty().get()).as("typed in seconds").isEqualTo(504_000);
        robot.push(KeyCode.ALT, KeyCode.DIGIT3);
        robot.type(KeyCode.SPACE);
        WaitForAsyncUtils.waitFor(5, java.util.concurrent.TimeUnit.SECONDS, () -> window.hearing().sourceFrame() > 400_000);
        robot.interact(() -> window.hearing().stop());
    }

    @Test void aJobIsSavedAndOpensAsItWas(FxRobot robot) {
        robot.interact(() -> window.crate().gather(List.of(crate)));
        aim(robot, "Drum pad unit, 9 pads");
        robot.interact(() -> window.crate().remove(Set.of(list().all().getFirst().source().path())));
        robot.push(KeyCode.CONTROL, KeyCode.S);
        assertThat(text(robot, "#job-name")).isEqualTo("job.ablecrate");
        robot.push(KeyCode.CONTROL, KeyCode.N);
        assertThat(list().all()).isEmpty();
        robot.push(KeyCode.CONTROL, KeyCode.O);
        assertThat(list().all()).hasSize(89);
        assertThat(window.crate().sheetProperty().get().id()).isEqualTo("drum-pads");
        assertThat(window.settings().recent().jobs()).singleElement().asString().endsWith("job.ablecrate");
    }

    @Test void aWrongNamePatternIsToldAndTheListStays(FxRobot robot) {
        robot.interact(() -> window.crate().gather(List.of(crate)));
        var before = list().all().stream().map(PackingItem::outputs).toList();
        Node pattern = robot.lookup("#name-pattern").query();
        robot.interact(() -> ((javafx.scene.control.TextField) pattern).setText("(nmae)"));
        assertThat(robot.lookup(".preview").queryLabeled().getText()).contains("no word 'nmae'");
        assertThat(list().all().stream().map(PackingItem::outputs).toList()).isEqualTo(before);
        robot.interact(() -> ((javafx.scene.control.TextField) pattern).setText("(number...) (name)"));
        assertThat(robot.lookup(".preview").queryLabeled().getText()).contains("001 orchard at dawn.wav");
    }

    @Test void moreColumnsThanThereIsRoomForAreReachedSideways(FxRobot robot) {
        robot.interact(() -> window.crate().gather(List.of(crate)));
        javafx.scene.control.TableView<?> table = robot.lookup("#packing-list").query();
        robot.interact(() -> table.getScene().getWindow().setWidth(1280));
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(isMovedSideways(table)).isFalse();
        for (boolean isShown : new boolean[]{true, false}) {
            robot.interact(() -> table.getColumns().stream().filter(c -> List.of("Gap ms", "Clicks dB", "Size MB").contains(c.getText()))
                    .forEach(c -> c.setVisible(isShown)));
            WaitForAsyncUtils.waitForFxEvents();
            assertThat(isMovedSideways(table)).isEqualTo(isShown);
        }
    }

    private static boolean isMovedSideways(javafx.scene.control.TableView<?> table) {
        return table.lookupAll(".scroll-bar").stream().map(javafx.scene.control.ScrollBar.class::cast)
                .anyMatch(b -> b.getOrientation() == javafx.geometry.Orientation.HORIZONTAL && b.isVisible());
    }

    @Test void everythingHasANameForTheEar(FxRobot robot) {
        robot.interact(() -> window.crate().gather(List.of(crate)));
        for (Node node : robot.lookup(n -> n.isFocusTraversable() && n.isVisible() && n.getScene() != null).queryAll()) {
            String spoken = node.getAccessibleText() != null ? node.getAccessibleText() : node instanceof Labeled l ? l.getText() : "";
            boolean isInner = node.getClass().getName().contains("skin") || node instanceof javafx.scene.control.ScrollPane
                    || node instanceof javafx.scene.control.SplitPane;
            if (!isInner) assertThat(spoken).as(node.toString()).isNotBlank();
        }
    }
}
