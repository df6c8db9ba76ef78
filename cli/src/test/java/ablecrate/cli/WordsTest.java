package ablecrate.cli;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.audio.Depth;
import ablecrate.codec.SoundFormats;
import ablecrate.codec.WholeSound;
import ablecrate.demo.CrateForTests;
import ablecrate.instrument.SoundMetadata;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import ablecrate.job.Job;
import ablecrate.job.Jobs;
import ablecrate.change.Verdict;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// What people read at the command line.
class WordsTest {
    @TempDir static Path temp;
    private static final Path crate = CrateForTests.shared();

    private record Run(int exit, String out, String err) {}

    private static Run run(Object... arguments) {
        StringWriter out = new StringWriter(), err = new StringWriter();
        int exit = Main.run(new PrintWriter(out), new PrintWriter(err), List.of(arguments).stream().map(Object::toString).toArray(String[]::new));
        return new Run(exit, out.toString(), err.toString());
    }

    @Test void inspectTellsLoopsKeysAndLevels() {
        Run run = run("inspect", crate.resolve("Bottle Organ/bottle_65.wav"), "--levels");
        assertThat(run.exit()).isZero();
        assertThat(run.out()).contains("44,100 Hz, 16 bit, mono", "(end not played), forward, endless", "root key 65, fine tuning", "chunks: 'fmt ' 16")
                .containsPattern("levels: sample peak -\\d+\\.\\d\\d dBFS, true peak -\\d+\\.\\d\\d dBTP, integrated loudness -").contains("RMS");
    }

    @Test void inspectSaysThatAShortSoundWasPadded() throws Exception {
        Path brief = brief();
        assertThat(run("inspect", brief, "--levels").out()).contains("shorter than 400 ms: momentary loudness padded with silence")
                .doesNotContain("integrated loudness", "short-term");
    }

    private static Path brief() throws Exception {
        double[] click = new double[2000];
        for (int n = 0; n < click.length; n++)
            click[n] = 0.5 * Math.sin(0.2 * n) * Math.exp(-n / 300.0);
        Path file = temp.resolve("brief.wav");
        WholeSound.write(file, SoundFormats.written("wav").orElseThrow(), 44100, Depth.INT_16, SoundMetadata.NONE, List.of(), new double[][]{click});
        return file;
    }

    @Test void planTellsTheWayOfALoopInOneLine() {
        Run run = run("plan", crate.resolve("Bottle Organ/bottle_48.wav"), "--for", "session", "--details");
        assertThat(run.out()).contains("44,100 Hz → 48,000 Hz", "16 bit → 24 bit", "8,091 → 8,807 frames long", "cents moved to tuning", "0.00 cents left over",
                "step at the seam none → none", "Recording session, 48,000 Hz, 24 bit: ◇ 1 adjusted", "1 sound to write");
        String brief = run("plan", crate.resolve("Bottle Organ"), "--for", "session").out();
        assertThat(brief.lines().takeWhile(l -> !l.isEmpty())).as("a line a sound").hasSize(10).allMatch(l -> l.matches("[○⊖◇◧■] \\w+ .*"));
    }

    @Test void aDestinationThatPlaysNoLoopsMovesNoTuning() {
        String told = run("plan", crate.resolve("Bottle Organ/bottle_57.wav"), "--for", "drum-pads").out();
        assertThat(told).contains("1 loop dropped: the destination plays no loops").doesNotContain("moved to tuning");
    }

    @ParameterizedTest @CsvSource(delimiter = ';', value = {"--level;lufs-m:-300;a level lies between -100 and 24 dB, not at -300",
        "--level;loud:-10;has none of the measures peak, truepeak, lufs-i",
        "--ceiling;high;is no number, nor", "--fade-in;-5;a fade lasts from 0 to 60000 ms, not -5",
        "--fade-in-shape;round;is none of linear, equal-power, fast-start, slow-start, s",
        "--ceiling-by;hope;is none of limiter, gain",
        "--rate;12;is no rate from 1,000 to 1,000,000 Hz, nor keep or destination", "--depth;17;is none of 8, 16, 24, 32, 32f, 64f, keep, destination",
        "--name;(nam);no word 'nam'"}) void aWrongValueSaysWhatIsRight(String option,
                String value, String message) {
        Run run = run("plan", crate, "--for", "files", option, value);
        assertThat(run.exit()).isEqualTo(Main.WRONG_USAGE);
        assertThat(run.err()).contains(message);
        assertThat(run.out()).isEmpty();
    }

