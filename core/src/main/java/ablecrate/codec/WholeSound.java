package ablecrate.codec;

import ablecrate.audio.Depth;
import ablecrate.instrument.SoundMetadata;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;

/// Writes sounds that are in memory; for sounds of any length see the packer.
public final class WholeSound {
    private WholeSound() {}

    /// Writes straight to `file`; samples are rounded to the nearest step.
    /// @param chunks further chunks, see [WrittenFormat#sink]
    /// @param planes `[channel][frame]`, all of one length
    public static void write(Path file, WrittenFormat format, int rateHz, Depth depth, SoundMetadata metadata, List<RawChunk> chunks, double[][] planes)
            throws IOException {
        if (file.getParent() != null) Files.createDirectories(file.getParent());
        Path spool = file.resolveSibling(file.getFileName() + ".spool");
        OutputShape shape = new OutputShape(rateHz, planes.length, depth, planes[0].length);
        try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(file)); SoundSink sink = format.sink(shape, metadata, chunks, out, spool)) {
            sink.write(planes, planes[0].length);
            sink.finish();
        }
    }
}
