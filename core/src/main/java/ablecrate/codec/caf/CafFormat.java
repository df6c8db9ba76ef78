package ablecrate.codec.caf;

import ablecrate.codec.ChunkRole;
import ablecrate.codec.FormatException;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormat;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;

/// CAF: how it knows itself. Read only.
public final class CafFormat implements SoundFormat {
    static final String ID = "caf";

    @Override public String id() { return ID; }

    @Override public String name() { return "CAF"; }

    @Override public List<String> extensions() { return List.of("caf"); }

    @Override public boolean recognises(byte[] head) { return head.length > 8 && head[0] == 'c' && head[1] == 'a' && head[2] == 'f' && head[3] == 'f'; }

    @Override public ChunkRole role(String chunkId) {
        return ChunkRole.of(chunkId, Set.of("desc", "data", "free", "pakt", "kuki", "chan"), Set.of("info"), Set.of());
    }

    @Override public SoundFile read(Path path) throws IOException, FormatException { return new CafReader(path).read(); }
}
