package ablecrate.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.change.Verdict;
import ablecrate.demo.DemoSession;
import ablecrate.option.TrackStart;
import ablecrate.relink.SessionCheck;
import ablecrate.session.SessionDocument;
import ablecrate.session.Sessions;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.ToggleButton;
import javafx.scene.input.KeyCode;
import javafx.scene.text.Text;
import javafx.stage.Stage;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;
import org.testfx.util.WaitForAsyncUtils;

/// A session from its opening over its repair to a pack into it, and all the way back.
class SessionWindowTest extends WindowFixture {
    private Path session;

    @Start void start(Stage stage) throws Exception {
        // A session beside a crate of its own: other tests read the shared one.
        Path copy = temp.resolve(crate.getFileName());
        try (var files = Files.walk(crate)) {
            for (Path f : files.filter(Files::isRegularFile).toList()) {
                Path to = copy.resolve(crate.relativize(f).toString());
                Files.createDirectories(to.getParent());
                Files.copy(f, to);
            }
        }
        session = DemoSession.make(copy);
        show(stage);
        window.useChoosers(new Answers() {
            @Override public Optional<Path> folder(String title) { return Optional.of(title.startsWith("Open the session") ? session : copy); }
        });
    }

    private static Map<String, String> contents(Path folder) throws Exception {
        Map<String, String> all = new TreeMap<>();
        try (var files = Files.walk(folder)) {
            for (Path f : files.filter(Files::isRegularFile).toList())
                all.put(folder.relativize(f).toString(), HexFormat.of().formatHex(Files.readAllBytes(f)));
        }
        return all;
    }

    private static String text(FxRobot robot, String id) { return ((Label) robot.lookup("#" + id).query()).getText(); }

    /// Only what is in view is drawn, so it is scrolled through.
    private static List<String> clips(FxRobot robot) {
        ScrollPane scroll = robot.lookup(".time-line-scroll").query();
        Set<String> clips = new LinkedHashSet<>();
        for (int i = 0; i <= 3; i++) {
            double at = i / 3.0;
            robot.interact(() -> scroll.setVvalue(at));
            settle();
            robot.lookup(".time-line-name").queryAllAs(Text.class).forEach(t -> clips.add(t.getText()));
        }
        return List.copyOf(clips);
    }

    private static void settle() { WaitForAsyncUtils.waitForFxEvents(); }

    @Test void aSessionIsOpenedMadeWholePackedIntoAndTakenBack(FxRobot robot) throws Exception {
        Map<String, String> before = contents(session);
        robot.press(KeyCode.CONTROL, KeyCode.SHIFT, KeyCode.O).release(KeyCode.O, KeyCode.SHIFT, KeyCode.CONTROL);
        settle();
        robot.interact(() -> window.showBench("session"));
        settle();
        assertThat(text(robot, "session-sentence")).isEqualTo("48,000 Hz, 24 bit, 96 bpm, 3/4; 6 tracks, 9.4 s");
        assertThat(clips(robot)).contains("overture harp.wav", "offline: overture kitchen.wav", "cannot play: overture bottles.m4a");
        assertThat(robot.lookup(".time-line-marker-name").queryAllAs(Text.class)).extracting(Text::getText).containsExactly("Dawn", "The gate opens");

        // What a session has already is no choice.
        assertThat(robot.lookup("On tracks").tryQuery()).isPresent();
        assertThat(robot.lookup("Tempo if new").tryQuery()).isEmpty();

        robot.clickOn("#session-repair");
        settle();
        assertThat(text(robot, "error")).contains("1 file offline: audio/overture kitchen.wav; look for it in another folder");
        assertThat(window.run().slipProperty().get().orElseThrow().outcomes()).isEqualTo(Map.of("packed", 5));
        robot.interact(window.cards()::close);
        robot.clickOn("#session-search");
        settle();
        robot.interact(window.cards()::close);
        assertThat(SessionCheck.of(session).isWhole()).isTrue();
        // Measured, not said: files of another rate, one of them found elsewhere.
        Matcher left = Pattern.compile("The mixes before and after differ by (-[\\d.]+) dBFS at most").matcher(text(robot, "session-proof"));
        assertThat(left.find()).as(text(robot, "session-proof")).isTrue();
        assertThat(Double.parseDouble(left.group(1))).isLessThan(-90);
        assertThat(((Button) robot.lookup("#session-repair").query()).isDisabled()).isTrue();
        assertThat(clips(robot)).noneMatch(c -> c.startsWith("offline") || c.startsWith("cannot"));

        // It plays from its bench, with a track alone.
        robot.interact(() -> ((ToggleButton) robot.lookup("#solo-2").query()).fire());
        robot.clickOn("#play");
        settle();
        assertThat(((Button) robot.lookup("#play").query()).getText()).isEqualTo("Stop");
        robot.clickOn("#play");

        robot.interact(() -> {
            window.crate().gather(List.of(crate.resolve("Rhythms")));
            window.crate().changeOptions(o -> o.withSession(o.session().withTracks(TrackStart.at(3))), "tracks");
        });
        settle();
        assertThat(clips(robot)).contains("new: windmill 96 bpm-2.wav");
        robot.interact(() -> window.run().pack(window.crate().listProperty().get(), window.crate().path(), session));
        settle();
        robot.interact(window.cards()::close);
        SessionDocument.Track last = Sessions.open(session).tracks().getLast();
        assertThat(last.name()).isEqualTo("windmill 96 bpm");
        // Two bars of 3/4 at 96 bpm.
        assertThat(last.clips().getFirst().startFrame()).isEqualTo(2 * 90_000);
        assertThat(window.list().all()).extracting(i -> i.verdict()).contains(Verdict.ADJUSTED);

        for (int i = 0; i < 3; i++) {
            robot.clickOn("#session-undo");
            settle();
        }
        assertThat(contents(session)).isEqualTo(before);
    }

    /// As many clips as a document may have are no more shapes than there is room for.
    @Test void aSessionOfVeryManyClipsIsShown(FxRobot robot) throws Exception {
        List<SessionDocument.Clip> clips = new ArrayList<>();
        for (int i = 99_999; i >= 0; i--)
            clips.add(SessionDocument.Clip.of(i == 50_000 ? "audio/overture kitchen.wav" : "audio/overture harp.wav", i * 1000L, 900, 0));
        SessionDocument one = Sessions.open(session);
        Sessions.write(one.with(List.of(), List.of(new SessionDocument.Track("Many", 0, 0, false, clips))), session);
        robot.press(KeyCode.CONTROL, KeyCode.SHIFT, KeyCode.O).release(KeyCode.O, KeyCode.SHIFT, KeyCode.CONTROL);
        settle();
        robot.interact(() -> window.showBench("session"));
        settle();
        ScrollPane scroll = robot.lookup(".time-line-scroll").query();
        robot.interact(() -> scroll.setVvalue(1));
        settle();
        assertThat(text(robot, "session-sentence")).contains("7 tracks, 34:43 min");
        assertThat(robot.lookup(".time-line-clip").queryAll()).hasSizeBetween(100, 1000);
        assertThat(robot.lookup(".time-line-clip.silent").queryAll()).as("what is offline is seen among them").isNotEmpty();
    }

    @Test void withoutASessionTheBenchSaysWhatToDo(FxRobot robot) {
        robot.interact(() -> window.showBench("session"));
        settle();
        assertThat(text(robot, "session-sentence")).isEqualTo("Choose the destination Recording session and a folder to pack into, or open a session.");
        assertThat(((Button) robot.lookup("#session-undo").query()).isDisabled()).isTrue();
    }
}
