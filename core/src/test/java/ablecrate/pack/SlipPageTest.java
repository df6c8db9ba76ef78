package ablecrate.pack;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assumptions.assumeThat;

import ablecrate.change.ChangeEntry;
import ablecrate.option.LevelTarget;
import ablecrate.option.OptionValues;
import ablecrate.option.PackOptions;
import ablecrate.option.Treatment;
import ablecrate.dsp.LevelMeasure;
import java.io.File;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// The slip as people keep it and send it on.
class SlipPageTest {
    private static final String HOSTILE = "<script>document.title='run'</script><img src=x onerror=\"document.title='run'\">.wav";

    @TempDir Path folder;

    private static PackingSlip.Item item(String source, String verdict, Optional<String> error, PackingSlip.Check... checks) {
        ChangeEntry change = new ChangeEntry("rate", "rate-converted", "44,100 Hz", "48,000 Hz", Optional.of(44_100.0), Optional.of(48_000.0),
                Optional.of("Hz"),
                "converted", "a < b & \"c\"", Optional.empty(), Optional.of(List.of("'<i>', C4", "b")));
        PackingSlip.Output output = new PackingSlip.Output("audio/" + Path.of(source).getFileName(), "written", "r", 1_234_567, 0, "0123456789abcdef", 1,
                48_000, 24,
                "integer", 1, List.of(checks), Optional.empty(), Optional.empty());
        return new PackingSlip.Item(source, verdict, error.isPresent() ? "failed" : "packed", Optional.empty(), List.of(change),
                error.isPresent() ? List.of() : List.of(output), List.of(), List.of(), error);
    }

    private static PackingSlip slip(List<PackingSlip.Item> items) {
        PackOptions options = PackOptions.DEFAULT
                .withTreatment(Treatment.NONE.withLevel(Optional.of(new LevelTarget(LevelMeasure.LUFS_I, -18))).withCeiling(Optional.of(-1.0)));
        return new PackingSlip("Able Crate", "0.1.0", "session", "Session folder", "/out", "2026-01-01T00:00:00Z", 1.5, "stopped", OptionValues.of(options),
                Map.of("converted", 1), Map.of("packed", 2, "failed", 1), 1, 0, items);
    }

    private static PackingSlip sample() {
        PackingSlip.Check held = new PackingSlip.Check("mapping", true, "held", "root 60", Optional.empty(), Optional.empty(), Optional.empty()),
                missed = new PackingSlip.Check("level", false, "missed", "2.0 dB short", Optional.of(-18.0), Optional.of(-20.0), Optional.of("LUFS"));
        return slip(List.of(item("/crate/Reeds/reed.wav", "converted", Optional.empty(), held),
                item("/crate/Tin/lid.wav", "adjusted", Optional.empty(), held, missed),
                item("/crate/Tin/" + HOSTILE.replace('/', '-'), "converted", Optional.of("<b>broken</b>"))));
    }

    @Test void whatHasToBeLookedAtComesFirstAndTheRestLiesFolded() {
        // Behind the fonts, which are long.
        String all = SlipPage.html(sample(), List.of()), page = all.substring(all.indexOf("</style>"));
        assertThat(page).containsSubsequence("stopped before the end", "/crate</code>", "To look at", "&lt;b&gt;broken", "lid.wav", "As planned",
                "<details class=\"folder\"><summary>Reeds", "reed.wav");
        assertThat(page).as("in words")
                .contains("✗ level: 2.0 dB short", "✓ all 1 check held", "key mapping", "Sample rate: 44,100 Hz → 48,000 Hz", "each of 2")
                .as("what was chosen, and nothing else").containsSubsequence("What was chosen", "Set levels by", "lufs-i:-18", "Ceiling", "-1");
        assertThat(page.substring(page.indexOf("What was chosen"))).doesNotContain("--rate", "--dither");
    }

    /// Names of files come from anywhere; the page must show them, not run them.
    @Test void namesAndTextsAreShownAndNeverRun() throws Exception {
        String page = SlipPage.html(sample(), List.of());
        assertThat(page).contains("&lt;script&gt;", "a &lt; b &amp; &quot;c&quot;", "default-src 'none'").doesNotContain("<img", "<b>broken", "<i>");
        for (String element : List.of("style", "script")) {
            Matcher found = Pattern.compile("<" + element + ">(.*?)</" + element + ">", Pattern.DOTALL).matcher(page);
            assertThat(found.find()).isTrue();
            byte[] digest = MessageDigest.getInstance("SHA-256").digest(found.group(1).getBytes(StandardCharsets.UTF_8));
            assertThat(page).as("slip.policy names the one %s", element)
                    .contains(element + "-src 'sha256-" + Base64.getEncoder().encodeToString(digest) + "'");
            assertThat(found.find()).as("another %s", element).isFalse();
        }
    }

    @Test void ofManyLinesWhatHeldIsCountedOnly() {
        PackingSlip.Check held = new PackingSlip.Check("mapping", true, "held", "root 60", Optional.empty(), Optional.empty(), Optional.empty());
        List<PackingSlip.Item> items = new ArrayList<>(sample().items());
        for (int i = 0; i < 2100; i++)
            items.add(item("/crate/Many/" + i + ".wav", "converted", Optional.empty(), held));
        assertThat(SlipPage.html(slip(items), List.of())).contains("✓ all 1 check held", "✗ level: 2.0 dB short").doesNotContain("root 60", "0123456789abcdef");
    }

    /// In a browser, where there is one: the script of the page runs under its policy, none of a name does.
    @Test void aBrowserOpensIt() throws Exception {
        Optional<Path> browser = Stream.of(System.getenv("PATH").split(File.pathSeparator))
                .flatMap(d -> Stream.of("chromium", "chromium-browser", "google-chrome")
                        .map(n -> Path.of(d, n)))
                .filter(Files::isExecutable).findFirst();
        assumeThat(browser).as("a browser is installed").isPresent();
        List<PackingSlip.Item> items = new ArrayList<>(sample().items());
        for (int i = 0; i < 500; i++)
            items.add(item("/crate/Many/" + i + ".wav", "converted", Optional.empty()));
        Path page = Files.writeString(folder.resolve("slip.html"), SlipPage.html(slip(items), List.of())), dom = folder.resolve("dom.html");
        Process process = new ProcessBuilder(browser.get().toString(), "--headless", "--no-sandbox", "--disable-gpu", "--no-first-run",
                "--disable-background-networking", "--user-data-dir=" + folder.resolve("profile"), "--dump-dom", page.toUri().toString())
                .redirectOutput(dom.toFile()).redirectError(ProcessBuilder.Redirect.DISCARD).start();
        assertThat(process.waitFor(60, TimeUnit.SECONDS)).isTrue();
        String shown = Files.readString(dom);
        assertThat(shown).contains("class=\"scripted\"", "aria-pressed=\"true\"", "<title>Packing slip").doesNotContain("<title>run");
        assertThat(shown.split("<tr data-state", -1)).hasSize(503 + 1);
    }
}
