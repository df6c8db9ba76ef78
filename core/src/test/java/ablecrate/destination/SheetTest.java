package ablecrate.destination;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ablecrate.json.Json;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.util.HashSet;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class SheetTest {
    @Test void aSheetIsWrittenAsItIsRead() throws Exception {
        for (DestinationSheet sheet : new SheetCatalogue().builtIn())
            assertThat(SheetCatalogue.read(Json.write(sheet), sheet.id())).isEqualTo(sheet);
    }

    /// Every key of a written sheet is in the published schema, and every key of the schema is written.
    @Test void theSchemaKnowsEveryKey() throws Exception {
        JsonNode schema = new ObjectMapper().readTree(SheetCatalogue.schema()),
                sheet = new ObjectMapper().readTree(Json.write(new SheetCatalogue().byId("session").orElseThrow()));
        assertThat(keys(sheet)).isEqualTo(keys(schema.get("properties")));
        for (String part : Set.of("accepts", "defaults", "names", "layout", "keeps"))
            assertThat(keys(sheet.get(part))).as(part).isEqualTo(keys(schema.get("properties").get(part).get("properties")));
    }

    private static Set<String> keys(JsonNode node) {
        Set<String> keys = new HashSet<>();
        node.fieldNames().forEachRemaining(keys::add);
        return keys;
    }

    @ParameterizedTest @CsvSource(delimiter = '|', value = {"{\"id\":\"x\",\"name\":\"X\",\"accepts\":{\"depths\":[\"17\"]}}|'17' is none of 8, 16",
        "{\"id\":\"x\",\"name\":\"X\",\"accepts\":{\"rates\":[44100]}}|rates", "{\"id\":\"X y\",\"name\":\"X\",\"accepts\":{}}|letters a to z",
        "{\"id\":\"x\",\"name\":\"X\"}|accepts: is missing",
        "{\"id\":\"x\",\"name\":\"X\",\"accepts\":{},\"limits\":{\"layers\":4}}|they are of instruments",
        "{\"id\":\"x\",\"name\":\"X\",\"accepts\":{\"instruments\":[\"sfz\"]},\"limits\":{\"layers\":-1}}|limits: numbers must not be negative",
        "{\"id\":\"x\",\"name\":\"X\",\"accepts\":{\"instruments\":[\"sfz\"]},\"limits\":{\"lacks\":[\"wings\"]}}|limits.lacks: 'wings' is none of",
        "{\"id\":\"x\",\"name\":\"X\",\"accepts\":{\"instruments\":[\"sfz\"]},\"limits\":{\"voices\":3}}|voices",
        "{\"id\":\"x\"|line 1"}) void aWrongSheetSaysWhatIsWrong(String json, String message) {
        assertThatThrownBy(() -> SheetCatalogue.read(json, "mine.json")).isInstanceOf(Json.JsonFault.class).hasMessageStartingWith("mine.json")
                .hasMessageContaining(message);
    }

    @ParameterizedTest @CsvSource({"Glass: C#3/soft,GLASS_C_3_SO", "a,A", "Übergröße,UBERGROSSE", "...,SOUND", "con,CON_",
        "Clockwork Orchard 12,CLCKWRKRCH12"}) void namesFitAlphabetAndLength(String wanted, String fitted) {
        String name = new NameRules(new DestinationSheet.Names(12, "A-Z0-9_", true, "(name)", "")).fit(wanted);
        assertThat(name).hasSizeLessThanOrEqualTo(12).matches("[A-Z0-9_]+");
        if (!wanted.startsWith("Glass")) assertThat(name).isEqualTo(fitted);
    }

    @Test void sameNamesAreNumberedWithinTheLength() {
        NameRules rules = new NameRules(new DestinationSheet.Names(8, "A-Z0-9_", true, "(name)", ""));
        NameRules.Taken taken = new NameRules.Taken();
        Set<String> given = new HashSet<>();
        for (int i = 0; i < 120; i++)
            given.add(rules.unique("BOTTLE_A", ".wav", taken));
        assertThat(given).hasSize(120).allMatch(n -> n.length() <= 8);
    }
}
