package ablecrate.codec.aiff;

import ablecrate.codec.FormatException;
import ablecrate.codec.chunk.ChunkBuilder;
import ablecrate.codec.chunk.ChunkReader;
import java.nio.ByteOrder;

/// The `INST` chunk: 20 bytes, big-endian.
///
/// | offset | type | field | meaning |
/// |-------:|------|-------|---------|
/// | 0 | s8 | baseNote | root key |
/// | 1 | s8 | detune | −50…50 cents, what the player does |
/// | 2 | s8 | lowNote | |
/// | 3 | s8 | highNote | |
/// | 4 | s8 | lowVelocity | 1…127 |
/// | 5 | s8 | highVelocity | 1…127 |
/// | 6 | s16 | gain | dB |
/// | 8 | loop | sustainLoop | s16 mode (0 none, 1 forward, 2 forward and backward), s16 begin marker, s16 end marker |
/// | 14 | loop | releaseLoop | the same |
///
/// Source: AIFF 1.3, Instrument Chunk.
record AiffInstChunk(int baseNote, int detune, int lowNote, int highNote, int lowVelocity, int highVelocity, int gainDb, LoopMarks sustain,
        LoopMarks release) {
    record LoopMarks(int playMode, int beginId, int endId) {
        static final LoopMarks NONE = new LoopMarks(0, 0, 0);

        private static LoopMarks read(ChunkReader in) throws FormatException {
            return new LoopMarks(in.u16("playMode"), in.u16("beginLoop"), in.u16("endLoop"));
        }
    }

    static AiffInstChunk read(ChunkReader in) throws FormatException {
        return new AiffInstChunk(in.u8("baseNote"), in.s8("detune"), in.u8("lowNote"), in.u8("highNote"), in.u8("lowVelocity"),
                in.u8("highVelocity"), in.s16("gain"), LoopMarks.read(in), LoopMarks.read(in));
    }

    byte[] toBytes() {
        ChunkBuilder out = new ChunkBuilder(ByteOrder.BIG_ENDIAN).u8(baseNote).u8(detune).u8(lowNote).u8(highNote).u8(lowVelocity)
                .u8(highVelocity).u16(gainDb);
        for (LoopMarks loop : new LoopMarks[]{sustain, release})
            out.u16(loop.playMode()).u16(loop.beginId()).u16(loop.endId());
        return out.toArray();
    }
}
