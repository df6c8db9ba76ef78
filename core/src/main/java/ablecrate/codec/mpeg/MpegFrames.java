package ablecrate.codec.mpeg;

import ablecrate.codec.chunk.FileWindow;
import java.io.Closeable;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Optional;

/// Finds the frames of an MPEG audio stream: each is followed by the next, or by the end. What is not is passed over.
final class MpegFrames implements Closeable {
    private static final int LONGEST = 2881;

    private final FileWindow file;
    private final Optional<MpegHeader> kind;
    private final long end;
    private long at;
    private boolean isInSync;

    /// @param passedOver bytes before it that belong to no frame
    record Found(MpegHeader header, long at, long passedOver) {}

    /// @param kind of the stream, where it is known
    MpegFrames(Path path, long from, long end, Optional<MpegHeader> kind) throws IOException {
        file = new FileWindow(path);
        this.end = Math.min(end, file.end());
        this.kind = kind;
        at = from;
    }

    void moveTo(long place) {
        at = place;
        isInSync = false;
    }

    Optional<Found> next() throws IOException {
        long from = at;
        while (at + MpegHeader.BYTES <= end) {
            Optional<MpegHeader> header = header(at);
            if (header.isPresent() && isFrame(header.get())) {
                Found found = new Found(header.get(), at, at - from);
                at += header.get().bytes();
                isInSync = true;
                return Optional.of(found);
            }
            isInSync = false;
            at = sync(at + 1);
        }
        return Optional.empty();
    }

    /// A header alone is four bytes that anything may hold: another of the same kind has to follow. Where one frame followed the other so far, the
    /// file's end may follow as well.
    private boolean isFrame(MpegHeader header) throws IOException {
        long next = at + header.bytes();
        if (next > end) return false;
        if (next + MpegHeader.BYTES > end) return isInSync || at == 0 || next == end;
        return header(next).filter(h -> h.goesWith(header)).isPresent();
    }

    private Optional<MpegHeader> header(long place) throws IOException {
        int index = file.reach(place, LONGEST), there = (int) Math.min(file.held(place), end - place);
        return MpegHeader.read(file.bytes(), index, index + there).filter(h -> kind.isEmpty() || h.goesWith(kind.get())).filter(h -> !h.isFreeFormat());
    }

    private long sync(long from) throws IOException {
        for (long place = from; place + 1 < end;) {
            int index = file.reach(place, LONGEST), there = (int) Math.min(file.held(place), end - place);
            byte[] b = file.bytes();
            for (int i = 0; i + 1 < there; i++)
                if (b[index + i] == -1 && (b[index + i + 1] & 0xE0) == 0xE0) return place + i;
            if (there < 2) break;
            place += there - 1;
        }
        return end;
    }

    byte[] bytes(Found found) throws IOException { return file.copy(found.at(), found.header().bytes()); }

    @Override public void close() throws IOException { file.close(); }
}
