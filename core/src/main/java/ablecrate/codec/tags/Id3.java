package ablecrate.codec.tags;

import ablecrate.codec.Gapless;
import ablecrate.codec.chunk.ChunkBuilder;
import ablecrate.codec.chunk.ChunkReader;
import ablecrate.instrument.TextField;
import java.io.ByteArrayOutputStream;
import java.nio.ByteOrder;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/// Texts of MP3 and ADTS files: ID3v2 at the start, ID3v1 in the last 128 bytes.
///
/// | offset | type | field |
/// |-------:|------|-------|
/// | 0 | 3 bytes | `ID3` |
/// | 3 | u8, u8 | version 2, 3 or 4, and its revision |
/// | 5 | u8 | flags: 0x80 unsynchronised, 0x40 extended header |
/// | 6 | 4 × 7 bits | size of all that follows |
/// | 10 | … | frames: id (3 characters in version 2), size (7-bit bytes in version 4), flags, contents |
///
/// A text starts with its encoding: 0 Latin-1, 1 UTF-16 with mark, 2 UTF-16BE, 3 UTF-8.
///
/// Source: M. Nilsson, *ID3 tag version 2.3.0* (1999), *2.4.0* (2000); E. Kemp, *ID3v1* (1996).
public final class Id3 {
    private static final Map<TextField, List<String>> IDS = new EnumMap<>(Map.ofEntries(Map.entry(TextField.NAME, List.of("TIT2", "TT2")),
            Map.entry(TextField.ARTIST, List.of("TPE1", "TP1")), Map.entry(TextField.PRODUCT, List.of("TALB", "TAL")),
            Map.entry(TextField.DATE, List.of("TDRC", "TYER", "TYE")), Map.entry(TextField.COMMENT, List.of("COMM", "COM")),
            Map.entry(TextField.GENRE, List.of("TCON", "TCO")), Map.entry(TextField.TEMPO, List.of("TBPM", "TBP")),
            Map.entry(TextField.MUSICAL_KEY, List.of("TKEY", "TKE")), Map.entry(TextField.COPYRIGHT, List.of("TCOP", "TCR")),
            Map.entry(TextField.SOFTWARE, List.of("TSSE", "TSS"))));
    public static final Set<TextField> FIELDS = Set.copyOf(IDS.keySet());
    public static final int V1_BYTES = 128, HEADER_BYTES = 10;
    private static final int EXTENDED = 0x40, UNSYNCHRONISED = 0x80, UTF16 = 1, UTF16_BE = 2, UTF8 = 3;

    private Id3() {}

    /// @param head the first ten bytes of a stretch
    /// @return bytes of the whole tag that starts there; 0 if none does
    public static int length(byte[] head) {
        if (head.length < HEADER_BYTES || head[0] != 'I' || head[1] != 'D' || head[2] != '3' || head[3] == -1) return 0;
        int footer = (head[5] & 0x10) != 0 ? HEADER_BYTES : 0;
        return HEADER_BYTES + sevenBits(head, 6) + footer;
    }

    private static int sevenBits(byte[] bytes, int at) {
        return (bytes[at] & 127) << 21 | (bytes[at + 1] & 127) << 14 | (bytes[at + 2] & 127) << 7 | bytes[at + 3] & 127;
    }

    /// What a tag says.
    public record Tag(Map<TextField, String> texts, Optional<Gapless> gapless) {}

    /// @param tag all its bytes, as many as are there
    public static Tag read(byte[] tag) {
        Optional<Gapless> gapless = Optional.empty();
        Map<TextField, String> texts = new EnumMap<>(TextField.class);
        int version = tag[3], flags = tag[5];
        byte[] body = Arrays.copyOfRange(tag, HEADER_BYTES, Math.min(tag.length, HEADER_BYTES + sevenBits(tag, 6)));
        if ((flags & UNSYNCHRONISED) != 0 && version < 4) body = synchronised(body);
        int at = 0, idBytes = version == 2 ? 3 : 4, headBytes = version == 2 ? 6 : 10;
        if ((flags & EXTENDED) != 0 && version > 2 && body.length >= 4) at = version == 4 ? sevenBits(body, 0) : 4 + big(body, 0, 4);
        while (at >= 0 && at + headBytes <= body.length && body[at] != 0) {
            String id = new String(body, at, idBytes, StandardCharsets.ISO_8859_1);
            int size = version == 2 ? big(body, at + 3, 3) : version == 4 ? sevenBits(body, at + 4) : big(body, at + 4, 4);
            int from = at + headBytes;
            if (size < 0 || size > body.length - from) break;
            byte[] contents = Arrays.copyOfRange(body, from, from + size);
            boolean hasLength = version == 4 && (body[at + 9] & 1) != 0, isPlain = version != 4 || (body[at + 9] & 0x0C) == 0;
            if (version == 4 && (body[at + 9] & 2) != 0) contents = synchronised(contents);
            if (hasLength && contents.length >= 4) contents = Arrays.copyOfRange(contents, 4, contents.length);
            boolean isComment = IDS.get(TextField.COMMENT).contains(id);
            if (isPlain && isComment && contents.length > 4 && text(contents, 4).equals(Gapless.NAME))
                gapless = Gapless.parse(comment(contents));
            else
                if (isPlain && contents.length > 1)
                    for (Map.Entry<TextField, List<String>> field : IDS.entrySet())
                        if (field.getValue().contains(id))
                            texts.putIfAbsent(field.getKey(), field.getKey() == TextField.COMMENT ? comment(contents) : text(contents, 1));
            at = from + size;
        }
        texts.computeIfPresent(TextField.GENRE, (_, genre) -> Id3Genres.read(genre));
        texts.values().removeIf(String::isBlank);
        return new Tag(texts, gapless);
    }

