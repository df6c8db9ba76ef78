package ablecrate.codec.mp4;

import ablecrate.codec.FormatException;
import ablecrate.codec.chunk.ChunkReader;
import ablecrate.codec.chunk.FileBytes;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// The boxes of an MPEG-4 file: u32 size (1: a 64-bit size follows; 0: up to the end), id, contents; big-endian.
///
/// Source: ISO/IEC 14496-12, *ISO base media file format*, section 4.2.
final class Boxes {
    private static final int MOST = 100_000, MAX_CONTENTS = 64 << 20;

    private Boxes() {}

    /// @param start where its head starts
    /// @param at where its contents start
    record Box(String id, long start, long at, long bytes) {
        long end() { return at + bytes; }
    }

    /// Boxes in a stretch of the file; one that claims more than is there is cut at the end.
    static List<Box> in(FileBytes file, long from, long to) throws IOException {
        List<Box> boxes = new ArrayList<>();
        long end = Math.min(to, file.size());
        for (long at = from; at + 8 <= end && boxes.size() < MOST;) {
            byte[] head = file.read(at, 16);
            if (head.length < 8) break;
            long size = ByteBuffer.wrap(head).getInt() & 0xFFFF_FFFFL;
            int headBytes = 8;
            if (size == 1 && head.length == 16) {
                size = ByteBuffer.wrap(head).getLong(8);
                headBytes = 16;
            }
            if (size == 0) size = end - at;
            if (size < headBytes) break;
            boxes.add(new Box(new String(head, 4, 4, StandardCharsets.ISO_8859_1), at, at + headBytes, Math.min(size, end - at) - headBytes));
            if (size > end - at) break;
            at += size;
        }
        return boxes;
    }

    static List<Box> in(FileBytes file, Box box) throws IOException { return in(file, box.at(), box.end()); }

    /// The first box at the end of a path of ids.
    static Optional<Box> find(FileBytes file, Box from, String... path) throws IOException {
        Optional<Box> found = Optional.of(from);
        for (String id : path) {
            Optional<Box> next = Optional.empty();
            for (Box box : in(file, found.get()))
                if (box.id().equals(id) && next.isEmpty()) next = Optional.of(box);
            if (next.isEmpty()) return next;
            found = next;
        }
        return found;
    }

    static Box need(FileBytes file, Box from, String... path) throws IOException, FormatException {
        return find(file, from, path)
                .orElseThrow(() -> new FormatException("the file has no '" + String.join("/", path) + "' box", "", "It is damaged; get it again."));
    }

    static ChunkReader reader(FileBytes file, Box box) throws IOException {
        return new ChunkReader(box.id(), box.at(), file.read(box.at(), (int) Math.min(box.bytes(), MAX_CONTENTS)), ByteOrder.BIG_ENDIAN);
    }
}
