package ablecrate.desktop;

import static org.assertj.core.api.Assertions.assertThat;
import static org.testfx.util.WaitForAsyncUtils.waitFor;

import ablecrate.job.Job;
import ablecrate.option.Choice;
import ablecrate.standins.Preset;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.concurrent.TimeUnit;
import javafx.css.PseudoClass;
import javafx.scene.Node;
import javafx.scene.control.TextField;
import javafx.scene.control.Label;
import javafx.scene.control.ListView;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import javafx.stage.Stage;
import javax.sound.midi.MidiEvent;
import javax.sound.midi.MidiSystem;
import javax.sound.midi.Sequence;
import javax.sound.midi.ShortMessage;
import javax.sound.midi.Track;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;

/// From the packed card to the device's pads and keys.
class DeviceWindowTest extends WindowFixture {
    private static final PseudoClass DOWN = PseudoClass.getPseudoClass("down");

    private Path midi;

    @Start void open(Stage stage) {
        stage.setWidth(1280);
        stage.setHeight(800);
        show(stage);
        window.useChoosers(new Answers() {
            @Override public Optional<Path> midiToPlay() { return Optional.of(midi); }
        });
    }

    private void packed(FxRobot robot, String folder, String destination) throws Exception {
        Path card = temp.resolve("card");
        robot.interact(() -> window.crate()
                .start(Job.EMPTY.gathering(List.of(crate.resolve(folder))).aimedAt(destination).packingInto(Optional.of(card))));
        until(() -> window.crate().isKnownProperty().get() && !window.list().all().isEmpty());
        robot.press(KeyCode.CONTROL, KeyCode.ENTER).release(KeyCode.ENTER, KeyCode.CONTROL);
        until(() -> window.run().slipProperty().get().isPresent() && !window.run().runningProperty().get());
        robot.press(KeyCode.ESCAPE).release(KeyCode.ESCAPE);
        robot.clickOn("#face-device");
    }

    private static void until(Callable<Boolean> isSo) throws Exception { waitFor(30, TimeUnit.SECONDS, isSo); }

    private static boolean isLit(FxRobot robot, String pad) {
        return robot.lookup(pad).<Node>query().getPseudoClassStates().contains(DOWN);
    }

    private static boolean isAnyKeyLit(FxRobot robot) {
        return robot.lookup(".key-white").queryAll().stream().anyMatch(k -> k.getPseudoClassStates().contains(DOWN));
    }

    private static String text(FxRobot robot, String label) { return robot.lookup(label).queryAs(Label.class).getText(); }

    private static List<String> presets(FxRobot robot) {
        return robot.lookup("#device-presets").<Preset>queryListView().getItems().stream().map(Preset::name).toList();
    }

    private static List<String> firstSounds(FxRobot robot) {
        return robot.lookup("#device-presets").<Preset>queryListView().getItems().stream()
                .map(p -> p.slots().getFirst().sound().file().getFileName().toString())
                .toList();
    }

    /// By keys and by the menu; each change is taken back.
    @Test void kitsOfTheCardAreRenamedMovedAndDeleted(FxRobot robot) throws Exception {
        packed(robot, "Tin Kitchen", "drum-pads");
        until(() -> presets(robot).size() == 2);
        List<String> before = presets(robot);
        robot.interact(() -> robot.lookup("#device-presets").query().requestFocus());
        List<String> sounds = firstSounds(robot);
        robot.push(KeyCode.ALT, KeyCode.DOWN);
        until(() -> firstSounds(robot).equals(sounds.reversed()));
        assertThat(presets(robot)).as("the first is the second").extracting(n -> n.substring(0, 3)).containsExactly("001", "002");
        robot.clickOn("#device-change").clickOn("#device-undo");
        until(() -> firstSounds(robot).equals(sounds));

        robot.clickOn("#device-change").clickOn("#device-rename");
        until(() -> robot.lookup("#device-name").tryQuery().isPresent());
        robot.interact(() -> robot.lookup("#device-name").queryAs(TextField.class).setText("Pantry"));
        robot.push(KeyCode.ENTER);
        until(() -> presets(robot).contains("001-PANTRY"));
        assertThat(temp.resolve("card/001-PANTRY")).isDirectory();
        undo(robot, before);

        robot.interact(() -> robot.lookup("#device-presets").query().requestFocus());
        robot.push(KeyCode.DELETE);
        until(() -> presets(robot).size() == 1);
        assertThat(window.list().all()).as("the list stays").hasSize(18);
        undo(robot, before);
        Files.write(temp.resolve("card").resolve(before.getLast()).resolve("9-OTHER.WAV"), new byte[]{1});
        robot.interact(() -> robot.lookup("#device-presets").query().requestFocus());
        robot.push(KeyCode.DELETE);
        until(() -> window.crate().errorProperty().get().contains("was not packed by Able Crate"));
        assertThat(presets(robot)).isEqualTo(before);
    }

    /// The device reads the name that stands in the program's file.
    @Test void aProgramIsRenamedForTheDevice(FxRobot robot) throws Exception {
        packed(robot, "Glass Marimba", "keyboard-sampler");
        until(() -> presets(robot).size() == 1);
        List<String> before = presets(robot);
        robot.clickOn("#device-change").clickOn("#device-rename");
        until(() -> robot.lookup("#device-name").tryQuery().isPresent());
        assertThat(robot.lookup("#device-name").queryAs(TextField.class).getText()).isEqualTo(before.getFirst());
        robot.interact(() -> robot.lookup("#device-name").queryAs(TextField.class).setText("Pantry glass"));
        robot.push(KeyCode.ENTER);
        until(() -> presets(robot).equals(List.of("Pantry glass")));
        assertThat(temp.resolve("card/Pantry glass.program")).isRegularFile();
        undo(robot, before);
    }

