package ablecrate.codec.mp4;

import ablecrate.codec.FormatException;
import ablecrate.codec.PacketTable;
import ablecrate.codec.chunk.ChunkReader;
import ablecrate.codec.chunk.FileBytes;
import java.io.IOException;
import java.util.Optional;
import java.util.OptionalLong;

/// One track of an MPEG-4 file: its times, and where its packets lie.
///
/// | box | what is read |
/// |-----|--------------|
/// | `mdhd` | units of time a second, duration |
/// | `elst` | the first edit that shows media: where in the media, how long |
/// | `stts` | durations of packets: u32 count, u32 duration each |
/// | `stsz` | sizes of packets: u32 common size, u32 count, u32 size each |
/// | `stsc` | packets a chunk: u32 first chunk, u32 packets, u32 description, for runs of chunks |
/// | `stco`, `co64` | places of chunks |
///
/// Source: ISO/IEC 14496-12, sections 8.4 to 8.7.
/// @param frames of all packets by their durations, in units of `timescale`
/// @param delay frames before the sound; empty if the file has no edit list
/// @param shown how many frames the edit shows; empty if it does not say
/// @param packetDuration of the first packet
record Track(int timescale, long frames, OptionalLong delay, OptionalLong shown, int packetDuration, PacketTable packets, int claimed) {
    private static final int MAX_RATE = 1_000_000;

    /// @param fragments where the packets lie if the file is in fragments
    static Track read(FileBytes file, Boxes.Box trak, long movieTimescale, Optional<Fragments> fragments) throws IOException, FormatException {
        Boxes.Box media = Boxes.need(file, trak, "mdia"), table = Boxes.need(file, media, "minf", "stbl");
        ChunkReader header = Boxes.reader(file, Boxes.need(file, media, "mdhd"));
        boolean isLong = header.u32("version and flags") >>> 24 == 1;
        header.array(isLong ? 16 : 8, "times");
        long timescale = header.u32("timescale");
        if (timescale < 1 || timescale > MAX_RATE) throw header.bad(timescale + " units of time a second", "The file is damaged; get it again.");
        ChunkReader durations = Boxes.reader(file, Boxes.need(file, table, "stts"));
        durations.u32("version and flags");
        long runs = durations.u32("count"), frames = 0;
        int first = 0;
        for (long i = 0; i < runs; i++) {
            long count = durations.u32("packets"), duration = durations.u32("duration");
            if (i == 0) first = (int) Math.min(duration, Integer.MAX_VALUE);
            frames += count * duration;
        }
        if (fragments.isPresent()) {
            // Packets may lie in front of the fragments as well.
            frames += fragments.get().frames();
            if (first == 0) first = fragments.get().firstDuration();
        }
        if (frames < 0) throw durations.bad("durations that add up to more than there is time", "The file is damaged; get it again.");
        OptionalLong delay = OptionalLong.empty(), shown = OptionalLong.empty();
        var edits = Boxes.find(file, trak, "edts", "elst");
        if (edits.isPresent()) {
            ChunkReader in = Boxes.reader(file, edits.get());
            boolean wide = in.u32("version and flags") >>> 24 == 1;
            for (long left = in.u32("count"); left > 0 && delay.isEmpty(); left--) {
                long length = wide ? in.s64("duration") : in.u32("duration"), from = wide ? in.s64("media time") : (int) in.u32("media time");
                in.u32("rate");
                // −1 is an empty edit: a pause before the sound, which a session's clock makes, not the file.
                if (from < 0) continue;
                delay = OptionalLong.of(from);
                if (length > 0 && movieTimescale > 0) {
                    // The length is in coarse units; where it names the end of the packets, theirs is exact.
                    double exact = (double) length * timescale / movieTimescale, left2 = frames - from;
                    shown = OptionalLong.of(Math.abs(exact - left2) <= (double) timescale / movieTimescale ? frames - from : Math.round(exact));
                }
            }
        }
        PacketTable all = fragments.isPresent() ? packets(file, table, 0).and(fragments.get().packets()) : packets(file, table, 1);
        int there = 0;
        while (there < all.packets() && all.at(there) + all.bytes(there) <= file.size())
            there++;
        return new Track((int) timescale, frames, delay, shown, first, all.first(there), all.packets());
    }

    /// @param least as many packets as there have to be
    private static PacketTable packets(FileBytes file, Boxes.Box table, int least) throws IOException, FormatException {
        ChunkReader sizes = Boxes.reader(file, Boxes.need(file, table, "stsz"));
        sizes.u32("version and flags");
        long common = sizes.u32("common size"), count = sizes.u32("count");
        if (count == 0 && least == 0) return PacketTable.of(new long[0], new int[0]);
        if (count < 1 || common == 0 && count > sizes.remaining() / 4 || count * Math.max(1, common) > file.size() + count)
            throw sizes.bad(count + " packets in a table of " + sizes.remaining() + " bytes", "The file is damaged; get it again.");
        boolean isWide = Boxes.find(file, table, "co64").isPresent();
        ChunkReader chunks = Boxes.reader(file, isWide ? Boxes.need(file, table, "co64") : Boxes.need(file, table, "stco"));
        chunks.u32("version and flags");
        long chunkCount = chunks.u32("count");
        ChunkReader runs = Boxes.reader(file, Boxes.need(file, table, "stsc"));
        runs.u32("version and flags");
        long runCount = runs.u32("count");
        if (runCount < 1 || runCount > runs.remaining() / 12) throw runs.bad(runCount + " runs of chunks", "The file is damaged; get it again.");
        long[] places = new long[(int) count];
        int[] bytes = new int[(int) count];
        long nextRunAt = runs.u32("first chunk"), inChunk = 0;
        int packet = 0;
        for (long chunk = 1; chunk <= chunkCount && packet < count; chunk++) {
            while (chunk == nextRunAt) {
                inChunk = runs.u32("packets");
                runs.u32("description");
                nextRunAt = --runCount > 0 ? runs.u32("first chunk") : -1;
            }
            long at = isWide ? chunks.s64("place") : chunks.u32("place");
            for (long i = 0; i < inChunk && packet < count; i++) {
                bytes[packet] = (int) Math.min(common > 0 ? common : sizes.u32("size"), Integer.MAX_VALUE);
                if (at < 0) throw chunks.bad("a place of " + at, "The file is damaged; get it again.");
                places[packet++] = at;
                at += bytes[packet - 1];
            }
        }
        return PacketTable.of(places, bytes).first(packet);
    }
}
