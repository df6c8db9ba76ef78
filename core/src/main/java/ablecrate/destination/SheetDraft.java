package ablecrate.destination;

import ablecrate.json.Json;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import java.util.stream.StreamSupport;

/// A sheet while somebody writes it: the fields that the schema has, and what stands in each. It may be wrong meanwhile.
public final class SheetDraft {
    private static final ObjectMapper MAPPER = new ObjectMapper();
    private static final Pattern PLACE = Pattern.compile("^[^:]*: ([A-Za-z]+(?:\\.[A-Za-z]+)*): ");

    public enum Type { TEXT, NUMBER, NUMBERS, FLAG, WORD, WORDS }

    /// @param path of its key: `accepts.ratesHz`
    /// @param group title of the part of the sheet; empty for the sheet itself
    /// @param words that there are to choose from, for [Type#WORD] and [Type#WORDS]
    /// @param isWhole whether its numbers are whole ones
    public record Field(String path, String group, String label, String help, Type type, List<String> words, boolean isWhole) {}

    /// @param path of the key, or of the part, that is wrong; empty where it is the whole
    public record Fault(String path, String message) {}

    private static final List<Field> FIELDS = ofSchema();

    private final ObjectNode tree;

    private SheetDraft(ObjectNode tree) { this.tree = tree; }

    /// One that says what a sheet says.
    public static SheetDraft of(DestinationSheet sheet) {
        ObjectNode tree = MAPPER.valueToTree(Json.tree(sheet));
        clear(tree);
        return new SheetDraft(tree);
    }

    /// What says nothing is left out.
    private static void clear(ObjectNode node) {
        node.properties().forEach(e -> {
            if (e.getValue() instanceof ObjectNode inner) clear(inner);
        });
        List<String> empty = node.properties().stream()
                .filter(e -> e.getValue().isNull() || e.getValue().isContainerNode() && e.getValue().isEmpty() && !e.getKey().equals("accepts")
                        || e.getValue().isTextual() && e.getValue().asText().isEmpty() || e.getValue().isNumber() && e.getValue().asDouble() == 0)
                .map(Map.Entry::getKey).toList();
        node.remove(empty);
    }

    /// All fields, in the order of the schema.
    public static List<Field> fields() { return FIELDS; }

    private static List<Field> ofSchema() {
        try {
            JsonNode schema = MAPPER.valueToTree(Json.read(SheetCatalogue.schema(), Map.class, "schema"));
            List<Field> out = new ArrayList<>();
            schema.path("properties").properties().forEach(e -> field(e, "", "", schema.path("$defs"), out));
            return List.copyOf(out);
        } catch (Json.JsonFault e) {
            throw new IllegalStateException(e.getMessage(), e);
        }
    }

    private static void field(Map.Entry<String, JsonNode> entry, String path, String group, JsonNode definitions, List<Field> out) {
        String own = path.isEmpty() ? entry.getKey() : path + "." + entry.getKey();
        JsonNode said = entry.getValue();
        if (own.startsWith("$")) return;
        if (said.path("type").asText().equals("object")) {
            String title = group.isEmpty() ? said.path("title").asText() : group;
            said.path("properties").properties().forEach(e -> field(e, own, title, definitions, out));
            return;
        }
        boolean isList = said.path("type").asText().equals("array");
        List<String> words = words(isList ? said.path("items") : said, definitions);
        Type type = switch (said.path("type").asText()) {
            case "array" -> words.isEmpty() ? Type.NUMBERS : Type.WORDS;
            case "boolean" -> Type.FLAG;
            case "integer", "number" -> Type.NUMBER;
            default -> words.isEmpty() ? Type.TEXT : Type.WORD;
        };
        boolean isWhole = (isList ? said.path("items") : said).path("type").asText().equals("integer");
        out.add(new Field(own, group, said.path("title").asText(), said.path("description").asText(), type, words, isWhole));
    }