    private static int big(byte[] bytes, int at, int count) {
        int value = 0;
        for (int i = 0; i < count; i++)
            value = value << 8 | bytes[at + i] & 0xFF;
        return value;
    }

    /// Without the zeros that were put after 0xFF, so that no tag looks like audio.
    private static byte[] synchronised(byte[] bytes) {
        ByteArrayOutputStream out = new ByteArrayOutputStream(bytes.length);
        for (int i = 0; i < bytes.length; i++) {
            out.write(bytes[i]);
            if (bytes[i] == -1 && i + 1 < bytes.length && bytes[i + 1] == 0) i++;
        }
        return out.toByteArray();
    }

    /// Language and a description stand before the comment.
    private static String comment(byte[] contents) {
        int wide = contents[0] == UTF16 || contents[0] == UTF16_BE ? 2 : 1, at = 4;
        while (at + wide <= contents.length && (contents[at] != 0 || wide == 2 && contents[at + 1] != 0))
            at += wide;
        return at + wide > contents.length ? "" : text(contents, at + wide);
    }

    private static String text(byte[] contents, int from) {
        byte[] raw = Arrays.copyOfRange(contents, from, contents.length);
        Charset charset = switch (contents[0]) {
            case UTF16 -> StandardCharsets.UTF_16;
            case UTF16_BE -> StandardCharsets.UTF_16BE;
            case UTF8 -> StandardCharsets.UTF_8;
            default -> null;
        };
        String text = charset == null ? ChunkReader.text(raw) : new String(raw, charset);
        int end = text.indexOf('\0');
        return end < 0 ? text : text.substring(0, end);
    }

    /// Fields of fixed length: title, artist, album 30 bytes each from 3 on, year 4, comment 30.
    /// @param tag the last 128 bytes of a file
    public static Map<TextField, String> readV1(byte[] tag) {
        Map<TextField, String> texts = new EnumMap<>(TextField.class);
        if (tag.length < V1_BYTES || tag[0] != 'T' || tag[1] != 'A' || tag[2] != 'G') return texts;
        texts.put(TextField.NAME, fixed(tag, 3, 30));
        texts.put(TextField.ARTIST, fixed(tag, 33, 30));
        texts.put(TextField.PRODUCT, fixed(tag, 63, 30));
        texts.put(TextField.DATE, fixed(tag, 93, 4));
        texts.put(TextField.COMMENT, fixed(tag, 97, 30));
        // The first genre is also what stands in a tag that was never filled in.
        int genre = tag[V1_BYTES - 1] & 0xFF;
        if (genre > 0) texts.put(TextField.GENRE, Id3Genres.named(genre));
        texts.values().removeIf(String::isBlank);
        return texts;
    }

    private static String fixed(byte[] tag, int at, int count) { return ChunkReader.text(Arrays.copyOfRange(tag, at, at + count)).strip(); }

    /// A tag of version 2.4 in UTF-8; empty where there is nothing to say.
    public static byte[] write(Map<TextField, String> texts) {
        ChunkBuilder frames = new ChunkBuilder(ByteOrder.BIG_ENDIAN);
        for (TextField field : texts.keySet().stream().filter(IDS::containsKey).sorted().toList()) {
            byte[] utf8 = texts.get(field).getBytes(StandardCharsets.UTF_8);
            boolean isComment = field == TextField.COMMENT;
            frames.id(IDS.get(field).getFirst());
            sevenBits(frames, 1 + (isComment ? 4 : 0) + utf8.length);
            frames.u16(0).u8(UTF8);
            if (isComment) frames.id("und\0");
            frames.bytes(utf8);
        }
        if (frames.size() == 0) return new byte[0];
        ChunkBuilder tag = new ChunkBuilder(ByteOrder.BIG_ENDIAN).id("ID3\4").u16(0);
        sevenBits(tag, frames.size());
        return tag.bytes(frames.toArray()).toArray();
    }

    private static void sevenBits(ChunkBuilder out, int value) {
        out.u8(value >> 21 & 127).u8(value >> 14 & 127).u8(value >> 7 & 127).u8(value & 127);
    }
}
