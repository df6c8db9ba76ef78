package ablecrate.disk;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;

/// A file is written under a temporary name beside its final one, forced to disk, and renamed in one step.
public final class SafeFile {
    private static final String PREFIX = ".", SUFFIX = ".ablecrate-part";
    /// Bytes of a name that file systems hold.
    private static final int LONGEST_NAME = 255;
    private static final int BUFFER_BYTES = 1 << 16;

    private SafeFile() {}

    /// The temporary name of a file; always the same, so that a later run takes the place of what a killed one left.
    public static Path partOf(Path target) {
        String name = target.getFileName().toString();
        // A name that has no room for more is told by its sum.
        boolean isLong = name.getBytes(StandardCharsets.UTF_8).length > LONGEST_NAME - PREFIX.length() - SUFFIX.length();
        return target.resolveSibling(PREFIX + (isLong ? Integer.toHexString(name.hashCode()) + "-" + name.length() : name) + SUFFIX);
    }

    public static boolean isPart(Path file) {
        String name = file.getFileName().toString();
        return name.startsWith(PREFIX) && name.endsWith(SUFFIX);
    }

    /// Gives a finished temporary file its final name, in place of what had it.
    public static void publish(Path part, Path target) throws IOException {
        Files.move(part, target, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
    }

    /// Writes a small file whole or not at all.
    public static void write(Path target, String text) throws IOException { write(target, text.getBytes(StandardCharsets.UTF_8)); }

    /// Writes a small file whole or not at all.
    public static void write(Path target, byte[] contents) throws IOException { write(target, out -> out.write(contents)); }

    /// What is to stand in a file.
    public interface Contents {
        void writeTo(OutputStream out) throws IOException;
    }

    /// Writes a file whole or not at all.
    public static void write(Path target, Contents contents) throws IOException {
        Path part = partOf(target);
        try {
            try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(part), BUFFER_BYTES)) {
                contents.writeTo(out);
            }
            try (FileChannel file = FileChannel.open(part, StandardOpenOption.WRITE)) {
                file.force(true);
            }
            publish(part, target);
        } catch (IOException e) {
            DiskFault.deleteQuietly(part);
            throw e;
        }
    }
}
