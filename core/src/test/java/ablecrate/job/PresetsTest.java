package ablecrate.job;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ablecrate.codec.Quality;
import ablecrate.json.Json;
import ablecrate.option.Choice;
import ablecrate.option.ExistingFiles;
import ablecrate.option.Kits;
import ablecrate.option.Limits;
import ablecrate.option.Mending;
import ablecrate.option.Overs;
import ablecrate.option.PadOrder;
import ablecrate.option.Placing;
import ablecrate.option.Treatment;
import ablecrate.option.PackOptions;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Path;
import java.nio.file.Files;
import java.util.List;
import java.util.Map;
import java.util.OptionalInt;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
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

    /// What makes no sense is refused wherever it comes from: here by a job file that somebody wrote by hand.
    @ParameterizedTest @CsvSource({"trim,3", "fade-in,-1", "loop-crossfade,-5", "ceiling,1", "limiting,-1",
        "fade-out,1e9"}) void valuesWithoutSenseAreRefused(
                String key, String value) throws Exception {
        Presets presets = new Presets(folder.resolve("presets"));
        presets.save("odd", new Presets.Preset("files", PackOptions.DEFAULT));
        Path file = folder.resolve("presets/odd.ablecrate");
        String text = Files.readString(file), spoilt = text.replaceAll("\"" + key + "\" : [^,\n]+", "\"" + key + "\" : " + value);
        assertThat(spoilt).isNotEqualTo(text);
        Files.writeString(file, spoilt);
        assertThatThrownBy(() -> presets.find("odd")).isInstanceOf(Json.JsonFault.class).hasMessageContaining("not ");
    }

    @Test void kitsAndVerifyingAreKept() throws Exception {
        Presets presets = new Presets(folder.resolve("presets"));
        Kits kits = new Kits(OptionalInt.of(12), List.of("Bells", "Glass"), PadOrder.ROOT, Map.of(3, "kick*"));
        PackOptions options = PackOptions.DEFAULT.withPlacing(Placing.USUAL.withKits(kits).withVerifying(true).withExisting(ExistingFiles.UPDATE))
                .withTreatment(Treatment.NONE.withLimits(Limits.NONE.withMostLimiting(3).withOvers(Overs.CLIP)))
                .withMending(Mending.NONE.withDamageFailing(false));
        presets.save("kits", new Presets.Preset("drum-pads", options));
        assertThat(presets.find("kits").options()).isEqualTo(options);
    }
}
