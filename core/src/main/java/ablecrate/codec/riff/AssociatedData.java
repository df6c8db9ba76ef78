package ablecrate.codec.riff;

import ablecrate.codec.Bytes;
import ablecrate.codec.RawChunk;
import ablecrate.codec.chunk.ChunkBuilder;
import ablecrate.codec.chunk.ChunkReader;
import ablecrate.instrument.Cue;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/// `LIST adtl`: what belongs to cue points. Each entry starts with the point's id, u32 little-endian.
///
/// | entry | after the id |
/// |-------|--------------|
/// | `labl` | name, zero-terminated |
/// | `note` | comment, zero-terminated |
/// | `ltxt` | u32 length in frames, id purpose, u16 country, language, dialect, code page, text |
///
/// Source: *Multimedia Programming Interface and Data Specifications 1.0* (1991), associated data list.
final class AssociatedData {
    private AssociatedData() {}

    static List<Cue> named(List<CueChunk.Point> points, List<RawChunk> entries) {
        List<Cue> cues = new ArrayList<>();
        for (CueChunk.Point point : points) {
            Optional<String> label = Optional.empty(), note = Optional.empty();
            long length = 0;
            for (RawChunk entry : entries) {
                if (idOf(entry) != point.id()) continue;
                byte[] raw = entry.contents().toArray();
                String text = ChunkReader.text(Arrays.copyOfRange(raw, 4, raw.length));
                switch (entry.id()) {
                    case "labl" -> label = Optional.of(text);
                    case "note" -> note = Optional.of(text);
                    case "ltxt" -> length = raw.length < 8 ? 0 : u32(raw, 4);
                    default -> {}
                }
            }
            cues.add(new Cue(point.id(), point.frame(), length, label, note));
        }
        return cues;
    }

    private static final int REGION_HEAD = 20;

    /// Texts of regions: a cue has a label and a note, and nothing else.
    static List<String> own(List<RawChunk> entries) {
        return entries.stream().filter(e -> e.id().equals("ltxt")).map(e -> e.contents().toArray()).filter(raw -> raw.length > REGION_HEAD)
                .map(raw -> ChunkReader.text(Arrays.copyOfRange(raw, REGION_HEAD, raw.length))).filter(t -> !t.isBlank())
                .map(t -> "text of a region (" + t + ")")
                .toList();
    }

    /// The entries for `cues`: those of the source where they say the same already, new ones for the rest.
    static List<RawChunk> entries(List<Cue> cues, List<RawChunk> source) {
        List<RawChunk> out = new ArrayList<>();
        for (RawChunk old : source) {
            long id = idOf(old);
            Optional<Cue> cue = cues.stream().filter(c -> c.id() == id).findFirst();
            byte[] raw = old.contents().toArray();
            if (old.id().equals("ltxt") && cue.isPresent() && raw.length >= 8)
                ByteBuffer.wrap(raw).order(ByteOrder.LITTLE_ENDIAN).putInt(4, (int) cue.get().lengthFrames());
            if (cue.isPresent()) out.add(new RawChunk(old.id(), Bytes.of(raw)));
        }
        for (Cue cue : cues) {
            cue.label().filter(_ -> lacks(source, "labl", cue)).ifPresent(text -> out.add(entry("labl", cue, text)));
            cue.note().filter(_ -> lacks(source, "note", cue)).ifPresent(text -> out.add(entry("note", cue, text)));
            if (cue.lengthFrames() > 0 && lacks(source, "ltxt", cue))
                out.add(new RawChunk("ltxt", new ChunkBuilder(ByteOrder.LITTLE_ENDIAN).u32(cue.id()).u32(cue.lengthFrames()).id("rgn ")
                        .u64(0).toBytes()));
        }
        return out;
    }

    private static boolean lacks(List<RawChunk> source, String type, Cue cue) {
        return source.stream().noneMatch(e -> e.id().equals(type) && idOf(e) == cue.id());
    }

    private static RawChunk entry(String type, Cue cue, String text) {
        return new RawChunk(type, new ChunkBuilder(ByteOrder.LITTLE_ENDIAN).u32(cue.id()).bytes(ListEntries.text(text)).toBytes());
    }

    private static long idOf(RawChunk entry) {
        byte[] raw = entry.contents().toArray();
        return raw.length < 4 ? -1 : u32(raw, 0);
    }

    private static long u32(byte[] raw, int at) { return ByteBuffer.wrap(raw).order(ByteOrder.LITTLE_ENDIAN).getInt(at) & 0xFFFF_FFFFL; }
}
