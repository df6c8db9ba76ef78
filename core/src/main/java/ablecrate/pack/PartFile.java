package ablecrate.pack;

import ablecrate.disk.Checksums;
import ablecrate.disk.ForcedFile;
import java.io.BufferedOutputStream;
import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Path;

/// A file that is being written, under a temporary name.
final class PartFile implements SoundWriter.Opening {
    private final Path path;
    private Checksums sums;

    PartFile(Path path) { this.path = path; }

    @Override public OutputStream open() throws IOException {
        sums = new Checksums(new BufferedOutputStream(new ForcedAtItsEnd(new ForcedFile(path)), 1 << 16));
        return sums;
    }

    long crc32c() { return sums.crc32c(); }

    String xxh128Hex() { return sums.xxh128Hex(); }

    /// Forces a file to disk when it is closed.
    private static final class ForcedAtItsEnd extends FilterOutputStream {
        private final ForcedFile file;

        ForcedAtItsEnd(ForcedFile file) {
            super(file);
            this.file = file;
        }

        @Override public void write(byte[] bytes, int at, int count) throws IOException { file.write(bytes, at, count); }

        @Override public void close() throws IOException {
            try (file) {
                file.force();
            }
        }
    }
}
