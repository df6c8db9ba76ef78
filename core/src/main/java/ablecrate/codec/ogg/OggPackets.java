package ablecrate.codec.ogg;

import java.io.ByteArrayOutputStream;
import java.io.Closeable;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// Packets of one stream, a page's worth at a time.
final class OggPackets implements Closeable {
    private final OggPages pages;
    private final int serial;
    private final ByteArrayOutputStream open = new ByteArrayOutputStream();
    private boolean isOpen;
    private int lastNumber;

    /// Packets that end in one page.
    /// @param granule of the last of them
    /// @param followsGap whether a page is missing before
    /// @param isWhole whether the page's checksum is right
    record Batch(long at, long granule, boolean isLast, boolean followsGap, boolean isWhole, List<byte[]> packets) {}

    OggPackets(Path path, long from, int serial) throws IOException {
        pages = new OggPages(path, from);
        this.serial = serial;
        lastNumber = -1;
    }

    void moveTo(long place) {
        pages.moveTo(place);
        isOpen = false;
        lastNumber = -1;
    }

    long place() { return pages.place(); }

    long end() { return pages.end(); }

    Optional<Batch> next() throws IOException {
        for (Optional<OggPages.Page> found; (found = pages.next()).isPresent();) {
            OggPages.Page page = found.get();
            // Another stream that starts here is another piece of music.
            if (page.serial() != serial) continue;
            boolean followsGap = lastNumber >= 0 && page.number() != lastNumber + 1;
            lastNumber = page.number();
            List<byte[]> packets = new ArrayList<>();
            for (int i = 0; i < page.pieces().size(); i++) {
                boolean continues = i == 0 && page.has(OggPages.CONTINUED);
                if (i == 0 && (!continues || followsGap)) isOpen = false;
                boolean isWanted = !continues || isOpen;
                if (!continues) open.reset();
                if (isWanted) open.writeBytes(page.pieces().get(i));
                isOpen = isWanted && i == page.pieces().size() - 1 && page.endsOpen();
                if (isWanted && !isOpen) packets.add(open.toByteArray());
                if (!isOpen) open.reset();
            }
            if (!packets.isEmpty() || page.has(OggPages.LAST) || followsGap)
                return Optional.of(new Batch(page.at(), page.granule(), page.has(OggPages.LAST), followsGap, page.isWhole(), packets));
        }
        return Optional.empty();
    }

    @Override public void close() throws IOException { pages.close(); }
}
