package ablecrate.cli;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.demo.CrateForTests;
import ablecrate.demo.DemoCrate;
import ablecrate.demo.DemoDevices;
import ablecrate.demo.DemoSession;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.DynamicTest;
import org.junit.jupiter.api.TestFactory;
import org.junit.jupiter.api.io.TempDir;

/// The commands of the guide do as they stand there, page by page, on the demo crate.
class GuideTest {
    private static final Path PAGES = Path.of("..", "docs", "guide");
    private static final Pattern BLOCK = Pattern.compile("```sh\\n(.*?)```", Pattern.DOTALL), WORD = Pattern.compile("\"([^\"]*)\"|(\\S+)");
    private static final String CRATE = "demo/" + DemoCrate.NAME;
    @TempDir static Path folder;

    @BeforeAll static void makeTheDemo() throws Exception {
        Path crate = CrateForTests.in(folder.resolve("demo"));
        DemoDevices.make(crate);
        DemoSession.make(crate);
    }

    @TestFactory Stream<DynamicTest> everyPage() throws Exception {
        List<Path> pages;
        try (Stream<Path> all = Files.list(PAGES)) {
            pages = all.sorted().toList();
        }
        assertThat(pages).hasSize(15);
        return pages.stream().map(page -> DynamicTest.dynamicTest(page.getFileName().toString(), () -> {
            Matcher blocks = BLOCK.matcher(Files.readString(page));
            while (blocks.find())
                for (String line : blocks.group(1).lines().toList())
                    run(line);
        }));
    }

    /// Tests have one folder of their own, where a reader stands in some folder; what is in the crate itself is read and no more.
    private static String place(String word) {
        if (word.startsWith(CRATE)) return CrateForTests.shared() + word.substring(CRATE.length());
        return word.startsWith("demo/") || word.startsWith("packed/") ? folder.resolve(word).toString() : word;
    }

    private static void run(String line) {
        List<String> words = new ArrayList<>();
        Matcher word = WORD.matcher(line);
        while (word.find())
            words.add(word.group(1) == null ? word.group(2) : word.group(1));
        assertThat(words.removeFirst()).isEqualTo("./ablecrate");
        // The start script makes the demo crate.
        if (words.getFirst().equals("demo")) return;
        words.replaceAll(GuideTest::place);
        StringWriter out = new StringWriter(), err = new StringWriter();
        int exit = Main.run(new PrintWriter(out, true), new PrintWriter(err, true), words.toArray(String[]::new));
        // Some of the demo's files cannot go, and its session is not whole at first.
        boolean hasTrouble = line.matches("\\S+ (plan|pack) \"demo/The Clockwork Orchard\".*") || line.contains("as mailed") || line.contains("session check");
        assertThat(exit).as(line + "\n" + err).isEqualTo(hasTrouble ? Main.SOME_LEFT : Main.ALL_PACKED);
        assertThat(out.toString() + err).as(line).matches(told -> line.contains("--quiet") || line.contains(" presets ") || !told.isBlank());
    }
}
