package ablecrate.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.codec.FileKind;
import ablecrate.demo.CrateForTests;
import ablecrate.format.SurvivalTables;
import ablecrate.job.Job;
import ablecrate.job.Jobs;
import ablecrate.option.OptionsPage;
import ablecrate.pack.Packer;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import java.util.stream.StreamSupport;
import javax.sound.sampled.AudioFileFormat;
import javax.sound.sampled.AudioFormat;
import javax.sound.sampled.AudioInputStream;
import javax.sound.sampled.AudioSystem;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class CommandLineTest {
    private static final Path crate = CrateForTests.shared();
    @TempDir Path temp;

    private record Run(int exit, String out, String err) {
        JsonNode json() throws Exception { return new ObjectMapper().readTree(out); }
    }

    private static Run run(Object... arguments) {
        StringWriter out = new StringWriter(), err = new StringWriter();
        int exit = Main.run(new PrintWriter(out), new PrintWriter(err), List.of(arguments).stream().map(Object::toString).toArray(String[]::new));
        return new Run(exit, out.toString(), err.toString());
    }

    private static Set<String> keys(JsonNode node) {
        Set<String> keys = new HashSet<>();
        node.fieldNames().forEachRemaining(keys::add);
        return keys;
    }

    @Test void inspectTellsEverythingUnderItsStableKeys() throws Exception {
        Run run = run("inspect", crate.resolve("Bottle Organ/bottle_65.wav"), "--json");
        assertThat(run.exit()).isZero();
        JsonNode file = run.json().get(0);
        assertThat(keys(file)).containsExactlyInAnyOrder("path", "kind", "container", "codec", "rateHz", "bitDepth", "sampleFormat", "channels", "frames",
                "durationSeconds", "loops", "rootKey",
                "fineTuneCents", "keyLow", "keyHigh", "velocityLow", "velocityHigh", "gainDb", "cues", "broadcast", "chunks", "problems", "texts");
        assertThat(file.get("rateHz").isInt()).isTrue();
        assertThat(file.get("rootKey").asInt()).isEqualTo(65);
        assertThat(file.get("loops")).hasSize(2);
        assertThat(keys(file.get("loops").get(0))).containsExactlyInAnyOrder("startFrame", "endFrame", "mode", "playCount");
        assertThat(file.get("chunks").findValuesAsText("id")).contains("fmt ", "smpl", "inst", "data");
    }

    @Test void severalDestinationsGoInOneRun() throws Exception {
        Path tins = crate.resolve("Tin Kitchen"), archive = temp.resolve("archive"), card = temp.resolve("card"), job = temp.resolve("tins.ablecrate");
        Run planned = run("plan", tins, "--json", "--for", "files", "--container", "flac", "--and", "--for", "drum-pads", "--kit-name", "TIN");
        assertThat(planned.json().findValuesAsText("destination")).containsExactly("files", "drum-pads");
        assertThat(planned.json().get(0).findValuesAsText("container")).as("options hold for their own destination").containsOnly("flac");
        Run packed = run("pack", tins, "--for", "files", "--container", "flac", "--into", archive, "--and", "--for", "drum-pads", "--into", card, "--json");
        assertThat(packed.exit()).as(packed.err()).isZero();
        assertThat(packed.json().findValuesAsText("into")).containsExactly(archive.toString(), card.toString());
        assertThat(archive.resolve("Whisk.flac")).exists();
        assertThat(card.resolve("001-TINKTCHN")).isDirectory();

        Jobs.save(Job.EMPTY.gathering(List.of(tins)).packingInto(Optional.of(archive)).alsoFor("drum-pads").packingInto(Optional.of(card)), job);
        assertThat(run("pack", job, "--existing", "update").out()).contains("Plain files", "Drum pad unit, 9 pads", "skipped");
        assertThat(run("plan", job, "--for", "drum-pads", "--json").json().get("destination").asText()).as("one of them").isEqualTo("drum-pads");
        assertThat(run("pack", job, "--into", temp.resolve("x")).err()).contains("--into: the job has 2 destinations");
        assertThat(run("pack", tins, "--for", "files", "--into", archive, "--and", "--for", "drum-pads").err()).contains("each destination needs an --into");
        assertThat(run("pack", tins, "--for", "files", "--into", archive, "--and", "--fro", "x").err()).contains("Unknown option: '--fro'",
                "pack --help");
        assertThat(run("pack", tins, "--in-place", "--for", "files", "--and", "--for", "session").err()).contains("several destinations");
    }

    /// The demo's windmill: a hit at each beat of 96 a minute, four bars.
    @Test void inspectFindsOnsetsTempoAndLoops() throws Exception {
        JsonNode file = run("inspect", crate.resolve("Rhythms/windmill 96 bpm.wav"), "--onsets", "--tempo", "--find-loops", "--json").json().get(0);
        assertThat(file.get("onsetFrames")).hasSize(16);
        for (int beat = 0; beat < 16; beat++)
            assertThat(file.get("onsetFrames").get(beat).asDouble()).isCloseTo(beat * 27_562.5, within(44.0));
        assertThat(file.get("tempoBpm").asDouble()).isCloseTo(96, within(0.05));
        assertThat(file.get("tempoConfidence").asDouble()).isBetween(0.0, 1.0);
        assertThat(file.get("foundLoops").size()).isPositive();
        assertThat(keys(file.get("foundLoops").get(0))).contains("startFrame", "endFrame", "mode", "crossfadeFrames", "fallDbPerSecond", "seamDb", "centsOff");
        assertThat(keys(run("inspect", crate.resolve("Rhythms/windmill 96 bpm.wav"), "--tempo", "--json").json().get(0))).contains("tempoBpm")
                .doesNotContain("onsetFrames", "foundLoops");
    }

    /// A sound that starts late, and is cut off while it rings.
    @Test void inspectTellsOfBothEnds() throws Exception {
        ByteBuffer hit = ByteBuffer.allocate(40_000).order(ByteOrder.LITTLE_ENDIAN);
        for (int n = 0; n < 20_000; n++)
            hit.putShort((short) (n < 4_410 ? 0 : 16_384 * Math.cos((n - 4_410) * 0.05)));
        Path file = temp.resolve("lid.wav");
        AudioFormat format = new AudioFormat(44_100, 16, 1, true, false);
        AudioSystem.write(new AudioInputStream(new ByteArrayInputStream(hit.array()), format, 20_000), AudioFileFormat.Type.WAVE, file.toFile());
        JsonNode ends = run("inspect", file, "--ends", "--json").json().get(0).get("ends");
        assertThat(ends.get("attackMs").asDouble()).isCloseTo(100, within(0.2));
        assertThat(ends.get("startStepDbfs").asDouble()).isEqualTo(-200);
        assertThat(ends.get("endStepDbfs").asDouble()).isCloseTo(20 * Math.log10(Math.abs(hit.getShort(39_998) / 32_768.0)), within(0.1));
        assertThat(run("inspect", file, "--ends").out()).contains("first attack after 100.", "starts at silence", "a click");
    }

    @Test void aClipIsChoppedAtTheTempoThatIsSaid() throws Exception {
        Run run = run("pack", crate.resolve("Rhythms"), "--for", "files", "--chop", "grid:1/2", "--bpm", "96", "--into", temp.resolve("slices"), "--quiet");
        assertThat(run.exit()).isZero();
        try (Stream<Path> files = Files.walk(temp.resolve("slices"))) {
            assertThat(files.filter(f -> f.toString().endsWith(".wav"))).hasSize(8).allMatch(f -> f.getParent().endsWith("windmill 96 bpm"));
        }
        assertThat(run("plan", crate.resolve("Rhythms"), "--for", "files", "--chop", "never").err()).contains("--chop", "'never' is none of onsets, grid:1/16");
    }

    @Test void inspectListensWhenAsked() throws Exception {
        JsonNode file = run("inspect", crate.resolve("Bottle Organ/bottle_65.wav"), "--levels", "--json").json().get(0);
        assertThat(keys(file)).contains("samplePeakDbfs", "truePeakDbtp", "loudnessIntegratedLufs", "loudnessMomentaryMaxLufs", "loudnessShortTermMaxLufs",
                "loudnessRangeLu", "rmsDbfs", "dcOffset");
        assertThat(file.get("loudnessMomentaryMaxLufs").asDouble()).isBetween(-40.0, 0.0);
        assertThat(file.get("durationSeconds").asDouble()).isLessThan(3);
        assertThat(file.get("loudnessShortTermMaxLufs").isNull()).as("no short-term loudness below 3 s").isTrue();
    }

    @Test void levelsAreSetAndTheSlipHasBeforeAndAfter() throws Exception {
        Path out = temp.resolve("leveled");
        run("pack", crate.resolve("Tin Kitchen"), "--for", "session", "--into", out, "--level", "lufs-m:-20", "--ceiling", "-1", "--trim", "-70", "--dc",
                "--fade-out",
                "20");
        JsonNode items = new ObjectMapper().readTree(out.resolve(Packer.SLIP_JSON).toFile()).get("items");
        assertThat(items).isNotEmpty();
        for (JsonNode item : items) {
            JsonNode levels = item.get("outputs").get(0).get("levels");
            assertThat(levels.get("after").get("truePeakDbtp").asDouble()).isLessThanOrEqualTo(-0.95);
            if (!item.toString().contains("limiter holds"))
                assertThat(levels.get("after").get("loudnessMomentaryMaxLufs").asDouble()).as(item.get("source").asText()).isCloseTo(-20, within(0.1));
        }
        assertThat(run("plan", crate, "--for", "session", "--level", "loud:-10").err()).contains("--level: 'loud:-10' has none of the measures peak, truepeak");
        assertThat(run("plan", crate, "--for", "session", "--level", "peak:abc").err()).contains("'peak:abc' has no level in dB behind its measure");
    }

    /// Of an instrument that is taken apart, the sound that it is about is named.
    @Test void whatIsMissedIsToldOfItsFile() {
        Run run = run("pack", crate.resolve("Instruments/wind-up harp.sfz"), "--for", "session", "--level", "lufs-i:-20", "--into", temp.resolve("out"));
        assertThat(run.err().lines().filter(l -> l.startsWith("missed: "))).isNotEmpty()
                .allMatch(l -> l.matches(".*wind-up harp\\.sfz, '.*\\.wav': level: .* short of -20.0 LUFS: .*"))
                .doesNotHaveDuplicates();
    }

    @Test void inspectNamesWhatIsNoSound() throws Exception {
        Run run = run("inspect", crate.resolve("Odds and Ends/overture mixdown.mp3"), "--json");
        assertThat(run.exit()).isEqualTo(1);
        assertThat(run.json().get(0).get("kind").asText()).isEqualTo("playlist");
        assertThat(run.json().get(0).get("rateHz").isNull()).isTrue();
    }

    /// The demo crate shows every verdict at the destination that it opens with.
    @Test void planGivesEveryItemItsVerdictAndWritesNothing() throws Exception {
        Run run = run("plan", crate, "--for", "session", "--json");
        JsonNode list = run.json();
        assertThat(run.exit()).isEqualTo(1);
        for (String verdict : List.of("kept", "converted", "adjusted", "reduced", "blocked"))
            assertThat(list.get("totals").get(verdict).asInt()).as(verdict).isPositive();
        assertThat(list.get("items")).hasSizeGreaterThanOrEqualTo(60);
        assertThat(keys(list.get("items").get(0))).containsExactlyInAnyOrder("source", "verdict", "changes", "outputs", "maps", "sidecars");
        assertThat(keys(list.get("items").get(0).get("changes").get(0))).contains("property", "kind", "before", "after", "verdict", "reason")
                .isSubsetOf("property", "kind", "before", "after", "beforeValue", "afterValue", "unit", "verdict", "reason", "values");
        JsonNode rate = StreamSupport.stream(list.get("items").spliterator(), false).flatMap(i -> StreamSupport.stream(i.get("changes").spliterator(), false))
                .filter(c -> c.get("kind").asText().equals("rate-converted")).findFirst().orElseThrow();
        assertThat(rate.get("values").get("fromHz").asInt()).isEqualTo(rate.get("beforeValue").asInt()).isNotEqualTo(48_000);
        assertThat(rate.get("values").get("toHz").asInt()).isEqualTo(48_000);
    }

    @ParameterizedTest @ValueSource(strings = {"files", "session", "drum-pads", "four-track"}) void packDoesWhatThePlanSaid(String destination)
            throws Exception {
        JsonNode plan = run("plan", crate, "--for", destination, "--json").json();
        Run run = run("pack", crate, "--for", destination, "--into", temp.resolve("out"), "--json");
        JsonNode slip = run.json();
        assertThat(run.exit()).isEqualTo(1); // some of the crate must be refused
        assertThat(slip.get("totals")).isEqualTo(plan.get("totals"));
        for (int i = 0; i < plan.get("items").size(); i++) {
            JsonNode planned = plan.get("items").get(i), packed = slip.get("items").get(i);
            assertThat(packed.get("source")).isEqualTo(planned.get("source"));
            // What turns out only while packing, samples beyond full scale, comes behind what was planned.
            JsonNode changes = packed.get("changes");
            for (int c = 0; c < planned.get("changes").size(); c++)
                assertThat(changes.get(c)).isEqualTo(planned.get("changes").get(c));
            for (int c = planned.get("changes").size(); c < changes.size(); c++)
                assertThat(changes.get(c).get("reason").asText()).contains("beyond full scale: the limiter takes just that");
            if (changes.size() == planned.get("changes").size()) assertThat(packed.get("verdict")).isEqualTo(planned.get("verdict"));
            assertThat(packed.has("error")).isEqualTo(planned.get("verdict").asText().equals("blocked"));
            for (int o = 0; o < planned.get("outputs").size(); o++) {
                assertThat(packed.get("outputs").get(o).get("path")).isEqualTo(planned.get("outputs").get(o).get("path"));
                assertThat(packed.get("outputs").get(o).get("frames")).isEqualTo(planned.get("outputs").get(o).get("frames"));
            }
            for (int m = 0; m < planned.get("maps").size(); m++)
                assertThat(packed.get("maps").get(m).get("path")).isEqualTo(planned.get("maps").get(m).get("path"));
        }
        assertThat(temp.resolve("out/packing-slip.json")).content().isEqualTo(run.out());
    }

    @ParameterizedTest @CsvSource({"--for nowhere,no destination 'nowhere'", "--for four-track --rate 48000,four-track does not take 48000 Hz; it takes 44100",
        "--for files --depth 17,'--depth: ''17'''",
        "--for files --name (x),no word 'x'"}) void wrongUsageSaysWhatIsRight(String options, String message) {
        List<Object> arguments = new ArrayList<>(List.of("plan", crate));
        arguments.addAll(List.of(options.split(" ")));
        Run run = run(arguments.toArray());
        assertThat(run.exit()).isEqualTo(2);
        assertThat(run.err()).contains(message).doesNotContain("Exception");
    }

    @Test void aMissingFolderAndAMissingTargetAreWrongUsage() {
        assertThat(run("plan", temp.resolve("gone"), "--for", "files")).satisfies(r -> assertThat(r.exit()).isEqualTo(2));
        assertThat(run("pack", crate, "--for", "files").err()).contains("say where to: --into DIR, or --in-place");
        assertThat(run().exit()).isEqualTo(2);
    }

    @Test void whenAllGoesTheExitIsZero() {
        assertThat(run("pack", crate.resolve("Wind-up Harp"), "--for", "drum-pads", "--into", temp).exit()).isZero();
        assertThat(temp.resolve("001-WINDPHRP/2-HARP_C2.wav")).exists();
    }

    @Test void packingInPlaceCanBeUndone() throws Exception {
        Path own = Files.createDirectories(temp.resolve("own"));
        for (String name : List.of("harp C2.wav", "harp G2.wav"))
            Files.copy(crate.resolve("Wind-up Harp").resolve(name), own.resolve(name));
        assertThat(run("pack", own, "--for", "files", "--rate", "48000", "--in-place").exit()).isZero();
        assertThat(run("inspect", own.resolve("harp C2.wav"), "--json").json().get(0).get("rateHz").asInt()).isEqualTo(48000);
        assertThat(run("restore", own).out()).contains("2 originals brought back");
        assertThat(Files.mismatch(own.resolve("harp C2.wav"), crate.resolve("Wind-up Harp/harp C2.wav"))).isEqualTo(-1);
    }

    @Test void sheetsCanBeCopiedChangedAndUsed() throws Exception {
        Path sheet = temp.resolve("mine.json");
        Files.writeString(sheet, run("destinations", "show", "four-track").out().replace("44100", "22050").replace("\"four-track\"", "\"toy-box\""));
        assertThat(run("plan", crate.resolve("Tin Kitchen"), "--for", sheet).out()).contains("Four-track recorder").contains("→ 22,050 Hz");
        assertThat(run("destinations", "schema").json().get("title").asText()).contains("Destination sheet");
    }

    @Test void theTableOfTheDocumentsIsTheOneOfTheCode() throws Exception {
        assertThat(run("formats", "--markdown").out()).isEqualTo(SurvivalTables.markdown());
        Path page = Path.of("").toAbsolutePath().getParent().resolve("docs/formats.md");
        assertThat(page).content().contains(SurvivalTables.markdown());
        assertThat(run("options", "--markdown").out()).isEqualTo(OptionsPage.markdown());
        assertThat(page.resolveSibling("options.md")).content().contains(OptionsPage.markdown());
    }

    /// Killed eight times at random moments while it writes: never a half file under a final name, and the next run completes.
    @Test void aKilledRunLeavesNoHalfFile() throws Exception {
        Random random = new Random(5);
        Path out = temp.resolve("killed"), stems = crate.resolve("Overture Stems"), atmospheres = crate.resolve("Atmospheres"),
                start = Path.of("").toAbsolutePath().getParent().resolve("start");
        int killed = 0;
        for (int kill = 0; kill < 8; kill++) {
            long from = System.currentTimeMillis();
            Process process = new ProcessBuilder(Path.of(System.getProperty("java.home"), "bin", "java").toString(), "@" + start.resolve("commands.args"),
                    "-cp",
                    System.getProperty("java.class.path"), "ablecrate.cli.Main", "pack",
                    stems.toString(), atmospheres.toString(), "--for", "session", "--into", out.toString(), "--existing", "replace").redirectErrorStream(true)
                    .redirectOutput(ProcessBuilder.Redirect.DISCARD).start();
            while (process.isAlive() && !isWriting(out, from))
                Thread.sleep(2);
            if (!process.waitFor(random.nextInt(400), TimeUnit.MILLISECONDS)) {
                process.destroyForcibly().waitFor();
                killed++;
            }

            try (var files = Files.list(out.resolve("audio"))) {
                for (Path file : files.filter(f -> !f.getFileName().toString().startsWith(".")).toList())
                    assertThat(((FileKind.Sound) FileKind.of(file)).format().read(file).problems()).as(file.toString()).isEmpty();
            }
        }
        assertThat(killed).as("kills while it wrote").isGreaterThan(4);
        JsonNode slip = run("pack", stems, atmospheres, "--for", "session", "--into", out, "--json").json();
        assertThat(slip.get("outcomes").has("failed")).isFalse();
        assertThat(parts(out)).isEmpty();
    }

    private static boolean isWriting(Path out, long since) throws IOException {
        return parts(out).stream().anyMatch(f -> f.toFile().lastModified() >= since);
    }

    private static List<Path> parts(Path out) throws IOException {
        if (!Files.isDirectory(out)) return List.of();
        try (var files = Files.walk(out)) {
            return files.filter(f -> f.getFileName().toString().contains("ablecrate-part")).toList();
        } catch (UncheckedIOException e) {
            // One of them was renamed while they were looked through.
            return List.of();
        }
    }
}
