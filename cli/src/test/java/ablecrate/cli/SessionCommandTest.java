package ablecrate.cli;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.demo.CrateForTests;
import ablecrate.demo.DemoSession;
import ablecrate.standins.SessionHost;
import ablecrate.standins.SessionMix;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// The overture, made whole by one command.
class SessionCommandTest {
    @TempDir Path folder;

    private final StringWriter out = new StringWriter(), err = new StringWriter();

    private int run(Object... arguments) {
        out.getBuffer().setLength(0);
        err.getBuffer().setLength(0);
        return Main.run(new PrintWriter(out, true), new PrintWriter(err, true),
                java.util.Arrays.stream(arguments).map(Object::toString).toArray(String[]::new));
    }

    @Test void theOvertureIsMadeWhole() throws Exception {
        Path crate = CrateForTests.in(folder), session = DemoSession.make(crate);
        assertThat(run("session", "check", session)).isEqualTo(Main.SOME_LEFT);
        assertThat(out.toString()).contains("6 tracks, 6 files", "offline: nothing is at audio/overture kitchen.wav", "linked: ", "M4A, lossy",
                "5 files to repair");
        assertThat(run("load", session, "--as", "session")).isEqualTo(Main.SOME_LEFT);
        assertThat(out.toString()).contains("5 refused", "44100 Hz; the session has 48000");
        assertThat(run("session", "repair", session)).isEqualTo(Main.SOME_LEFT);
        assertThat(err.toString()).contains("offline: audio/overture kitchen.wav");
        assertThat(run("restore", session)).isZero();

        assertThat(run("session", "repair", session, "--search", crate, "--prove")).as(out.toString() + err).isZero();
        Matcher left = Pattern.compile("before and after differ by (-[\\d.]+) dBFS at most").matcher(out.toString());
        assertThat(left.find()).isTrue();
        assertThat(Double.parseDouble(left.group(1))).isLessThan(-90);
        assertThat(run("load", session, "--as", "session", "--into", folder.resolve("mix.wav"))).isZero();
        assertThat(Files.size(folder.resolve("mix.wav"))).isEqualTo(58 + 450_937 * 8L);
        assertThat(run("session", "check", session)).isZero();

        // One file a track sounds the same.
        Path tracks = folder.resolve("tracks");
        assertThat(run("session", "consolidate", session, "--into", tracks)).as(err.toString()).isZero();
        SessionHost.Opened opened = SessionHost.open(tracks, Optional.empty());
        assertThat(opened.refusals()).isEmpty();
        assertThat(opened.tracks()).allMatch(t -> t.clips() == 1).hasSize(6);
        assertThat(new SessionMix(opened).difference(new SessionMix(SessionHost.open(session, Optional.empty())), 48_000, _ -> {}, () -> false).peakDb())
                .isLessThan(-110);
        assertThat(run("session", "consolidate", session, "--into", tracks)).isEqualTo(Main.WRONG_USAGE);
    }

    @Test void aNewSessionHasWhatIsAskedFor() throws Exception {
        Path session = folder.resolve("new");
        assertThat(run("session", "new", session, "--rate", "96000", "--depth", "32f", "--tempo", "90", "--meter", "6/8")).isZero();
        assertThat(run("session", "check", session)).isZero();
        assertThat(out.toString()).contains("96,000 Hz, 32 bit float", "whole");
        assertThat(run("session", "new", session)).isEqualTo(Main.WRONG_USAGE);
        assertThat(run("session", "new", folder.resolve("other"), "--meter", "4/5")).isEqualTo(Main.WRONG_USAGE);
        assertThat(err.toString()).contains("4/5 is no meter");
        assertThat(run("session", "check", folder)).isEqualTo(Main.WRONG_USAGE);
        assertThat(err.toString()).contains("holds no session.json");
    }

    @Test void documentsFollowWhatWasConverted() throws Exception {
        Path crate = CrateForTests.in(folder), song = folder.resolve("song.xml");
        Files.writeString(song, "<song>\n<file name=\"" + crate.resolve("Overture Stems/overture bottles.aif") + "\" rate=\"44100\"/>\n</song>\n");
        run("pack", crate.resolve("Overture Stems"), "--for", "session", "--into", folder.resolve("out"), "--quiet");
        assertThat(run("relink", song, "--slip", folder.resolve("out"), "--dry-run")).isZero();
        assertThat(out.toString()).contains("line 2: ", "1 place to replace");
        assertThat(run("relink", song, "--slip", folder.resolve("out"))).isZero();
        assertThat(Files.readString(song))
                .isEqualTo("<song>\n<file name=\"" + folder.resolve("out/audio/overture bottles.wav") + "\" rate=\"44100\"/>\n</song>\n");
        assertThat(run("relink", folder.resolve("out/audio/overture bottles.wav"), "--slip", folder.resolve("out"))).isEqualTo(Main.SOME_LEFT);
        assertThat(err.toString()).contains("a binary document");
    }
}
