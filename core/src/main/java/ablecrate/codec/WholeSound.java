package ablecrate.codec;

import ablecrate.audio.Depth;
import ablecrate.audio.PcmPacker;
import ablecrate.instrument.SoundFacts;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;

/// Writes sounds that are in memory; for sounds of any length see the packer.
public final class WholeSound {
    private WholeSound() {}

    /// Writes straight to `file`; samples are rounded to the nearest step.
    /// @param chunks further chunks, see [SoundFormat#layout]
    /// @param planes `[channel][frame]`, all of one length
    public static void write(Path file, SoundFormat format, int rateHz, Depth depth, SoundFacts facts, List<RawChunk> chunks, double[][] planes)
            throws IOException {
        int frames = planes[0].length;
        PcmLayout layout = format.layout(new OutputShape(rateHz, planes.length, depth, frames), facts, chunks);
        byte[] packed = new byte[planes.length * frames * layout.encoding().containerBytes()];
        new PcmPacker(layout.encoding()).pack(planes, frames, packed);
        if (file.getParent() != null) Files.createDirectories(file.getParent());
        try (OutputStream out = Files.newOutputStream(file)) {
            out.write(layout.before().toArray());
            out.write(packed);
            out.write(layout.after().toArray());
        }
    }
}
