package ablecrate.audio;

import java.io.Closeable;
import java.io.IOException;

/// Decodes a compressed stream, piece by piece. What cannot be decoded comes out as silence of its length, so that all else stays in its place.
/// One per stream; not for two threads.
public interface BlockDecoder extends Closeable {
    /// Decodes the next piece into [#block].
    /// @return its frames; 0 only at the end
    int next() throws IOException;

    /// The latest piece, `[channel][frame]`; good until the next call.
    double[][] block();

    /// Whether the latest piece is silent because it could not be decoded, and only now that was found.
    default boolean isLost() { return false; }

    /// Goes to a piece from which on this frame comes out right. Frames are counted from the first that the decoder gives, delay included.
    /// @return the frame that the next piece starts with, this one or an earlier one
    long seek(long frame) throws IOException;

    @Override default void close() throws IOException {}
}
