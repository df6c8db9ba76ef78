package ablecrate.codec.mp4;

import ablecrate.codec.FormatException;
import ablecrate.codec.PacketTable;
import ablecrate.codec.chunk.ChunkReader;
import ablecrate.codec.chunk.FileBytes;
import java.io.IOException;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/// The packets of a track in a file that came in fragments, as it is sent over a network or recorded without an end.
///
/// | box | what is read |
/// |-----|--------------|
/// | `tkhd` | the track's id |
/// | `mvex/trex` | u32 id, description; usual duration, size and flags of its packets, u32 each |
/// | `moof/traf/tfhd` | u32 id; by flags: u64 base (1), u32 description (2), u32 duration (8), u32 size (10 hex), u32 flags (20 hex); 20000 hex: base is the `moof` |
/// | `moof/traf/trun` | u32 count; by flags: s32 offset (1), u32 first flags (4); then for each packet u32 duration (100 hex), size (200), flags (400), time (800) |
///
/// Source: ISO/IEC 14496-12, sections 8.3.2 and 8.8.
final class Fragments {
    private static final int BASE = 1, DESCRIPTION = 2, DURATION = 8, SIZE = 0x10, FLAGS = 0x20, IS_MOOF = 0x20000;
    private static final int OFFSET = 1, FIRST_FLAGS = 4, DURATIONS = 0x100, SIZES = 0x200, EACH_FLAGS = 0x400, TIMES = 0x800;

    private final FileBytes file;
    private final long track;
    private long usualDuration, usualSize, frames, firstDuration;
    private long[] places = new long[256];
    private int[] bytes = new int[256];
    private int count;

    private Fragments(FileBytes file, long track) {
        this.file = file;
        this.track = track;
    }

    /// @param top the file's boxes
    /// @return empty if the file is in one piece
    static Optional<Fragments> of(FileBytes file, List<Boxes.Box> top, Boxes.Box moov, Boxes.Box trak) throws IOException, FormatException {
        if (top.stream().noneMatch(b -> b.id().equals("moof"))) return Optional.empty();
        ChunkReader header = Boxes.reader(file, Boxes.need(file, trak, "tkhd"));
        header.array(header.u32("version and flags") >>> 24 == 1 ? 16 : 8, "times");
        Fragments all = new Fragments(file, header.u32("track"));
        Optional<Boxes.Box> extension = Boxes.find(file, moov, "mvex");
        if (extension.isPresent())
            for (Boxes.Box box : Boxes.in(file, extension.get()))
                if (box.id().equals("trex")) all.usual(Boxes.reader(file, box));
        for (Boxes.Box box : top)
            if (box.id().equals("moof")) all.fragment(box);
        return Optional.of(all);
    }

    private void usual(ChunkReader in) throws FormatException {
        in.u32("version and flags");
        if (in.u32("track") != track) return;
        in.u32("description");
        usualDuration = in.u32("duration");
        usualSize = in.u32("size");
    }

    private void fragment(Boxes.Box moof) throws IOException, FormatException {
        long end = moof.start();
        for (Boxes.Box box : Boxes.in(file, moof))
            if (box.id().equals("traf")) end = run(moof, box, end);
    }

    /// @param base where data lie that say nothing else: the fragment's start, or the end of those of the track before
    /// @return the end of the data
    private long run(Boxes.Box moof, Boxes.Box traf, long base) throws IOException, FormatException {
        ChunkReader head = Boxes.reader(file, Boxes.need(file, traf, "tfhd"));
        int flags = (int) head.u32("version and flags") & 0xFFFFFF;
        boolean isOurs = head.u32("track") == track;
        long start = (flags & BASE) != 0 ? head.s64("base") : (flags & IS_MOOF) != 0 ? moof.start() : base;
        if ((flags & DESCRIPTION) != 0) head.u32("description");
        long duration = (flags & DURATION) != 0 ? head.u32("duration") : usualDuration, size = (flags & SIZE) != 0 ? head.u32("size") : usualSize;
        if ((flags & FLAGS) != 0) head.u32("flags");
        long at = start;
        for (Boxes.Box box : Boxes.in(file, traf)) {
            if (!box.id().equals("trun")) continue;
            ChunkReader in = Boxes.reader(file, box);
            int has = (int) in.u32("version and flags") & 0xFFFFFF;
            long packets = in.u32("packets");
            if ((has & OFFSET) != 0) at = start + (int) in.u32("offset");
            if ((has & FIRST_FLAGS) != 0) in.u32("first flags");
            int fields = 4 * (Integer.bitCount(has & (DURATIONS | SIZES | EACH_FLAGS | TIMES)));
            if (fields > 0 && packets > in.remaining() / fields || fields == 0 && packets * Math.max(1, size) > file.size() || at < 0)
                throw in.bad(packets + " packets in a run of " + in.remaining() + " bytes", "The file is damaged; get it again.");
            for (long i = 0; i < packets; i++) {
                long lasts = (has & DURATIONS) != 0 ? in.u32("duration") : duration, length = (has & SIZES) != 0 ? in.u32("size") : size;
                if ((has & EACH_FLAGS) != 0) in.u32("flags");
                if ((has & TIMES) != 0) in.u32("time");
                if (isOurs) add(at, length, lasts);
                at += length;
            }
        }
        return at;
    }

    private void add(long at, long size, long duration) {
        if (count == places.length) {
            places = Arrays.copyOf(places, 2 * count);
            bytes = Arrays.copyOf(bytes, 2 * count);
        }
        if (count == 0) firstDuration = duration;
        places[count] = at;
        bytes[count++] = (int) Math.min(size, Integer.MAX_VALUE);
        frames += duration;
    }

    /// Of all packets, in units of the track's time.
    long frames() { return frames; }

    int firstDuration() { return (int) Math.min(firstDuration, Integer.MAX_VALUE); }

    PacketTable packets() { return PacketTable.of(places, bytes).first(count); }

    int count() { return count; }
}
