package ablecrate.codec;

import java.io.Closeable;
import java.io.IOException;

/// Takes a sound's frames and makes a file of them. One per file; not for two threads.
public interface SoundSink extends Closeable {
    /// @param planes `[channel][frame]`, frames `[0, frames)` are written
    void write(double[][] planes, int frames) throws IOException;

    /// Whether it takes samples that are whole steps of its depth as such: what was rounded once need not be rounded again.
    default boolean takesSteps() { return false; }

    /// As [#write], of whole steps within full scale; only where [#takesSteps].
    default void writeSteps(int[][] steps, int frames) throws IOException { throw new IllegalStateException("it takes numbers alone"); }

    /// Writes what is left. Without it the file is not whole.
    void finish() throws IOException;

    /// Samples that lay beyond full scale so far.
    default long clippedSamples() { return 0; }

    @Override default void close() throws IOException {}
}
