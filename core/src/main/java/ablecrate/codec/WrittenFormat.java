package ablecrate.codec;

import ablecrate.instrument.SoundMetadata;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Path;
import java.util.List;

/// A container that is written as well.
public interface WrittenFormat extends SoundFormat {
    Capabilities capabilities();

    /// Starts a file. Files are written in one direction: what has to stand before the audio and is known only after it waits in the spool.
    /// @param metadata what it shall say; what the format cannot carry is left out, see [#capabilities]
    /// @param carried chunks of a source of the same format, whose further contents (vendor fields, order) are kept
    /// @param spool a file that the sink may make, and deletes
    SoundSink sink(OutputShape shape, SoundMetadata metadata, List<RawChunk> carried, OutputStream out, Path spool) throws IOException;

    /// A chunk that goes along, for a sound whose first frames are taken off.
    /// @param frames how many, at the source's rate
    default RawChunk later(RawChunk chunk, long frames) { return chunk; }

    /// The largest file that whatever reads the format takes.
    default long plainFileBytes() { return capabilities().maxFileBytes(); }

    /// Whether each file says a number by which a device knows its sound.
    default boolean numbersSounds() { return false; }

    /// What a quality means here, in numbers, for people; empty where nothing is lost.
    default String describe(Quality quality, OutputShape shape) { return ""; }
}
