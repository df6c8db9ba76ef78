package ablecrate.codec.chunk;

import ablecrate.codec.Bytes;
import ablecrate.codec.FormatException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;

/// Reads fields from the contents of one chunk and knows where it stands, so that errors can say so.
public final class ChunkReader {
    private static final Charset WESTERN = Charset.forName("windows-1252");

    private final String chunk;
    private final long fileOffset;
    private final ByteBuffer bytes;

    /// @param fileOffset where the contents start in the file
    public ChunkReader(String chunk, long fileOffset, byte[] contents, ByteOrder order) {
        this.chunk = chunk;
        this.fileOffset = fileOffset;
        this.bytes = ByteBuffer.wrap(contents).order(order);
    }

    public int remaining() { return bytes.remaining(); }

    /// Where in the file the next byte lies.
    public long at() { return fileOffset + bytes.position(); }

    public int u8(String field) throws FormatException { return need(1, field).get() & 0xFF; }

    public int s8(String field) throws FormatException { return need(1, field).get(); }

    public int u16(String field) throws FormatException { return need(2, field).getShort() & 0xFFFF; }

    public int s16(String field) throws FormatException { return need(2, field).getShort(); }

    public long u32(String field) throws FormatException { return need(4, field).getInt() & 0xFFFF_FFFFL; }

    public long s64(String field) throws FormatException { return need(8, field).getLong(); }

    public String id(String field) throws FormatException { return new String(array(4, field), StandardCharsets.ISO_8859_1); }

    public byte[] array(int count, String field) throws FormatException {
        byte[] out = new byte[need(count, field).remaining() < count ? 0 : count];
        bytes.get(out);
        return out;
    }

    public Bytes bytes(int count, String field) throws FormatException { return Bytes.of(array(count, field)); }

    /// A text of fixed size that ends at its first zero byte.
    public String text(int size, String field) throws FormatException { return text(array(size, field)); }

    /// Text up to the first zero byte: UTF-8 where it is valid, otherwise Windows-1252, which real files use.
    public static String text(byte[] raw) {
        int length = 0;
        while (length < raw.length && raw[length] != 0)
            length++;
        try {
            return StandardCharsets.UTF_8.newDecoder().decode(ByteBuffer.wrap(raw, 0, length)).toString();
        } catch (CharacterCodingException notUtf8) {
            return new String(raw, 0, length, WESTERN);
        }
    }

    public String place() { return FormatException.place(chunk, at()); }

    /// A value that is healthy but not read.
    public FormatException unsupported(String what, String advice) { return FormatException.unsupported(what, place(), advice); }

    public FormatException bad(String what, String advice) { return new FormatException(what, place(), advice); }

    private ByteBuffer need(int count, String field) throws FormatException {
        if (count < 0 || bytes.remaining() < count)
            throw bad(bytes.remaining() + " bytes are left where '" + field + "' needs " + count, "The file is damaged; get it again.");
        return bytes;
    }
}
