package ablecrate.json;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class JsonTest {
    record Crate(String name, int sounds, Optional<Double> gainDb, List<String> tags) {}

    @TempDir Path folder;

    @Test void recordsComeBackAsTheyWere() throws Exception {
        for (Crate crate : List.of(new Crate("a \"b\" ♪", 3, Optional.of(-1.5), List.of("x", "y")), new Crate("", 0, Optional.empty(), List.of())))
            assertThat(Json.read(Json.write(crate), Crate.class, "crate")).isEqualTo(crate);
    }

    /// Two runs write the same bytes, on every machine.
    @Test void theTextIsTheSameEverywhere() {
        assertThat(Json.write(new Crate("a", 1, Optional.of(0.1), List.of("x")))).isEqualTo("""
                {
                  "name" : "a",
                  "sounds" : 1,
                  "gainDb" : 0.1,
                  "tags" : [
                    "x"
                  ]
                }
                """);
    }

    @ParameterizedTest @CsvSource(delimiter = '|', value = {"{\"name\":\"a\",\"colour\":1}|colour", "{\"name\":\"a\"|line 1",
        "{\"name\":\"a\",\"sounds\":\"many\"}|sounds",
        "[]|crate.json", "{} {}|crate.json", "|crate.json"}) void whatIsWrongIsSaidWithTheFileAndThePlace(String text, String told) {
        assertThatThrownBy(() -> Json.read(text == null ? "" : text, Crate.class, "crate.json")).isInstanceOf(Json.JsonFault.class)
                .hasMessageStartingWith("crate.json").hasMessageContaining(told);
    }

    @Test void nestingWithoutEndIsRefused() throws Exception {
        Path file = Files.writeString(folder.resolve("deep.json"), "{\"tags\":" + "[".repeat(100_000));
        assertThatThrownBy(() -> Json.read(file, Crate.class)).isInstanceOf(Json.JsonFault.class);
    }
}
