package ablecrate.codec;

import ablecrate.instrument.SoundMetadata;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Path;
import java.util.List;

/// A container of plain samples: all around them is known before the first.
public interface PcmFormat extends WrittenFormat {
    /// Lays out a file; see [WrittenFormat#sink].
    PcmLayout layout(OutputShape shape, SoundMetadata metadata, List<RawChunk> carried);

    @Override default SoundSink sink(OutputShape shape, SoundMetadata metadata, List<RawChunk> carried, OutputStream out, Path spool) throws IOException {
        return new PcmSink(layout(shape, metadata, carried), shape.channels(), out);
    }
}
