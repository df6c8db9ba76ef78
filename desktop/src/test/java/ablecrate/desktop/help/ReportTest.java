package ablecrate.desktop.help;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.json.Product;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class ReportTest {
    @TempDir Path folder;

    @AfterEach void forget() { System.clearProperty("org.slf4j.simpleLogger.logFile"); }

    @Test void itTellsVersionsAndFaultsButNoNames() throws Exception {
        Path log = Files.writeString(folder.resolve("ablecrate.log"), """
                2026-11-28 08:00:00 ERROR Packer - packing /home/ada/Secret Songs/lead (final).wav
                java.lang.IllegalStateException: no room
                \tat ablecrate.core/ablecrate.pack.Packer.pack(Packer.java:140)
                2026-11-28 08:00:01 WARN SoundFile - cut off at frame 12: 'C:\\Users\\ada\\kick.aif'
                2026-11-28 08:00:02 WARN Catalogue - my Secret kick.wav is another file now
                java.nio.file.NoSuchFileException: /home/ada/Secret's album: final/lead.wav
                """);
        assertThat(Report.of(log))
                .contains(Product.VERSION, System.getProperty("os.name"), "Java ", "no room", "java.nio.file.NoSuchFileException: ",
                        "at ablecrate.core/ablecrate.pack.Packer.pack(Packer.java:140)",
                        "cut off at frame 12", "is another file now")
                .doesNotContain("ada", "Secret", "lead", "kick");
    }

    @Test void theLogOfTheRunBeforeIsKeptOnce() throws Exception {
        Path log = folder.resolve("cache/ablecrate.log");
        Report.begin(log);
        assertThat(System.getProperty("org.slf4j.simpleLogger.logFile")).isEqualTo(log.toString());
        assertThat(Report.of(log)).contains("Nothing was logged.");
        for (String run : new String[]{"first", "second"}) {
            Files.writeString(log, run);
            Report.begin(log);
        }
        assertThat(log).doesNotExist();
        assertThat(log.resolveSibling("ablecrate.1.log")).hasContent("second");
    }
}
