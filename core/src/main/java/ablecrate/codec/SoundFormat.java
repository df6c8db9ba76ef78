package ablecrate.codec;

import java.io.IOException;
import java.nio.file.Path;
import java.util.List;

/// A container of single sounds: recognises itself, reads headers. Stateless, safe for threads.
public interface SoundFormat {
    /// As on the command line and in sheets: `wav`.
    String id();

    /// For people: `WAV`.
    String name();

    /// Lower case, without the dot, the usual one first.
    List<String> extensions();

    /// @param head the first bytes of a file, 16 at least where the file has them
    boolean recognises(byte[] head);

    /// Reads what the file holds, but no audio. Damage that leaves something usable is told in the problems.
    /// @throws FormatException if nothing of the file can be used
    SoundFile read(Path path) throws IOException, FormatException;

    /// What becomes of a chunk of this name when its file is written anew.
    default ChunkRole role(String chunkId) { return ChunkRole.FILLER; }
}
