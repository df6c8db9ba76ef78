package ablecrate.codec.aiff;

import ablecrate.codec.FormatException;
import ablecrate.codec.chunk.ChunkBuilder;
import ablecrate.codec.chunk.ChunkReader;
import java.nio.ByteOrder;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// The `MARK` chunk, big-endian: u16 count, then markers.
///
/// | type | field | meaning |
/// |------|-------|---------|
/// | s16 | id | above 0 |
/// | u32 | position | the marker stands **between** frames: before frame `position` |
/// | pstring | name | count byte, text, padded so that count and text are even |
///
/// Source: AIFF 1.3, Marker Chunk.
record MarkChunk(List<Marker> markers) {
    record Marker(int id, long position, byte[] name) {
        String text() { return ChunkReader.text(name); }
    }

    static MarkChunk read(ChunkReader in) throws FormatException {
        int count = in.u16("count");
        List<Marker> markers = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            int id = in.u16("id");
            long position = in.u32("position");
            int length = in.u8("nameLength");
            byte[] name = in.array(length, "name");
            if (length % 2 == 0 && in.remaining() > 0) in.u8("pad");
            markers.add(new Marker(id, position, name));
        }
        return new MarkChunk(markers);
    }

    Optional<Marker> byId(long id) { return markers.stream().filter(m -> m.id() == id).findFirst(); }

    byte[] toBytes() {
        ChunkBuilder out = new ChunkBuilder(ByteOrder.BIG_ENDIAN).u16(markers.size());
        for (Marker m : markers) {
            out.u16(m.id()).u32(m.position()).u8(m.name().length).bytes(m.name());
            if (m.name().length % 2 == 0) out.u8(0);
        }
        return out.toArray();
    }
}
