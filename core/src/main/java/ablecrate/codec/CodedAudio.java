package ablecrate.codec;

import ablecrate.audio.BlockDecoder;
import java.io.IOException;
import java.nio.file.Path;

/// What a format needs to know of a compressed stream to decode it; no audio is held.
public interface CodedAudio {
    /// Opens the stream at its first frame, delay included.
    BlockDecoder open(Path path) throws IOException;
}
