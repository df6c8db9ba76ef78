package ablecrate.pack;

import ablecrate.codec.SoundFile;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.BasicFileAttributes;
import java.nio.file.attribute.FileTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/// Sees whether a source is changed while it is read: what comes of it then may be half old and half new.
final class SourceWatch {
    private record State(Path path, long bytes, FileTime modified) {
        static State of(Path path) throws IOException {
            BasicFileAttributes attributes = Files.readAttributes(path, BasicFileAttributes.class);
            return new State(path, attributes.size(), attributes.lastModifiedTime());
        }
    }

    private final List<State> states = new ArrayList<>();

    /// @throws IOException if its length is not that which its header was read at
    static SourceWatch on(SoundFile source) throws IOException {
        SourceWatch watch = new SourceWatch();
        for (SoundFile file : source.files()) {
            State now = State.of(file.path());
            if (now.bytes() != file.fileBytes())
                throw new IOException(String.format(Locale.ROOT, "%s changed since it was gathered (%,d bytes then, %,d now); gather it again", file.path(),
                        file.fileBytes(), now.bytes()));
            watch.states.add(now);
        }
        return watch;
    }

    /// @throws IOException if it is not as it was when the watch began
    void check() throws IOException {
        for (State state : states)
            if (!State.of(state.path()).equals(state))
                throw new IOException(state.path() + " was changed by somebody while it was read; gather it again and pack once more");
    }
}