    @Test void aLoudnessTargetBringsItsCeiling() {
        String told = run("plan", crate.resolve("Tin Kitchen"), "--for", "files", "--level", "lufs-m:-14").out();
        assertThat(told).contains("limiter holds -1.0 dBTP").doesNotContain("full scale");
        assertThat(run("plan", crate.resolve("Tin Kitchen"), "--for", "files", "--level", "lufs-m:-14", "--ceiling", "none").out())
                .contains("limiter holds full scale");
        assertThat(run("plan", crate.resolve("Tin Kitchen"), "--for", "files", "--level", "lufs-m:-14", "--ceiling", "none", "--overs", "clip").out())
                .contains("beyond full scale are cut off").doesNotContain("limiter");
        assertThat(run("plan", crate.resolve("Tin Kitchen"), "--for", "files", "--level", "lufs-m:-14", "--ceiling-by", "gain").out())
                .contains("held by the ceiling of -1.0 dBTP")
                .doesNotContain("limiter");
    }

    @Test void oneGainForAFolderIsOneGain() {
        String told = run("plan", crate.resolve("Glass Marimba"), "--for", "files", "--level", "lufs-m:-18", "--together").out();
        List<String> gains = told.lines().filter(l -> l.contains("gain ")).map(l -> l.replaceAll(".*(gain [+-][0-9.]+ dB).*", "$1")).distinct().toList();
        assertThat(gains).hasSize(1);
        assertThat(told).contains("one gain for 'Glass Marimba'");
    }

    @Test void everyDestinationIsListedAndCanBeShown() {
        Run all = run("destinations");
        assertThat(all.exit()).isZero();
        for (String id : List.of("files", "session", "drum-pads", "four-track")) {
            assertThat(all.out()).contains(id);
            assertThat(run("destinations", "show", id).out()).contains("\"id\" : \"" + id + "\"");
        }
        assertThat(run("destinations", "schema").out()).contains("\"$schema\"");
        assertThat(run("destinations", "show", "moon").err()).contains("moon");
    }

    @Test void helpNamesEveryCommand() {
        String help = run("--help").out();
        for (String command : List.of("inspect", "plan", "pack", "destinations", "formats", "restore"))
            assertThat(help).contains(command);
        assertThat(run("--version").out()).startsWith("Able Crate");
        assertThat(run().exit()).isEqualTo(Main.WRONG_USAGE);
    }

    @Test void aCommandThatIsNoneIsToldWithOneThatIs() {
        Run run = run("pak");
        assertThat(run.exit()).isEqualTo(Main.WRONG_USAGE);
        assertThat(run.err()).contains("'pak'", "ablecrate pack");
    }

    @Test void packingTwiceDoesTheWorkOnce() throws Exception {
        Path out = temp.resolve("twice");
        assertThat(run("pack", crate.resolve("Rhythms"), "--for", "session", "--into", out).out()).contains("1 packed");
        byte[] first = Files.readAllBytes(out.resolve("audio/windmill 96 bpm.wav"));
        assertThat(run("pack", crate.resolve("Rhythms"), "--for", "session", "--into", out).out()).contains("1 skipped");
        Run other = run("pack", crate.resolve("Rhythms"), "--for", "session", "--into", out, "--level", "peak:-9");
        assertThat(other.exit()).isEqualTo(Main.SOME_LEFT);
        assertThat(other.err()).contains("a different file named windmill 96 bpm.wav is there", "choose to replace it, or to number the new one");
        assertThat(out.resolve("audio/windmill 96 bpm.wav")).hasBinaryContent(first);
        assertThat(run("pack", crate.resolve("Rhythms"), "--for", "session", "--into", out, "--level", "peak:-9", "--existing", "number").out())
                .contains("1 packed");
        assertThat(out.resolve("audio/windmill 96 bpm-2.wav")).exists();
    }

    @Test void jobsStandWherePathsStand() throws Exception {
        Path job = temp.resolve("evening.ablecrate");
        Jobs.save(Job.EMPTY.gathering(List.of(crate.resolve("Rhythms"))).aimedAt("session").packingInto(Optional.of(temp.resolve("evening"))), job);
        assertThat(run("plan", job).out()).contains("windmill 96 bpm.wav", "Recording session");
        assertThat(run("inspect", job).out()).contains("windmill 96 bpm.wav");
        assertThat(run("pack", job).exit()).isZero();
        assertThat(temp.resolve("evening/audio/windmill 96 bpm.wav")).exists();
        assertThat(run("plan", crate.resolve("Rhythms"), "--preset", job, "--into", temp.resolve("evening")).out()).contains("1 there already");
    }

