package ablecrate.codec.tags;

import ablecrate.codec.Bytes;
import ablecrate.codec.FormatException;
import ablecrate.codec.chunk.ChunkBuilder;
import ablecrate.codec.chunk.ChunkReader;
import ablecrate.instrument.TextField;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/// Texts of FLAC, Ogg Vorbis and Opus: a row of `NAME=text`, each with its length before it, all little-endian and UTF-8.
///
/// | type | field |
/// |------|-------|
/// | u32, bytes | vendor |
/// | u32 | how many follow |
/// | u32, bytes each | `NAME=text` |
///
/// Source: Xiph.Org, *Ogg Vorbis I format specification: comment field and header specification*. `BPM` and `KEY` are common practice.
public final class VorbisComments {
    private static final Map<TextField, List<String>> NAMES = new EnumMap<>(Map.ofEntries(Map.entry(TextField.NAME, List.of("TITLE")),
            Map.entry(TextField.ARTIST, List.of("ARTIST", "PERFORMER")), Map.entry(TextField.COPYRIGHT, List.of("COPYRIGHT")),
            Map.entry(TextField.COMMENT, List.of("COMMENT", "DESCRIPTION")), Map.entry(TextField.DATE, List.of("DATE")),
            Map.entry(TextField.GENRE, List.of("GENRE")), Map.entry(TextField.PRODUCT, List.of("ALBUM")),
            Map.entry(TextField.SOFTWARE, List.of("ENCODER")), Map.entry(TextField.TEMPO, List.of("BPM", "TEMPO")),
            Map.entry(TextField.MUSICAL_KEY, List.of("KEY", "INITIALKEY"))));
    public static final Set<TextField> FIELDS = Set.copyOf(NAMES.keySet());
    private static final String VENDOR = "Able Crate";

    private VorbisComments() {}

    private record Comment(String name, String text) {}

    /// Damage costs the texts behind it, not the sound.
    private static List<Comment> comments(ChunkReader in) {
        List<Comment> found = new ArrayList<>();
        try {
            in.array(length(in), "vendor");
            for (long left = in.u32("count"); left > 0 && in.remaining() >= 4; left--) {
                String entry = new String(in.array(length(in), "comment"), StandardCharsets.UTF_8);
                int equals = entry.indexOf('=');
                if (equals > 0) found.add(new Comment(entry.substring(0, equals).toUpperCase(Locale.ROOT), entry.substring(equals + 1)));
            }
        } catch (FormatException e) {
            // What was read before stands.
        }
        return found;
    }

    public static Map<TextField, String> read(ChunkReader in) {
        List<Comment> found = comments(in);
        Map<TextField, String> texts = new EnumMap<>(TextField.class);
        NAMES.forEach((field, names) -> names.stream().flatMap(n -> found.stream().filter(c -> c.name().equals(n) && !c.text().isBlank())).findFirst()
                .ifPresent(c -> texts.put(field, c.text())));
        return texts;
    }

    private static int length(ChunkReader in) throws FormatException { return (int) Math.min(in.u32("length"), Integer.MAX_VALUE); }

    /// @param source comments of the file that this one is made of; what they say beyond our fields goes along
    public static byte[] write(Map<TextField, String> texts, Optional<Bytes> source) {
        ChunkBuilder out = new ChunkBuilder(ByteOrder.LITTLE_ENDIAN);
        text(out, VENDOR);
        List<Comment> all = new ArrayList<>();
        texts.keySet().stream().filter(NAMES::containsKey).sorted().forEach(f -> all.add(new Comment(NAMES.get(f).getFirst(), texts.get(f))));
        source.ifPresent(s -> comments(new ChunkReader("comments", 0, s.toArray(), ByteOrder.LITTLE_ENDIAN)).stream()
                .filter(c -> NAMES.values().stream().noneMatch(n -> n.contains(c.name()))).forEach(all::add));
        out.u32(all.size());
        all.forEach(c -> text(out, c.name() + "=" + c.text()));
        return out.toArray();
    }

    private static void text(ChunkBuilder out, String text) {
        byte[] utf8 = text.getBytes(StandardCharsets.UTF_8);
        out.u32(utf8.length).bytes(utf8);
    }
}
