package ablecrate.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class SettingsTest {
    @TempDir Path folder;

    @Test void whatIsRememberedComesBack() {
        Path file = folder.resolve("deep/settings.json");
        Settings settings = Settings.DEFAULT.withDark(true).withWindow(10, 20, 1400, 900, 0.5).withJob(Path.of("/jobs/a.ablecrate"))
                .withLastFolder(Path.of("/sounds")).withColumns(List.of("-Size MB", "<Length s")).withBenchLarge(true).withGathered(Path.of("/sounds/a"));
        settings.save(file);
        assertThat(Settings.load(file)).isEqualTo(settings);
    }

    /// A window without a place yet is saved too: JSON has no number for it.
    @Test void theFirstStartCanBeSaved() {
        Path file = folder.resolve("settings.json");
        Settings.DEFAULT.save(file);
        assertThat(Settings.load(file).width()).isEqualTo(1280);
        assertThat(Settings.load(file).x()).isEmpty();
    }

    @Test void spoiltSettingsAreStartedAnew() throws Exception {
        Path file = Files.writeString(folder.resolve("settings.json"), "{ \"dark\": tru");
        assertThat(Settings.load(file)).isEqualTo(Settings.DEFAULT);
        assertThat(Settings.load(folder.resolve("none.json"))).isEqualTo(Settings.DEFAULT);
    }

    @Test void recentJobsAreEachThereOnceTheLastFirst() {
        Settings settings = Settings.DEFAULT;
        for (int i = 0; i < 12; i++)
            settings = settings.withJob(Path.of("/jobs/" + i));
        settings = settings.withJob(Path.of("/jobs/7"));
        assertThat(settings.recentJobs()).hasSize(8).startsWith(Path.of("/jobs/7").toString(), Path.of("/jobs/11").toString()).doesNotHaveDuplicates();
        assertThat(settings.lastJob()).isEqualTo(Optional.of(Path.of("/jobs/7").toString()));
    }
}
