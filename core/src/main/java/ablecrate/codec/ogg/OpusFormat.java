package ablecrate.codec.ogg;

import ablecrate.audio.Depth;
import ablecrate.codec.Capabilities;
import ablecrate.codec.FormatException;
import ablecrate.codec.OutputShape;
import ablecrate.codec.Quality;
import ablecrate.codec.RawChunk;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundSink;
import ablecrate.codec.WrittenFormat;
import ablecrate.codec.tags.VorbisComments;
import ablecrate.instrument.SoundMetadata;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Path;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;

/// Ogg with Opus: its capabilities, how it knows itself.
public final class OpusFormat implements WrittenFormat {
    static final String ID = "opus";
    private static final Capabilities CAPABILITIES = new Capabilities(EnumSet.of(Depth.FLOAT_32), 2, Long.MAX_VALUE, Capabilities.Loops.NONE,
            Capabilities.FineTune.NONE, false, false, Capabilities.GainDb.NONE, 0, false, false, false, VorbisComments.FIELDS,
            new Capabilities.Compressing(true, Set.of(OpusCodec.RATE_HZ)));

    @Override public String id() { return ID; }

    @Override public String name() { return "Ogg Opus"; }

    @Override public List<String> extensions() { return List.of("opus", "ogg"); }

    @Override public Capabilities capabilities() { return CAPABILITIES; }

    @Override public boolean recognises(byte[] head) { return OggFormat.isOgg(head) && OggFormat.holdsOpus(head); }

    @Override public SoundFile read(Path path) throws IOException, FormatException { return new OggReader(path).read(); }

    @Override public SoundSink sink(OutputShape shape, SoundMetadata metadata, List<RawChunk> carried, OutputStream out, Path spool) throws IOException {
        return new OpusSink(shape, metadata, out);
    }

    @Override public String describe(Quality quality, OutputShape shape) {
        int kbps = OpusSink.kbps(quality, shape.channels());
        return (quality.constantKbps().isPresent() ? "" : "about ") + kbps + " kbit/s";
    }
}
