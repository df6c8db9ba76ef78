package ablecrate.standins;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.json.JsonMapper;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.Set;

/// A description on a card, as strict devices read them.
final class CardJson {
    private static final JsonMapper MAPPER = new JsonMapper();

    private CardJson() {}

    /// @param what is read, in a word
    /// @param keys that it may have
    /// @param format that it has to say
    static JsonNode read(Path file, long mostBytes, String what, Set<String> keys, String format) throws IOException, Refused {
        if (Files.size(file) > mostBytes) throw new Refused(what + " file too large");
        JsonNode json;
        try {
            json = MAPPER.readTree(file.toFile());
        } catch (JsonProcessingException e) {
            throw new Refused("not JSON: " + e.getOriginalMessage());
        }
        known(json, keys, what);
        String said = json.path("format").asText();
        if (!said.equals(format)) throw new Refused("format '" + said + "'; reads '" + format + "'");
        return json;
    }

    /// @throws Refused for a key that a device does not know
    static void known(JsonNode json, Set<String> keys, String where) throws Refused {
        if (!json.isObject()) throw new Refused(where + " is no object");
        for (Map.Entry<String, JsonNode> field : json.properties())
            if (!keys.contains(field.getKey())) throw new Refused("'" + field.getKey() + "' is not known in a " + where);
    }

    /// The name of what is described.
    static String name(JsonNode json, int longest) throws Refused {
        String name = json.path("name").asText();
        if (name.isEmpty() || name.length() > longest) throw new Refused("name of " + name.length() + " characters; has room for " + longest);
        return name;
    }
}
