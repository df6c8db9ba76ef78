package ablecrate.codec.flac;

import ablecrate.codec.chunk.FileWindow;
import java.io.Closeable;
import java.io.IOException;
import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;
import java.nio.file.Path;
import java.util.Optional;

/// Finds the frames of a native FLAC stream that are whole, and passes over what is not.
///
/// A frame does not say its length. It ends where its CRC-16 comes out and another header, or the end, follows.
final class FlacFrames implements Closeable {
    private static final VarHandle LONGS = MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.BIG_ENDIAN);
    /// More than a frame of 8 channels, 24 bits and 65,535 frames takes uncompressed.
    private static final int LONGEST_FRAME = 1_700_000;

    /// A frame that is whole.
    record Found(FlacFrame header, long at, int bytes) {}

    private final FileWindow file;
    private final StreamInfo info;
    private final long end;
    private long at, passedOver;

    FlacFrames(Path path, StreamInfo info, long from) throws IOException {
        file = new FileWindow(path);
        this.info = info;
        at = from;
        // The tag that some programs put behind any file.
        long tag = file.end() - 128;
        end = tag > from && new String(file.copy(tag, 3), java.nio.charset.StandardCharsets.ISO_8859_1).equals("TAG") ? tag : file.end();
    }

    void moveTo(long place) { at = place; }

    /// Bytes so far that belong to no whole frame.
    long passedOver() { return passedOver; }

    Optional<Found> next() throws IOException {
        while (at < end) {
            Optional<FlacFrame> header = header(at);
            if (header.isPresent()) {
                int bytes = length(header.get());
                if (bytes > 0) {
                    Found found = new Found(header.get(), at, bytes);
                    at += bytes;
                    return Optional.of(found);
                }
            }
            long next = sync(at + 1);
            passedOver += next - at;
            at = next;
        }
        return Optional.empty();
    }

    byte[] bytes(Found found) throws IOException { return file.copy(found.at(), found.bytes()); }

    private Optional<FlacFrame> header(long place) throws IOException {
        int index = file.reach(place, FlacFrame.LONGEST_HEADER), there = (int) Math.min(file.held(place), end - place);
        return FlacFrame.read(file.bytes(), index, index + there, info);
    }

    /// The next place where a header may start; the end where there is none.
    private long sync(long from) throws IOException {
        for (long place = from; place < end;) {
            int index = file.reach(place, 2), there = (int) Math.min(file.held(place), end - place);
            byte[] bytes = file.bytes();
            for (int i = 0; i + 1 < there; i++) {
                // Most runs of eight bytes have none of all ones.
                while (i + Long.BYTES < there && !hasAllOnes((long) LONGS.get(bytes, index + i)))
                    i += Long.BYTES;
                if (bytes[index + i] == -1 && (bytes[index + i + 1] & 0xFE) == 0xF8) return place + i;
            }
            if (there < 2) return end;
            place += there - 1;
        }
        return end;
    }

    /// Whether one of eight bytes is 0xFF: of all of them turned round, one is zero (common practice).
    private static boolean hasAllOnes(long eight) { return (~eight - 0x0101_0101_0101_0101L & eight & 0x8080_8080_8080_8080L) != 0; }

    /// The length of the frame at this place; 0 if it is not whole.
    private int length(FlacFrame header) throws IOException {
        int crc = 0;
        long done = at, limit = Math.min(end, at + LONGEST_FRAME);
        while (done < limit) {
            long next = Math.min(limit, sync(Math.max(done + 1, at + header.headerBytes() + 1)));
            // Bytes are read in steps, so that the window stays small.
            while (done < next) {
                int step = (int) Math.min(next - done, 1 << 16), index = file.reach(done, step);
                crc = Crc.crc16(crc, file.bytes(), index, step);
                done += step;
            }
            if (crc == 0 && (done == end || header(done).filter(h -> h.first() >= header.first() + header.count()).isPresent())) return (int) (done - at);
        }
        return 0;
    }

    @Override public void close() throws IOException { file.close(); }
}
