package ablecrate.codec;

import ablecrate.audio.BlockDecoder;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Optional;

/// What a format needs to know of a compressed stream to decode it; no audio is held.
@JsonTypeInfo(use = JsonTypeInfo.Id.CLASS) public interface CodedAudio {
    /// Opens the stream at its first frame, delay included.
    BlockDecoder open(Path path) throws IOException;

    /// Whether each frame comes out the same, bit for bit, wherever decoding began.
    default boolean isSameFromAnywhere() { return false; }

    /// MD5 of the samples as the file states it: interleaved, little-endian, in whole bytes; empty where it states none.
    default Optional<Bytes> md5() { return Optional.empty(); }
}
