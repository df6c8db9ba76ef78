package ablecrate.json;

import com.fasterxml.jackson.annotation.JsonInclude;
import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.type.TypeReference;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.StreamReadConstraints;
import com.fasterxml.jackson.core.util.DefaultIndenter;
import com.fasterxml.jackson.core.util.DefaultPrettyPrinter;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonMappingException;
import com.fasterxml.jackson.databind.MapperFeature;
import com.fasterxml.jackson.databind.ObjectWriter;
import com.fasterxml.jackson.databind.exc.UnrecognizedPropertyException;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.SerializerProvider;
import com.fasterxml.jackson.databind.exc.MismatchedInputException;
import com.fasterxml.jackson.databind.exc.ValueInstantiationException;
import com.fasterxml.jackson.databind.module.SimpleModule;
import com.fasterxml.jackson.databind.ser.std.StdSerializer;
import com.fasterxml.jackson.datatype.jdk8.Jdk8Module;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;

/// Records to JSON and back. The keys are the names of the record components. Safe for threads.
public final class Json {
    /// Files of ours are small; a hostile one is refused before it is read.
    private static final long MAX_BYTES = 256L << 20;

    /// What is no number, or infinite, is null: JSON has no word for it.
    private static final StdSerializer<Double> NUMBERS_ALONE = new StdSerializer<>(Double.class) {
        private static final long serialVersionUID = 1;

        @Override public void serialize(Double value, JsonGenerator out, SerializerProvider provider) throws IOException {
            if (Double.isFinite(value))
                out.writeNumber(value);
            else
                out.writeNull();
        }
    };

    private static final JsonMapper MAPPER = JsonMapper.builder().addModule(new Jdk8Module())
            .addModule(new SimpleModule().addSerializer(Double.class, NUMBERS_ALONE).addSerializer(double.class, NUMBERS_ALONE))
            .defaultPropertyInclusion(JsonInclude.Value.construct(JsonInclude.Include.ALWAYS, JsonInclude.Include.ALWAYS))
            .enable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES).enable(DeserializationFeature.FAIL_ON_TRAILING_TOKENS)
            .disable(MapperFeature.AUTO_DETECT_IS_GETTERS).disable(SerializationFeature.FAIL_ON_EMPTY_BEANS).build();
    private static final ObjectWriter WRITER = MAPPER.writer(new DefaultPrettyPrinter().withObjectIndenter(new DefaultIndenter("  ", "\n"))
            .withArrayIndenter(new DefaultIndenter("  ", "\n")));

    static {
        MAPPER.getFactory().setStreamReadConstraints(StreamReadConstraints.builder().maxDocumentLength(MAX_BYTES).maxNestingDepth(64).build());
    }

    private Json() {}

    /// With a line feed at the end.
    public static String write(Object value) {
        try {
            return WRITER.writeValueAsString(value) + "\n";
        } catch (JsonProcessingException e) {
            throw new IllegalArgumentException(value.getClass() + " is no JSON value", e);
        }
    }

    /// The same into a file, in UTF-8; for what may be large.
    public static void write(Object value, OutputStream out) throws IOException {
        Writer text = new OutputStreamWriter(out, StandardCharsets.UTF_8);
        WRITER.without(JsonGenerator.Feature.AUTO_CLOSE_TARGET).writeValue(text, value);
        text.append("\n").flush();
    }

    /// The value as maps, lists, texts and numbers: what is read again once it was written.
    public static Map<String, Object> tree(Object value) {
        Map<String, Object> tree = MAPPER.convertValue(value, new TypeReference<LinkedHashMap<String, Object>>() {});
        tree.replaceAll((_, v) -> asRead(v));
        return tree;
    }

    /// Numbers of the types that they have once they are read.
    private static Object asRead(Object value) {
        return switch (value) {
            case Long n when n == n.intValue() -> n.intValue();
            case Float n -> n.doubleValue();
            case Map<?, ?> map -> {
                Map<Object, Object> read = new LinkedHashMap<>();
                map.forEach((k, v) -> read.put(k, asRead(v)));
                yield read;
            }
            case List<?> list -> list.stream().map(Json::asRead).toList();
            case null, default -> value;
        };
    }

    /// @param name of the text, for messages
    /// @throws JsonFault if it is not JSON, or not of this shape; the message says where
    public static <T> T read(String text, Class<T> type, String name) throws JsonFault {
        try {
            return MAPPER.readValue(text, type);
        } catch (JsonProcessingException e) {
            throw fault(e, name);
        }
    }

    public static <T> T read(Path file, Class<T> type) throws IOException, JsonFault {
        return read(text(file), type, file.toString());
    }

    /// A file of ours, whole.
    /// @throws JsonFault if it is too large, or no text
    public static String text(Path file) throws IOException, JsonFault {
        if (Files.exists(file) && !Files.isRegularFile(file)) throw new JsonFault(file + ": no file; a folder, a pipe or a device");
        if (Files.size(file) > MAX_BYTES) throw new JsonFault(file + ": larger than any file of this kind");
        try {
            return Files.readString(file);
        } catch (CharacterCodingException e) {
            throw new JsonFault(file + ": no text in UTF-8; save it again as that");
        }
    }

    private static JsonFault fault(JsonProcessingException e, String name) {
        String place = e.getLocation() == null ? "" : ", line " + e.getLocation().getLineNr() + ", column " + e.getLocation().getColumnNr();
        String what = switch (e) {
            case UnrecognizedPropertyException unknown ->
                "no key '" + unknown.getPropertyName() + "' is known here; the keys are " + unknown.getKnownPropertyIds();
            case ValueInstantiationException refused when refused.getCause() != null -> refused.getCause().getMessage();
            case MismatchedInputException other -> "expected " + expected(other.getTargetType());
            default -> plain(e.getOriginalMessage());
        };
        String key = e instanceof JsonMappingException mapping && !(e instanceof UnrecognizedPropertyException)
                ? mapping.getPath().stream().map(JsonMappingException.Reference::getFieldName).filter(Objects::nonNull).collect(Collectors.joining("."))
                : "";
        return new JsonFault(name + place + (key.isEmpty() ? "" : ", '" + key + "'") + ": " + what);
    }

    /// A kind of value in the words of JSON.
    private static String expected(Class<?> type) {
        if (type == null) return "another value";
        if (Collection.class.isAssignableFrom(type)) return "a list in square brackets";
        if (type == String.class) return "a text in quotation marks";
        if (type == boolean.class || type == Boolean.class) return "true or false";
        if (type.isEnum()) return "one of " + Arrays.stream(type.getEnumConstants()).map(Object::toString).toList();
        boolean isNumber = type.isPrimitive() || Number.class.isAssignableFrom(type) || type.getSimpleName().startsWith("Optional");
        return isNumber ? "a number" : "keys and values in curly brackets";
    }

    /// Without what the parser tells its own makers.
    private static String plain(String message) {
        return message.lines().findFirst().orElse("").replaceAll(" \\(start marker.*", "").replaceAll("`[^`]*`", "value");
    }

    /// A file that should be JSON of ours and is not.
    public static final class JsonFault extends Exception {
        private static final long serialVersionUID = 1;

        public JsonFault(String message) { super(message); }
    }
}
