package ablecrate.codec.mp4;

import ablecrate.codec.FormatException;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormat;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;

/// MPEG-4 files (M4A, MP4): how they know themselves. Read only.
public final class Mp4Format implements SoundFormat {
    static final String ID = "m4a";

    @Override public String id() { return ID; }

    @Override public String name() { return "MPEG-4"; }

    @Override public List<String> extensions() { return List.of("m4a", "mp4", "m4b", "mov", "m4v"); }

    @Override public boolean recognises(byte[] head) {
        return head.length > 12 && new String(head, 4, 4, StandardCharsets.ISO_8859_1).equals("ftyp");
    }

    @Override public SoundFile read(Path path) throws IOException, FormatException { return new Mp4Reader(path).read(); }
}
