package ablecrate.codec.ogg;

import ablecrate.codec.chunk.FileWindow;
import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// Finds the pages of an Ogg file, and passes over what is none.
///
/// | offset | type | field |
/// |-------:|------|-------|
/// | 0 | 4 bytes | `OggS` |
/// | 4 | u8 | version, 0 |
/// | 5 | u8 | flags: 1 begins within a packet, 2 first of its stream, 4 last |
/// | 6 | s64 | granule position: of the last packet that ends here; −1 if none does |
/// | 14 | u32 | serial number of the stream |
/// | 18 | u32 | number of the page |
/// | 22 | u32 | CRC-32 of the page with these four bytes zero (0x04C11DB7, from zero, most significant bit first) |
/// | 26 | u8 | segments |
/// | 27 | u8 each | their lengths; a packet ends with one below 255 |
///
/// Source: RFC 3533, *The Ogg Encapsulation Format* (2003).
final class OggPages implements Closeable {
    static final int HEADER_BYTES = 27, CONTINUED = 1, FIRST = 2, LAST = 4;
    private static final int CAPTURE = 0x4F676753, LONGEST = HEADER_BYTES + 255 + 255 * 255;
    private static final int[] TABLE = table();

    private final FileWindow file;
    private long at;

    /// @param at where it lies in the file
    /// @param pieces of packets, in order
    /// @param endsOpen whether the last piece goes on in the next page
    /// @param isWhole whether its checksum is right
    record Page(long at, int bytes, int flags, long granule, int serial, int number, List<byte[]> pieces, boolean endsOpen, boolean isWhole) {
        boolean has(int flag) { return (flags & flag) != 0; }
    }

    OggPages(Path path, long from) throws IOException {
        file = new FileWindow(path);
        at = from;
    }

    void moveTo(long place) { at = place; }

    /// Where the next page is looked for.
    long place() { return at; }

    long end() { return file.end(); }

    Optional<Page> next() throws IOException {
        while (at + HEADER_BYTES <= file.end()) {
            Optional<Page> page = page();
            if (page.isPresent()) {
                at += page.get().bytes();
                return page;
            }
            at = capture(at + 1);
        }
        return Optional.empty();
    }

    private long capture(long from) throws IOException {
        for (long place = from; place + HEADER_BYTES <= file.end();) {
            int index = file.reach(place, LONGEST), there = file.held(place);
            byte[] b = file.bytes();
            for (int i = 0; i + 4 <= there; i++)
                if (b[index + i] == 'O' && b[index + i + 1] == 'g' && b[index + i + 2] == 'g' && b[index + i + 3] == 'S') return place + i;
            place += Math.max(1, there - 3);
        }
        return file.end();
    }

    private Optional<Page> page() throws IOException {
        int index = file.reach(at, LONGEST), there = Math.min(file.held(at), LONGEST);
        ByteBuffer in = ByteBuffer.wrap(file.bytes(), index, there).slice().order(ByteOrder.LITTLE_ENDIAN);
        if (there < HEADER_BYTES || Integer.reverseBytes(in.getInt(0)) != CAPTURE || in.get(4) != 0) return Optional.empty();
        int segments = in.get(26) & 0xFF, bytes = HEADER_BYTES + segments;
        if (there < bytes) return Optional.empty();
        for (int i = 0; i < segments; i++)
            bytes += in.get(HEADER_BYTES + i) & 0xFF;
        if (there < bytes) return Optional.empty();
        boolean isWhole = crc(file.bytes(), index, bytes) == in.getInt(22);
        if (!isWhole && !isFollowed(at + bytes)) return Optional.empty();
        index = file.reach(at, LONGEST);
        in = ByteBuffer.wrap(file.bytes(), index, there).slice().order(ByteOrder.LITTLE_ENDIAN);
        List<byte[]> pieces = new ArrayList<>();
        int from = HEADER_BYTES + segments, length = 0;
        boolean isOpen = false;
        for (int i = 0; i < segments; i++) {
            int segment = in.get(HEADER_BYTES + i) & 0xFF;
            length += segment;
            isOpen = segment == 255;
            if (isOpen && i < segments - 1) continue;
            byte[] piece = new byte[length];
            in.get(from, piece);
            pieces.add(piece);
            from += length;
            length = 0;
        }
        return Optional.of(new Page(at, bytes, in.get(5), in.getLong(6), in.getInt(14), in.getInt(18), pieces, isOpen, isWhole));
    }

    /// A page whose checksum is wrong is one all the same where the next starts right behind it.
    private boolean isFollowed(long next) throws IOException {
        if (next == file.end()) return true;
        byte[] four = file.copy(next, 4);
        return four.length == 4 && ByteBuffer.wrap(four).getInt() == CAPTURE;
    }

    private static int[] table() {
        int[] table = new int[256];
        for (int i = 0; i < 256; i++) {
            int crc = i << 24;
            for (int bit = 0; bit < 8; bit++)
                crc = crc << 1 ^ (crc < 0 ? 0x04C11DB7 : 0);
            table[i] = crc;
        }
        return table;
    }

    /// The checksum of a page, whatever stands in its place.
    static int crc(byte[] bytes, int at, int count) {
        int crc = 0;
        for (int i = 0; i < count; i++) {
            int value = i >= 22 && i < 26 ? 0 : bytes[at + i] & 0xFF;
            crc = crc << 8 ^ TABLE[crc >>> 24 ^ value];
        }
        return crc;
    }

    @Override public void close() throws IOException { file.close(); }
}
