package ablecrate.codec.chunk;

import ablecrate.codec.ChunkInfo;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;

/// Chunks inside of chunks: the `LIST`s of RIFF.
/// Source: Multimedia Programming Interface and Data Specifications 1.0, 1991, "RIFF".
public final class ChunkLists {
    /// Against files that are nothing but empty chunks.
    private static final int MOST = 1 << 20;

    private ChunkLists() {}

    /// The chunks in a stretch of a file; one that claims more than is there is cut at its end.
    /// @param cut told of each that was
    public static List<ChunkInfo> inside(FileBytes file, long from, long to, Consumer<ChunkInfo> cut) throws IOException {
        List<ChunkInfo> out = new ArrayList<>();
        long end = Math.min(to, file.size());
        for (long at = from; at + 8 <= end && out.size() < MOST;) {
            byte[] header = file.read(at, 8);
            String id = new String(header, 0, 4, StandardCharsets.ISO_8859_1);
            long declared = ByteBuffer.wrap(header).order(ByteOrder.LITTLE_ENDIAN).getInt(4) & 0xFFFF_FFFFL, size = Math.min(declared, end - at - 8);
            ChunkInfo chunk = new ChunkInfo(id, at + 8, size);
            out.add(chunk);
            if (size < declared) cut.accept(chunk);
            at = chunk.end() + size % 2;
        }
        return out;
    }

    /// The four characters that a `LIST` starts with; what it lists begins behind them.
    public static String kind(FileBytes file, ChunkInfo list) throws IOException {
        return list.bytes() < 4 ? "" : new String(file.read(list.at(), 4), StandardCharsets.ISO_8859_1);
    }

    /// The contents of a small chunk.
    /// @param most bytes that are read at most
    public static ChunkReader reader(FileBytes file, ChunkInfo chunk, int most) throws IOException {
        return new ChunkReader(chunk.id(), chunk.at(), file.read(chunk.at(), (int) Math.min(chunk.bytes(), most)), ByteOrder.LITTLE_ENDIAN);
    }
}