    @Test void quietTellsNothingButErrors() throws Exception {
        Run run = run("pack", crate.resolve("Rhythms"), "--for", "session", "--into", temp.resolve("quiet"), "--quiet");
        assertThat(run.exit()).isZero();
        assertThat(run.out()).isEmpty();
        assertThat(run.err()).isEmpty();
    }

    /// Damage that was looked for and found is counted, and is a failure unless it is only to be told.
    @Test void foundDamageIsCountedInSumAndExit() {
        Path lantern = crate.resolve("Odds and Ends/lantern, clicks.wav");
        Run run = run("plan", lantern, "--for", "files", "--check");
        assertThat(run.exit()).isEqualTo(Main.SOME_LEFT);
        assertThat(run.out()).contains("3 clicks", "damage found in 1 line that stays");
        assertThat(run("plan", lantern, "--for", "files", "--check", "--damage", "tell").exit()).isZero();
        assertThat(run("plan", lantern, "--for", "files").exit()).as("not looked for").isZero();
        Run packed = run("pack", lantern, "--for", "files", "--check", "--into", temp.resolve("damaged"));
        assertThat(packed.exit()).isEqualTo(Main.SOME_LEFT);
        assertThat(packed.out()).contains("1 with damage that stays");
        Run mended = run("pack", lantern, "--for", "files", "--mend-clicks", "--into", temp.resolve("mended"));
        assertThat(mended.exit()).isZero();
        assertThat(run("plan", temp.resolve("mended/lantern, clicks.wav"), "--for", "files", "--check").exit()).as("mended is mended").isZero();
    }

    @Test void settingsOfSomeSoundsAreSaidByAPatternOfNames() {
        String told = run("plan", crate.resolve("Tin Kitchen"), "--for", "files", "--level", "peak:-6", "--treat", "lid*: level peak:-12, fade-out 20",
                "--details")
                .out();
        assertThat(told.lines().filter(l -> l.contains("level: ") && l.contains("→ -12.0 dBFS"))).as("two lids").hasSize(2);
        assertThat(told.lines().filter(l -> l.contains("level: ") && l.contains("→ -6.0 dBFS"))).hasSizeGreaterThan(10);
        assertThat(run("plan", crate, "--for", "files", "--treat", "lid*: colour 3").err()).contains("'colour' is no setting of levels, ends or loops");
        assertThat(run("plan", crate, "--for", "files", "--treat", "unknown*: dc").err()).contains("no sound is named 'unknown*'");
    }

    @ParameterizedTest @CsvSource(delimiter = ';', value = {"\"ratesHz\":\"44100\";'accepts.ratesHz': expected a list in square brackets",
        "\"maxSeconds\":\"no\";'accepts.maxSeconds': expected a number", "\"depths\":[\"17\"];'17' is none of 8, 16"}) void faultsOfASheetNameTheKeyAndThePlace(
                String accepts, String message) throws Exception {
        Path sheet = Files.writeString(temp.resolve("odd.json"), "{\"id\":\"x\",\"name\":\"X\",\"accepts\":{" + accepts + "}}");
        Run run = run("plan", crate, "--for", sheet);
        assertThat(run.exit()).isEqualTo(Main.WRONG_USAGE);
        assertThat(run.err()).contains(message, "odd.json, line 1, column").doesNotContain("java.", "ablecrate.destination");
    }

    @Test void aTerminalHasAWidthAndColoursAPipeHasNeither() {
        Terminal narrow = new Terminal(OptionalInt.of(50), true);
        assertThat(narrow.fit("a".repeat(80), 20)).hasSize(30).endsWith("…");
        assertThat(narrow.fit("short", 20)).isEqualTo("short");
        assertThat(narrow.stamp(Verdict.BLOCKED)).isEqualTo("\u001b[31m■\u001b[0m");
        assertThat(Terminal.PIPE.stamp(Verdict.BLOCKED)).isEqualTo("■");
        assertThat(Terminal.PIPE.fit("a".repeat(800), 20)).hasSize(800);
    }

    @Test void helpIsInGroupsWithExamples() {
        String help = run("pack", "--help").out();
        assertThat(help).containsSubsequence("Where to", "--for", "Format", "--rate", "Levels, ends and loops", "--level", "Damage", "--check",
                "Existing files", "--existing", "Running", "Examples");
        for (String shell : List.of("bash", "zsh", "fish"))
            assertThat(run("completion", shell).out()).contains("ablecrate", "pack", "existing");
        assertThat(run("completion", "smoke").err()).contains("no script for 'smoke'").doesNotContain("Usage");
    }
}
