package ablecrate.codec.riff;

import ablecrate.codec.FormatException;
import ablecrate.codec.chunk.ChunkBuilder;
import ablecrate.codec.chunk.ChunkReader;
import ablecrate.instrument.Mapping;
import ablecrate.instrument.Span;
import java.nio.ByteOrder;

/// The `inst` chunk: 7 bytes.
///
/// | offset | type | field | meaning |
/// |-------:|------|-------|---------|
/// | 0 | u8 | unshiftedNote | root key |
/// | 1 | s8 | fineTune | −50…50 cents, what the player adds |
/// | 2 | s8 | gain | dB |
/// | 3 | u8 | lowNote | |
/// | 4 | u8 | highNote | |
/// | 5 | u8 | lowVelocity | 1…127 |
/// | 6 | u8 | highVelocity | 1…127 |
///
/// Source: *Multimedia Programming Interface and Data Specifications 1.0* (1991), `inst` chunk.
record InstChunk(int unshiftedNote, int fineTune, int gain, int lowNote, int highNote, int lowVelocity, int highVelocity) {
    static InstChunk read(ChunkReader in) throws FormatException {
        return new InstChunk(in.u8("unshiftedNote"), in.s8("fineTune"), in.s8("gain"), in.u8("lowNote"), in.u8("highNote"),
                in.u8("lowVelocity"), in.u8("highVelocity"));
    }

    Span keys() { return Span.lenient(lowNote, highNote); }

    Span velocities() { return Span.lenient(lowVelocity, highVelocity); }

    static InstChunk of(Mapping mapping) {
        Span keys = mapping.keys().orElse(new Span(0, 127)), velocities = mapping.velocities().orElse(new Span(1, 127));
        return new InstChunk(mapping.rootKey().orElse(60), (int) Math.clamp(Math.rint(mapping.fineTuneCents()), -50, 50),
                (int) Math.clamp(Math.rint(mapping.gainDb().orElse(0.0)), -128, 127), keys.low(), keys.high(), velocities.low(),
                velocities.high());
    }

    byte[] toBytes() {
        return new ChunkBuilder(ByteOrder.LITTLE_ENDIAN).u8(unshiftedNote).u8(fineTune).u8(gain).u8(lowNote).u8(highNote).u8(lowVelocity)
                .u8(highVelocity).toArray();
    }
}
