package ablecrate.codec.flac;

import ablecrate.audio.Depth;
import ablecrate.codec.Capabilities;
import ablecrate.codec.ChunkRole;
import ablecrate.codec.FormatException;
import ablecrate.codec.OutputShape;
import ablecrate.codec.RawChunk;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundSink;
import ablecrate.codec.WrittenFormat;
import ablecrate.codec.riff.RiffMetadata;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.TextField;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Path;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;

/// FLAC: its capabilities, how it knows itself, how a file is written.
public final class FlacFormat implements WrittenFormat {
    static final String ID = "flac";
    /// Lengths of blocks have 24 bits, so that a WAV's chunks fit; the sound itself may have 2³⁶ frames.
    private static final Capabilities CAPABILITIES = new Capabilities(EnumSet.of(Depth.INT_16, Depth.INT_24), 8, Long.MAX_VALUE,
            Capabilities.Loops.any(), Capabilities.FineTune.EXACT, true,
            true, new Capabilities.GainDb(-128, 127), Integer.MAX_VALUE, true, true, true, EnumSet.allOf(TextField.class),
            new Capabilities.Compressing(false, Set.of()));

    @Override public String id() { return ID; }

    @Override public String name() { return "FLAC"; }

    @Override public List<String> extensions() { return List.of("flac", "fla"); }

    @Override public Capabilities capabilities() { return CAPABILITIES; }

    @Override public boolean recognises(byte[] head) { return head.length > 4 && head[0] == 'f' && head[1] == 'L' && head[2] == 'a' && head[3] == 'C'; }

    @Override public SoundFile read(Path path) throws IOException, FormatException { return new FlacReader(path).read(); }

    @Override public ChunkRole role(String chunkId) {
        if (chunkId.equals("VORBIS_COMMENT")) return ChunkRole.FACT;
        return ChunkRole.of(chunkId, Set.of("STREAMINFO", "PADDING", "SEEKTABLE"), RiffMetadata.IDS, Set.of("PICTURE"));
    }

    @Override public SoundSink sink(OutputShape shape, SoundMetadata metadata, List<RawChunk> carried, OutputStream out, Path spool) throws IOException {
        return new FlacSink(shape, metadata, carried, out, spool);
    }
}
