package ablecrate.pack;

import ablecrate.disk.SafeFile;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.channels.OverlappingFileLockException;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.BasicFileAttributes;

/// The folder packed into: held by one run at a time, and never left with half a file under a final name.
///
/// A file is written under a temporary name beside its final one, forced to disk, verified, and only then renamed. The lock
/// goes with the process, however it ends; what a killed run left under temporary names the next one removes.
final class PackFolder implements AutoCloseable {
    private static final String LOCK_NAME = ".ablecrate-lock";

    private final Path root, lockFile;
    private final FileChannel channel;
    private final FileLock lock;

    PackFolder(Path root) throws IOException {
        this.root = root.toAbsolutePath().normalize();
        Files.createDirectories(this.root);
        lockFile = this.root.resolve(LOCK_NAME);
        channel = FileChannel.open(lockFile, StandardOpenOption.CREATE, StandardOpenOption.WRITE);
        FileLock taken = null;
        try {
            taken = channel.tryLock();
        } catch (OverlappingFileLockException sameProcess) {
            // Told below, in the same words.
        }
        if (taken == null) {
            channel.close();
            throw new IOException("another run is packing into " + root + "; wait for it, or choose another folder");
        }
        lock = taken;
        sweep();
    }

    /// @throws IOException if the path would lead out of the folder
    Path resolve(String relative) throws IOException {
        Path target = root.resolve(relative).normalize();
        if (!target.startsWith(root) || target.equals(root)) throw new IOException("the name '" + relative + "' leads out of the folder");
        return target;
    }

    private void sweep() throws IOException {
        Files.walkFileTree(root, new SimpleFileVisitor<>() {
            @Override public FileVisitResult visitFile(Path file, BasicFileAttributes attributes) throws IOException {
                if (SafeFile.isPart(file)) Files.deleteIfExists(file);
                return FileVisitResult.CONTINUE;
            }

            @Override public FileVisitResult visitFileFailed(Path file, IOException e) { return FileVisitResult.CONTINUE; }
        });
    }

    @Override public void close() throws IOException {
        lock.release();
        channel.close();
        Files.deleteIfExists(lockFile);
    }
}
