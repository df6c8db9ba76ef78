package ablecrate.codec.riff;

import ablecrate.codec.RawChunk;
import ablecrate.codec.chunk.ChunkReader;
import ablecrate.instrument.TextField;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/// `LIST INFO`: texts about the file, one zero-terminated text an entry.
///
/// Source: *Multimedia Programming Interface and Data Specifications 1.0* (1991), INFO list chunk.
final class InfoList {
    private static final Map<TextField, String> IDS = new EnumMap<>(Map.ofEntries(Map.entry(TextField.NAME, "INAM"),
            Map.entry(TextField.ARTIST, "IART"), Map.entry(TextField.COPYRIGHT, "ICOP"), Map.entry(TextField.COMMENT, "ICMT"),
            Map.entry(TextField.DATE, "ICRD"), Map.entry(TextField.GENRE, "IGNR"), Map.entry(TextField.KEYWORDS, "IKEY"),
            Map.entry(TextField.PRODUCT, "IPRD"), Map.entry(TextField.SOFTWARE, "ISFT"), Map.entry(TextField.SUBJECT, "ISBJ"),
            Map.entry(TextField.ENGINEER, "IENG"), Map.entry(TextField.TECHNICIAN, "ITCH"), Map.entry(TextField.SOURCE, "ISRC")));

    static final Set<TextField> FIELDS = Set.copyOf(IDS.keySet());

    private InfoList() {}

    static Map<TextField, String> texts(List<RawChunk> entries) {
        Map<TextField, String> texts = new EnumMap<>(TextField.class);
        for (RawChunk entry : entries)
            IDS.forEach((field, id) -> {
                if (id.equals(entry.id())) texts.putIfAbsent(field, ChunkReader.text(entry.contents().toArray()));
            });
        return texts;
    }

    /// What there is no field for: items of other ids, and a second text of one id.
    static List<String> own(List<RawChunk> entries) {
        List<String> own = new ArrayList<>();
        Set<String> seen = new HashSet<>();
        for (RawChunk entry : entries) {
            String text = "'" + entry.id() + "' (" + ChunkReader.text(entry.contents().toArray()) + ")";
            if (!IDS.containsValue(entry.id()))
                own.add("text " + text);
            else
                if (!seen.add(entry.id())) own.add("a second text " + text);
        }
        return own;
    }

    /// The entries for `texts`: the source's own where they say the same, and its entries that are no text we know.
    static List<RawChunk> entries(Map<TextField, String> texts, List<RawChunk> source) {
        List<RawChunk> out = new ArrayList<>();
        Map<TextField, String> missing = new EnumMap<>(TextField.class);
        missing.putAll(texts);
        for (RawChunk old : source) {
            TextField field = IDS.entrySet().stream().filter(e -> e.getValue().equals(old.id())).map(Map.Entry::getKey).findFirst().orElse(null);
            if (field == null)
                out.add(old);
            else
                if (missing.containsKey(field)) {
                    String text = missing.remove(field);
                    boolean isSame = ChunkReader.text(old.contents().toArray()).equals(text);
                    out.add(isSame ? old : new RawChunk(old.id(), ListEntries.text(text)));
                }
        }
        missing.forEach((field, text) -> out.add(new RawChunk(IDS.get(field), ListEntries.text(text))));
        return out;
    }
}
