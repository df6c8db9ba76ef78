package ablecrate.codec.mpeg;

import ablecrate.codec.FormatException;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormat;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;

/// MP3, and layers I and II with it.
public final class Mp3Format implements SoundFormat {
    static final String ID = "mp3";

    @Override public String id() { return ID; }

    @Override public String name() { return "MP3"; }

    @Override public List<String> extensions() { return List.of("mp3", "mp2", "mpga"); }

    @Override public boolean recognises(byte[] head) {
        return head.length > 10 && (head[0] == 'I' && head[1] == 'D' && head[2] == '3' || MpegHeader.read(head, 0, head.length).isPresent());
    }

    @Override public SoundFile read(Path path) throws IOException, FormatException { return new MpegReader(path).read(); }
}
