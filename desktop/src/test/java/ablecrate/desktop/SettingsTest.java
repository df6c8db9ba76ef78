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
        Settings settings = new Settings(new Settings.Look(true, 150, List.of("-Size MB", "<Length s"), 0.5, true, true),
                new Settings.Place(Optional.of(10.0), Optional.of(20.0), 1400, 900), Settings.DEFAULT.recent(), false, List.of("/drops"))
                .withJob(Path.of("/jobs/a.ablecrate")).withChooserFolder(Path.of("/sounds")).withGathered(Path.of("/sounds/a"));
        settings.save(file);
        assertThat(Settings.load(file)).isEqualTo(settings);
    }

    /// A window without a place yet is saved too: JSON has no number for it.
    @Test void theFirstStartCanBeSaved() {
        Path file = folder.resolve("settings.json");
        Settings.DEFAULT.save(file);
        assertThat(Settings.load(file).place().width()).isEqualTo(1280);
        assertThat(Settings.load(file).place().x()).isEmpty();
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
        assertThat(settings.recent().jobs()).hasSize(8).startsWith(Path.of("/jobs/7").toString(), Path.of("/jobs/11").toString()).doesNotHaveDuplicates();
        assertThat(settings.recent().openJob()).isEqualTo(Optional.of(Path.of("/jobs/7").toString()));
    }
}
