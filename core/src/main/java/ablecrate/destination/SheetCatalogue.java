package ablecrate.destination;

import ablecrate.audio.Depth;
import ablecrate.codec.SoundFormat;
import ablecrate.codec.SoundFormats;
import ablecrate.format.InstrumentFormat;
import ablecrate.format.InstrumentFormats;
import ablecrate.json.Json;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Stream;

/// The sheets that ship, and those in files of the user.
public final class SheetCatalogue {
    /// The order in which they are offered.
    private static final List<String> BUILT_IN = List.of("files", "session", "drum-pads", "four-track", "keyboard-sampler", "card-sampler", "bank-player",
            "pocket-sampler", "rack-sampler");

    private final Map<String, DestinationSheet> read = new ConcurrentHashMap<>();

    public List<DestinationSheet> builtIn() { return BUILT_IN.stream().flatMap(id -> byId(id).stream()).toList(); }

    public Optional<DestinationSheet> byId(String id) {
        return BUILT_IN.contains(id) ? Optional.of(read.computeIfAbsent(id, SheetCatalogue::builtIn)) : Optional.empty();
    }

    /// A built-in sheet by its id, or the sheet in a file.
    /// @throws Json.JsonFault if there is neither, or the file is no sheet
    public DestinationSheet find(String idOrFile) throws IOException, Json.JsonFault {
        Optional<DestinationSheet> known = byId(idOrFile);
        if (known.isPresent()) return known.get();
        Path file = Path.of(idOrFile);
        if (!Files.isRegularFile(file))
            throw new Json.JsonFault("no destination '" + idOrFile + "': it is none of " + String.join(", ", BUILT_IN) + ", and no file has that name");
        return read(Json.text(file), file.toString());
    }

    public static DestinationSheet read(String json, String name) throws Json.JsonFault {
        try {
            return Json.read(json, SheetFile.class, name).sheet();
        } catch (IllegalArgumentException e) {
            throw new Json.JsonFault(name + ": " + e.getMessage());
        }
    }

    private static DestinationSheet builtIn(String id) {
        try {
            return read(text(id + ".json"), id);
        } catch (Json.JsonFault e) {
            throw new IllegalStateException(e.getMessage(), e);
        }
    }

    /// The published JSON schema of sheets; the formats that it names are those that there are.
    public static String schema() {
        try {
            Map<?, ?> published = Json.read(text("destination-sheet.schema.json"), Map.class, "schema");
            Map<Object, Object> schema = new LinkedHashMap<>(published);
            schema.put("$defs", new TreeMap<>(Map.of("container", oneOf(SoundFormats.WRITTEN.stream().map(SoundFormat::id)), "instruments",
                    oneOf(InstrumentFormats.ALL.stream().map(InstrumentFormat::id)), "depth", oneOf(Stream.of(Depth.values()).map(Depth::id)))));
            return Json.write(schema);
        } catch (Json.JsonFault e) {
            throw new IllegalStateException(e.getMessage(), e);
        }
    }

    private static Map<String, List<String>> oneOf(Stream<String> ids) { return Map.of("enum", ids.toList()); }

    private static String text(String resource) {
        try (InputStream in = SheetCatalogue.class.getResourceAsStream(resource)) {
            return new String(in.readAllBytes(), StandardCharsets.UTF_8);
        } catch (IOException e) {
            throw new IllegalStateException("resource " + resource, e);
        }
    }
}
