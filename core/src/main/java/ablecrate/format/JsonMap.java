package ablecrate.format;

import ablecrate.codec.FormatException;
import ablecrate.json.Json;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.function.Function;

/// Maps of ours, in JSON: the first key says the format and its version.
public final class JsonMap {
    private JsonMap() {}

    /// @param name of the format, without its version
    public static boolean recognises(byte[] head, String name) {
        return new String(head, StandardCharsets.ISO_8859_1).replaceAll("\\s", "").startsWith("{\"format\":\"" + name);
    }

    /// @param says the format that a file says
    /// @param format that is read, with its version
    /// @throws FormatException if it is not of this shape, or of another version
    public static <T> T read(Path file, Class<T> type, Function<T, String> says, String format) throws IOException, FormatException {
        T map;
        try {
            map = Json.read(Json.text(file), type, file.getFileName().toString());
        } catch (Json.JsonFault e) {
            throw new FormatException(e.getMessage(), "", "Write it anew.");
        }
        if (!format.equals(says.apply(map)))
            throw FormatException.unsupported("it is '" + says.apply(map) + "', which this version does not know", "", "It reads '" + format + "'.");
        return map;
    }

    /// What it calls itself, or its file.
    public static String name(String said, Path file) {
        return said == null || said.isBlank() ? file.getFileName().toString().replaceFirst("\\.[^.]+$", "") : said;
    }
}
