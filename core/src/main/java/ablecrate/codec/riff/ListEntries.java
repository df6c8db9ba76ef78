package ablecrate.codec.riff;

import ablecrate.codec.Bytes;
import ablecrate.codec.FormatException;
import ablecrate.codec.RawChunk;
import ablecrate.codec.chunk.ChunkBuilder;
import ablecrate.codec.chunk.ChunkReader;
import java.nio.ByteOrder;
import java.util.ArrayList;
import java.util.List;

/// The inside of a `LIST` chunk: four characters that name its type, then small chunks, each padded to even size.
///
/// Source: *Multimedia Programming Interface and Data Specifications 1.0* (1991), LIST chunk.
record ListEntries(String type, List<RawChunk> entries) {
    static ListEntries read(ChunkReader in) throws FormatException {
        String type = in.id("type");
        List<RawChunk> entries = new ArrayList<>();
        while (in.remaining() >= 8) {
            String id = in.id("id");
            long size = in.u32("size");
            int held = (int) Math.min(size, in.remaining());
            entries.add(new RawChunk(id, in.bytes(held, id)));
            if (held % 2 == 1 && in.remaining() > 0) in.u8("pad");
        }
        return new ListEntries(type, entries);
    }

    byte[] toBytes() {
        ChunkBuilder out = new ChunkBuilder(ByteOrder.LITTLE_ENDIAN).id(type);
        for (RawChunk entry : entries)
            out.chunk(entry.id(), entry.contents().toArray());
        return out.toArray();
    }

    /// A text as entries hold it: UTF-8 with a zero byte at its end.
    static Bytes text(String text) { return new ChunkBuilder(ByteOrder.LITTLE_ENDIAN).text(text + "\0", utf8Length(text) + 1).toBytes(); }

    private static int utf8Length(String text) { return text.getBytes(java.nio.charset.StandardCharsets.UTF_8).length; }
}
