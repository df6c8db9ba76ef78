package ablecrate.codec;

import ablecrate.instrument.SoundFacts;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Path;
import java.util.List;

/// A container of plain samples: all around them is known before the first.
public interface PcmFormat extends WrittenFormat {
    /// Lays out a file; see [WrittenFormat#sink].
    PcmLayout layout(OutputShape shape, SoundFacts facts, List<RawChunk> carried);

    @Override default SoundSink sink(OutputShape shape, SoundFacts facts, List<RawChunk> carried, OutputStream out, Path spool) throws IOException {
        return new PcmSink(layout(shape, facts, carried), shape.channels(), out);
    }
}
