package ablecrate.job;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ablecrate.codec.Quality;
import ablecrate.json.Json;
import ablecrate.plan.Choice;
import ablecrate.plan.Mending;
import ablecrate.plan.PackOptions;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class PresetsTest {
    @TempDir Path folder;

    @Test void presetsAreSavedFoundRenamedAndDeleted() throws Exception {
        Presets presets = new Presets(folder.resolve("presets"));
        assertThat(presets.names()).isEmpty();
        Presets.Preset mailing = new Presets.Preset("files", PackOptions.DEFAULT.withContainer(Choice.of("mp3")).withQuality(Quality.constant(160))
                .withMending(Mending.NONE.withLikelyDelay(true).withMending(true)));
        presets.save("for mailing", mailing);
        presets.save("for the session", new Presets.Preset("session", PackOptions.DEFAULT));
        assertThat(presets.find("for mailing")).isEqualTo(mailing);
        presets.rename("for mailing", "Mail");
        assertThat(presets.names()).containsExactly("for the session", "Mail");
        assertThatThrownBy(() -> presets.rename("Mail", "for the session")).isInstanceOf(FileAlreadyExistsException.class);
        assertThatThrownBy(() -> presets.find("for mailing")).isInstanceOf(Json.JsonFault.class)
                .hasMessage("no preset 'for mailing'; there are for the session, Mail");
        presets.delete("Mail");
        assertThat(presets.names()).containsExactly("for the session");
        for (String bad : new String[]{"", " ", "../x", "a/b", ".hidden", "x".repeat(61)})
            assertThat(Presets.fault(bad)).as("'" + bad + "'").isPresent();
    }
}
