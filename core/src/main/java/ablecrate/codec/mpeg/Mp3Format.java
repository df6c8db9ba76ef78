package ablecrate.codec.mpeg;

import ablecrate.audio.Depth;
import ablecrate.codec.Capabilities;
import ablecrate.codec.FormatException;
import ablecrate.codec.OutputShape;
import ablecrate.codec.Quality;
import ablecrate.codec.RawChunk;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundSink;
import ablecrate.codec.WrittenFormat;
import ablecrate.codec.tags.Id3;
import ablecrate.instrument.SoundMetadata;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Path;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/// MP3, and layers I and II with it.
public final class Mp3Format implements WrittenFormat {
    static final String ID = "mp3";
    private static final Capabilities CAPABILITIES = new Capabilities(EnumSet.of(Depth.FLOAT_32), 2, Long.MAX_VALUE, Capabilities.Loops.NONE,
            Capabilities.FineTune.NONE, false, false, Capabilities.GainDb.NONE, 0, false, false, false, Id3.FIELDS,
            new Capabilities.Compressing(true, Set.of(8000, 11_025, 12_000, 16_000, 22_050, 24_000, 32_000, 44_100, 48_000)));
    /// What the steps of the scale come to with stereo at 44.1 kHz (common practice).
    private static final Map<Quality.Word, Integer> MEAN_KBPS = Map.of(Quality.Word.SMALL, 115, Quality.Word.GOOD, 165, Quality.Word.HIGH, 190,
            Quality.Word.BEST, 245);

    @Override public String id() { return ID; }

    @Override public String name() { return "MP3"; }

    @Override public List<String> extensions() { return List.of("mp3", "mp2", "mpga"); }

    @Override public boolean recognises(byte[] head) {
        return head.length > 10 && (head[0] == 'I' && head[1] == 'D' && head[2] == '3' || MpegHeader.read(head, 0, head.length).isPresent());
    }

    @Override public SoundFile read(Path path) throws IOException, FormatException { return new MpegReader(path).read(); }

    @Override public Capabilities capabilities() { return CAPABILITIES; }

    @Override public SoundSink sink(OutputShape shape, SoundMetadata metadata, List<RawChunk> carried, OutputStream out, Path spool) throws IOException {
        return new Mp3Sink(shape, metadata, out, spool);
    }

    @Override public String describe(Quality quality, OutputShape shape) {
        if (quality.constantKbps().isPresent()) return Mp3Sink.kbps(quality, shape.rateHz()) + " kbit/s throughout";
        return "variable, step " + Mp3Sink.step(quality) + " of 0…9, about " + MEAN_KBPS.get(quality.word()) * (shape.channels() == 1 ? 5 : 8) / 8 + " kbit/s";
    }
}
