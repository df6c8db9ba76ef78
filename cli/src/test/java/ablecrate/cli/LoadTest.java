package ablecrate.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import ablecrate.demo.CrateForTests;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/// Cards that were packed load on the stand-ins for their devices without a word.
class LoadTest {
    @TempDir Path folder;
    private static final Path crate = CrateForTests.shared();

    private final StringWriter out = new StringWriter(), err = new StringWriter();

    private int run(String... arguments) { return Main.run(new PrintWriter(out, true), new PrintWriter(err, true), arguments); }

    @ParameterizedTest @ValueSource(strings = {"keyboard-sampler", "drum-pads", "four-track", "card-sampler", "bank-player", "pocket-sampler",
        "rack-sampler"}) void everyPackedCardLoads(String device) throws Exception {
        run("pack", crate.toString(), "--for", device, "--into", folder.resolve("card").toString(), "--quiet");
        out.getBuffer().setLength(0);
        assertThat(run("load", folder.resolve("card").toString(), "--as", device)).as(out.toString() + err).isZero();
        assertThat(out.toString()).contains("0 refused").doesNotContain(": 0 loaded");
    }

    /// 136 instruments are more than the 128 of a bank, and their loops lie as its makers left them: some with fewer frames behind them than the device wants.
    @Test void aRealBankLoads() throws Exception {
        Path real = Path.of("/usr/share/sounds/sf2/TimGM6mb.sf2");
        assumeTrue(Files.exists(real), "timgm6mb-soundfont is not installed");
        run("pack", real.toString(), "--for", "bank-player", "--into", folder.resolve("card").toString(), "--quiet");
        assertThat(folder.resolve("card")).isDirectoryContaining("glob:**/TimGM6mb 1.sf2").isDirectoryContaining("glob:**/TimGM6mb 2.sf2");
        out.getBuffer().setLength(0);
        assertThat(run("load", folder.resolve("card").toString(), "--as", "bank-player")).as(out.toString() + err).isZero();
        assertThat(out.toString()).contains("136 loaded, 0 refused");
    }

    @Test void whatADeviceRefusesIsTold() throws Exception {
        Files.createDirectories(folder.resolve("card").resolve("wrong name"));
        assertThat(run("load", folder.resolve("card").toString(), "--as", "drum-pads", "--json")).isEqualTo(Main.SOME_LEFT);
        assertThat(out.toString()).contains("\"path\" : \"wrong name\"", "\"reason\" : \"folder name; ");
        assertThat(run("load", folder.toString(), "--as", "toaster")).isEqualTo(Main.WRONG_USAGE);
        assertThat(err.toString()).contains("no device 'toaster'; there are drum-pads, four-track, keyboard-sampler");
    }
}