    /// A bank goes as a whole, and says so.
    @Test void aPresetOfABankIsRenamedForTheDevice(FxRobot robot) throws Exception {
        packed(robot, "Instruments/orchestra pit.sf2", "bank-player");
        until(() -> presets(robot).size() > 1);
        List<String> before = presets(robot);
        robot.interact(() -> robot.lookup("#device-presets").queryListView().getSelectionModel().select(1));
        robot.clickOn("#device-change").clickOn("#device-rename");
        until(() -> robot.lookup("#device-name").tryQuery().isPresent());
        robot.interact(() -> robot.lookup("#device-name").queryAs(TextField.class).setText("Pantry glass"));
        robot.push(KeyCode.ENTER);
        until(() -> presets(robot).get(1).equals("Pantry glass"));
        assertThat(presets(robot)).as("the others as they were").hasSameSizeAs(before).startsWith(before.getFirst());
        undo(robot, before);
        robot.interact(() -> robot.lookup("#device-presets").query().requestFocus());
        robot.push(KeyCode.DELETE);
        until(() -> presets(robot).isEmpty());
        assertThat(window.crate().messageProperty().get()).contains(".sf2' with its " + before.size() + " presets is deleted");
        undo(robot, before);
    }

    private void undo(FxRobot robot, List<String> before) throws Exception {
        robot.clickOn("#device-change").clickOn("#device-undo");
        until(() -> presets(robot).equals(before));
    }

    @Test void aKitIsPackedLoadedAndPlayed(FxRobot robot) throws Exception {
        robot.clickOn("#face-device");
        assertThat(text(robot, "#device-empty")).as("files have no device").contains("has no stand-in");
        packed(robot, "Tin Kitchen", "drum-pads");
        assertThat(text(robot, "#device-sentence")).startsWith("Drum pad unit, 9 pads has loaded 2 kits with 18 sounds").endsWith("it refuses nothing.");
        robot.moveTo("#pad-3").press(MouseButton.PRIMARY);
        assertThat(isLit(robot, "#pad-3")).isTrue();
        robot.release(MouseButton.PRIMARY);
        assertThat(isLit(robot, "#pad-3")).isFalse();
        robot.press(KeyCode.DIGIT5);
        assertThat(isLit(robot, "#pad-5")).as("the digit plays; it is no filter here").isTrue();
        assertThat(window.list().shown()).hasSize(18);
        robot.release(KeyCode.DIGIT5);

        robot.clickOn("#device-side-source").press(KeyCode.DIGIT3);
        robot.clickOn("#pad-2");
        assertThat(window.list().currentProperty().get().orElseThrow().source().fileName()).as("the line that pad 2 was made of").isEqualTo("Cake Tin Low.wav");
        assertThat(window.hearing().resultProperty().get()).isFalse();
        robot.release(KeyCode.DIGIT3);
        robot.clickOn("#device-side-device");

        ListView<?> kits = robot.lookup("#device-presets").queryListView();
        robot.clickOn("#device-presets").press(KeyCode.END).release(KeyCode.END);
        assertThat(kits.getSelectionModel().getSelectedIndex()).isEqualTo(1);

        Files.writeString(temp.resolve("card/001-TINKTCHN/notes.txt"), "what was recorded where");
        robot.clickOn("#device-load");
        until(() -> text(robot, "#device-sentence").endsWith("it refuses 1 file."));
        assertThat(robot.lookup("not a WAV file").tryQuery()).isPresent();
    }

    @Test void aMidiFilePlaysOnTheKeysAndLightsThem(FxRobot robot) throws Exception {
        robot.interact(() -> window.crate().changeOptions(o -> o.withContainer(Choice.of("program")), "programs"));
        packed(robot, "Instruments/wind-up harp.sfz", "keyboard-sampler");
        assertThat(text(robot, "#device-sentence")).contains("1 instrument").endsWith("it refuses nothing.");
        Sequence sequence = new Sequence(Sequence.PPQ, 480);
        Track track = sequence.createTrack();
        track.add(new MidiEvent(new ShortMessage(ShortMessage.NOTE_ON, 0, 60, 100), 0));
        track.add(new MidiEvent(new ShortMessage(ShortMessage.NOTE_OFF, 0, 60, 0), 4 * 960));
        midi = temp.resolve("one note.mid");
        MidiSystem.write(sequence, 0, midi.toFile());
        robot.clickOn("#device-midi");
        until(() -> isAnyKeyLit(robot));
        robot.press(KeyCode.SPACE).release(KeyCode.SPACE);
        robot.clickOn("#device-all").clickOn("#device-keys").press(KeyCode.Z);
        assertThat(isAnyKeyLit(robot)).as("a letter plays").isTrue();
        robot.release(KeyCode.Z);
        robot.clickOn("#device-side-source").clickOn("#device-keys").press(KeyCode.Z);
        robot.interact(() -> window.showBench("keys"));
        until(() -> isAnyKeyLit(robot));
        assertThat(window.keys().title()).as("the source's own keys sound").contains("harp");
        robot.release(KeyCode.Z);
    }
}
