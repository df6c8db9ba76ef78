package ablecrate.pack;

import ablecrate.disk.DiskFault;
import ablecrate.disk.SafeFile;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.channels.OverlappingFileLockException;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.ThreadLocalRandom;

/// The folder packed into: held by one run at a time, with all that lies below it, and never left with half a file under a final name.
///
/// A file is written under a temporary name beside its final one, forced to disk, verified, and only then renamed. The lock
/// goes with the process, however it ends; what a killed run left under temporary names the next one removes.
///
/// The lock is a file that is locked, and whose length its holder chose. It is taken away at the end; who waited for it then holds a lock on a file that is no
/// longer there, sees that the file of that name has another length, and tries again. So there are never two holders. It must not be opened to see that: the
/// locks of POSIX go when a process closes the file, whichever time it had opened it.
final class PackFolder implements AutoCloseable {
    private static final String LOCK_NAME = ".ablecrate-lock";
    private static final int TRIES = 20;

    private final Path root, lockFile;
    private final FileChannel channel;
    private final FileLock lock;
    /// Folders below it that were not there before.
    private final Set<Path> made = new TreeSet<>();

    PackFolder(Path root) throws IOException {
        this.root = root.toAbsolutePath().normalize();
        Files.createDirectories(this.root);
        lockFile = this.root.resolve(LOCK_NAME);
        Held held = take(lockFile, this.root);
        channel = held.channel();
        lock = held.lock();
        try {
            // Taken first, looked about then: of two runs that start above and below each other at once, one sees the other at least.
            for (Path above = this.root.getParent(); above != null; above = above.getParent())
                if (isHeld(above.resolve(LOCK_NAME))) throw taken(above);
            sweep();
        } catch (IOException e) {
            close();
            throw e;
        }
    }

    private record Held(FileChannel channel, FileLock lock) {}

    private static IOException taken(Path folder) {
        return new IOException("another run is packing into " + folder + "; wait for it, or choose another folder");
    }

    private static Held take(Path file, Path root) throws IOException {
        int length = 1 + ThreadLocalRandom.current().nextInt(1 << 20);
        for (int tries = 0; tries < TRIES; tries++) {
            FileChannel channel = FileChannel.open(file, StandardOpenOption.CREATE, StandardOpenOption.WRITE);
            FileLock lock;
            try {
                lock = channel.tryLock();
            } catch (OverlappingFileLockException sameProcess) {
                lock = null;
            }
            if (lock == null) {
                channel.close();
                throw taken(root);
            }
            channel.truncate(0);
            channel.write(ByteBuffer.wrap(new byte[1]), length - 1);
            if (hasLength(file, length)) return new Held(channel, lock);
            lock.release();
            channel.close();
        }
        throw taken(root);
    }

    private static boolean hasLength(Path file, long length) throws IOException {
        try {
            return Files.size(file) == length;
        } catch (NoSuchFileException e) {
            return false;
        }
    }

    private static boolean isHeld(Path file) {
        if (!Files.exists(file)) return false;
        try (FileChannel other = FileChannel.open(file, StandardOpenOption.WRITE); FileLock free = other.tryLock()) {
            return free == null;
        } catch (OverlappingFileLockException sameProcess) {
            return true;
        } catch (IOException e) {
            // One that may not be opened belongs to somebody else.
            return false;
        }
    }

    /// @throws IOException if the path would lead out of the folder
    Path resolve(String relative) throws IOException {
        Path target = root.resolve(relative).normalize();
        if (!target.startsWith(root) || target.equals(root)) throw new IOException("the name '" + relative + "' leads out of the folder");
        return target;
    }

    /// Whether it is still there; a card may be taken out, and what is made then would lie on another disk.
    boolean isThere() { return Files.exists(lockFile); }

    /// @throws IOException if it is not there any more
    void requireThere() throws IOException {
        if (!isThere()) throw new IOException(gone());
    }

    String gone() { return root + " was taken away while it was packed into; put it back and pack again"; }

    /// A folder for a result, and all above it. Those in which nothing comes to lie are taken away at the end.
    synchronized void make(Path place) throws IOException {
        requireThere();
        for (Path missing = place; missing != null && !Files.exists(missing); missing = missing.getParent())
            made.add(missing);
        Files.createDirectories(place);
    }

    /// @throws IOException if another run is packing into a folder below

    private void sweep() throws IOException {
        Files.walkFileTree(root, new SimpleFileVisitor<>() {
            @Override public FileVisitResult preVisitDirectory(Path folder, BasicFileAttributes attributes) throws IOException {
                if (!folder.equals(root) && isHeld(folder.resolve(LOCK_NAME))) throw taken(folder);
                return FileVisitResult.CONTINUE;
            }

            @Override public FileVisitResult visitFile(Path file, BasicFileAttributes attributes) throws IOException {
                if (attributes.isRegularFile() && SafeFile.isPart(file)) Files.deleteIfExists(file);
                return FileVisitResult.CONTINUE;
            }

            @Override public FileVisitResult visitFileFailed(Path file, IOException e) { return FileVisitResult.CONTINUE; }
        });
    }

    @Override public synchronized void close() throws IOException {
        // What is not empty stays.
        List.copyOf(made).reversed().forEach(DiskFault::deleteQuietly);
        // Away before it is free: nobody can take it in between.
        try (channel) {
            Files.deleteIfExists(lockFile);
            lock.release();
        }
    }
}
