package ablecrate.codec.chunk;

import ablecrate.codec.Bytes;
import java.io.ByteArrayOutputStream;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/// Builds the contents of a chunk, or a file out of chunks, field by field.
public final class ChunkBuilder {
    private final ByteArrayOutputStream out = new ByteArrayOutputStream();
    private final boolean big;

    public ChunkBuilder(ByteOrder order) { big = order == ByteOrder.BIG_ENDIAN; }

    public ChunkBuilder u8(int value) {
        out.write(value);
        return this;
    }

    public ChunkBuilder u16(int value) { return number(value, 2); }

    public ChunkBuilder u32(long value) { return number(value, 4); }

    public ChunkBuilder u64(long value) { return number(value, 8); }

    private ChunkBuilder number(long value, int bytes) {
        for (int i = 0; i < bytes; i++)
            out.write((int) (value >>> 8 * (big ? bytes - 1 - i : i)));
        return this;
    }

    public ChunkBuilder id(String fourCharacters) { return bytes(fourCharacters.getBytes(StandardCharsets.ISO_8859_1)); }

    public ChunkBuilder bytes(byte[] raw) {
        out.writeBytes(raw);
        return this;
    }

    public ChunkBuilder bytes(Bytes raw) { return bytes(raw.toArray()); }

    /// A UTF-8 text, cut or filled with zeros to `size` bytes; a character is never cut in half.
    public ChunkBuilder text(String text, int size) {
        byte[] raw = text.getBytes(StandardCharsets.UTF_8);
        int length = Math.min(raw.length, size);
        while (length < raw.length && length > 0 && (raw[length] & 0xC0) == 0x80)
            length--;
        return bytes(Arrays.copyOf(Arrays.copyOf(raw, length), size));
    }

    /// A chunk with header, contents and, after odd contents, the pad byte.
    public ChunkBuilder chunk(String chunkId, byte[] contents) {
        id(chunkId).u32(contents.length).bytes(contents);
        return contents.length % 2 == 1 ? u8(0) : this;
    }

    public int size() { return out.size(); }

    public byte[] toArray() { return out.toByteArray(); }

    public Bytes toBytes() { return Bytes.of(out.toByteArray()); }
}
