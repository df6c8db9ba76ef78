package ablecrate.codec.riff;

import ablecrate.codec.FormatException;
import ablecrate.codec.Problem;
import ablecrate.codec.chunk.ChunkBuilder;
import ablecrate.codec.chunk.ChunkReader;
import ablecrate.instrument.Cue;
import java.nio.ByteOrder;
import java.util.ArrayList;
import java.util.List;

/// The `cue ` chunk: a count, then 24 bytes a point, little-endian.
///
/// | offset | type | field | meaning |
/// |-------:|------|-------|---------|
/// | 0 | u32 | id | referred to by `LIST adtl` and by loops |
/// | 4 | u32 | position | place in the play order; without a playlist the frame |
/// | 8 | id | chunk | `data` |
/// | 12 | u32 | chunkStart | 0 |
/// | 16 | u32 | blockStart | 0 for PCM |
/// | 20 | u32 | sampleOffset | the frame |
///
/// Source: *Multimedia Programming Interface and Data Specifications 1.0* (1991), cue-points chunk.
record CueChunk(List<Point> points) {
    record Point(long id, long position, String chunk, long chunkStart, long blockStart, long frame) {}

    static CueChunk read(ChunkReader in, List<Problem> problems) throws FormatException {
        long count = in.u32("count"), held = Math.min(count, in.remaining() / 24);
        if (held < count) problems.add(Problem.mend("the chunk claims " + count + " cue points and holds " + held, in.place()));
        List<Point> points = new ArrayList<>();
        for (long i = 0; i < held; i++)
            points.add(new Point(in.u32("id"), in.u32("position"), in.id("chunk"), in.u32("chunkStart"), in.u32("blockStart"), in.u32("sampleOffset")));
        return new CueChunk(points);
    }

    /// The points of `cues`, with what this chunk says of each beside its frame.
    CueChunk with(List<Cue> cues) {
        List<Point> moved = new ArrayList<>();
        for (Cue cue : cues) {
            Point old = points.stream().filter(p -> p.id() == cue.id()).findFirst().orElse(new Point(cue.id(), 0, "data", 0, 0, 0));
            // Most writers put the frame into both fields; one that counts its play order there keeps its count.
            long position = old.position() == old.frame() ? cue.frame() : old.position();
            moved.add(new Point(cue.id(), position, old.chunk(), old.chunkStart(), old.blockStart(), cue.frame()));
        }
        return new CueChunk(moved);
    }

    byte[] toBytes() {
        ChunkBuilder out = new ChunkBuilder(ByteOrder.LITTLE_ENDIAN).u32(points.size());
        for (Point p : points)
            out.u32(p.id()).u32(p.position()).id(p.chunk()).u32(p.chunkStart()).u32(p.blockStart()).u32(p.frame());
        return out.toArray();
    }
}
