package ablecrate.codec.ogg;

import ablecrate.codec.FormatException;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormat;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;

/// Ogg with Vorbis: how it knows itself. Read only.
public final class OggFormat implements SoundFormat {
    static final String ID = "ogg";

    @Override public String id() { return ID; }

    @Override public String name() { return "Ogg Vorbis"; }

    @Override public List<String> extensions() { return List.of("ogg", "oga"); }

    @Override public boolean recognises(byte[] head) { return isOgg(head) && !holdsOpus(head); }

    static boolean isOgg(byte[] head) { return head.length > 4 && head[0] == 'O' && head[1] == 'g' && head[2] == 'g' && head[3] == 'S'; }

    static boolean holdsOpus(byte[] head) { return new String(head, StandardCharsets.ISO_8859_1).contains("OpusHead"); }

    @Override public SoundFile read(Path path) throws IOException, FormatException { return new OggReader(path).read(); }
}