    private static List<String> words(JsonNode said, JsonNode definitions) {
        if (said.has("enum")) return StreamSupport.stream(said.path("enum").spliterator(), false).map(JsonNode::asText).toList();
        if (said.has("anyOf")) return StreamSupport.stream(said.path("anyOf").spliterator(), false).flatMap(s -> words(s, definitions).stream()).toList();
        String reference = said.path("$ref").asText();
        return reference.isEmpty() ? List.of() : words(definitions.path(reference.substring(reference.lastIndexOf('/') + 1)), definitions);
    }

    private Optional<JsonNode> node(String path) {
        JsonNode node = tree;
        for (String key : path.split("\\."))
            node = node.path(key);
        return node.isMissingNode() || node.isNull() ? Optional.empty() : Optional.of(node);
    }

    /// What stands in a field, as one would type it: lists with commas; empty where nothing is said.
    public String text(String path) {
        return node(path).map(n -> n.isArray()
                ? StreamSupport.stream(n.spliterator(), false).map(JsonNode::asText).collect(Collectors.joining(", "))
                : n.isNumber() ? new BigDecimal(n.asText()).stripTrailingZeros().toPlainString() : n.asText()).orElse("");
    }

    /// Takes over what was typed or chosen; nothing is nothing said.
    /// @throws IllegalArgumentException in words, if it is no number, or no whole one where one is wanted
    public void set(Field field, String typed) {
        String[] keys = field.path().split("\\.");
        ObjectNode part = tree;
        for (int i = 0; i < keys.length - 1; i++)
            part = part.get(keys[i]) instanceof ObjectNode inner ? inner : part.putObject(keys[i]);
        String key = keys[keys.length - 1], said = typed.strip();
        List<String> parts = Stream.of(said.split(",")).map(String::strip).filter(s -> !s.isEmpty()).toList();
        if (said.isEmpty() || field.type() == Type.FLAG && said.equals("false") && !field.path().startsWith("keeps"))
            part.remove(key);
        else
            switch (field.type()) {
            case TEXT, WORD -> part.put(key, said);
            case FLAG -> part.put(key, said.equals("true"));
            case NUMBER -> part.put(key, number(said, field.isWhole()));
            case WORDS -> {
                ArrayNode words = part.putArray(key);
                parts.forEach(words::add);
            }
            case NUMBERS -> {
                List<BigDecimal> numbers = parts.stream().map(n -> number(n, field.isWhole())).toList();
                ArrayNode list = part.putArray(key);
                numbers.forEach(list::add);
            }
            }
    }

    private static BigDecimal number(String text, boolean isWhole) {
        try {
            BigDecimal number = new BigDecimal(text);
            if (isWhole && number.stripTrailingZeros().scale() > 0) throw new IllegalArgumentException("'" + text + "' is no whole number");
            return number;
        } catch (NumberFormatException e) {
            throw new IllegalArgumentException("'" + text + "' is no number");
        }
    }

    public String json() {
        ObjectNode whole = MAPPER.createObjectNode().put("$schema", "destination-sheet.schema.json");
        whole.setAll(tree);
        return Json.write(whole);
    }

    /// The sheet that it is, or nothing where it is wrong.
    public Optional<DestinationSheet> sheet() {
        try {
            return Optional.of(SheetCatalogue.read(json(), "sheet"));
        } catch (Json.JsonFault e) {
            return Optional.empty();
        }
    }

    /// What is wrong first; empty where it is a sheet.
    public Optional<Fault> fault() {
        try {
            SheetCatalogue.read(json(), "sheet");
            return Optional.empty();
        } catch (Json.JsonFault e) {
            Matcher place = PLACE.matcher(e.getMessage());
            return Optional.of(place.find()
                    ? new Fault(place.group(1), e.getMessage().substring(place.end()))
                    : new Fault("", e.getMessage().replaceFirst("^sheet: ", "")));
        }
    }
}
