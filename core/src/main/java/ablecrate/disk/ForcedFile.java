package ablecrate.disk;

import java.io.IOException;
import java.io.InterruptedIOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.concurrent.ForkJoinPool;

/// A new file that is forced to disk. A large one is on its way there while it is still being written, so that little is left to wait for at its end.
/// One thread writes.
public final class ForcedFile extends OutputStream {
    /// Small enough for a slow disk, large enough for a small file to be forced once.
    private static final long STRETCH = 32 << 20;

    private final FileChannel file;
    private long written;
    private Thread forcing;
    /// Of forcing in between: what is not on the disk then is told at the end.
    private volatile IOException fault;

    /// In place of a file that is there.
    public ForcedFile(Path path) throws IOException {
        file = FileChannel.open(path, StandardOpenOption.CREATE, StandardOpenOption.TRUNCATE_EXISTING, StandardOpenOption.WRITE);
    }

    @Override public void write(int b) throws IOException { write(new byte[]{(byte) b}, 0, 1); }

    @Override public void write(byte[] bytes, int at, int count) throws IOException {
        ByteBuffer left = ByteBuffer.wrap(bytes, at, count);
        while (left.hasRemaining())
            file.write(left);
        written += count;
        if (written < STRETCH || forcing != null && forcing.isAlive()) return;
        written = 0;
        forcing = Thread.ofPlatform().daemon().name("forcing to disk").start(() -> force(false));
    }

    /// @param withMetadata the file's length among them
    private void force(boolean withMetadata) {
        try {
            file.force(withMetadata);
        } catch (IOException e) {
            fault = e;
        }
    }

    /// Waits until all that was written is on the disk. A pool whose worker waits has another go on meanwhile.
    public void force() throws IOException {
        join();
        if (fault == null)
            try {
                ForkJoinPool.managedBlock(new Forcing());
            } catch (InterruptedException e) {
                throw interrupted();
            }
        if (fault != null) throw fault;
    }

    private final class Forcing implements ForkJoinPool.ManagedBlocker {
        private boolean isDone;

        @Override public boolean block() {
            force(true);
            isDone = true;
            return true;
        }

        @Override public boolean isReleasable() { return isDone; }
    }

    private void join() throws IOException {
        if (forcing == null) return;
        try {
            forcing.join();
        } catch (InterruptedException e) {
            throw interrupted();
        }
    }

    private static IOException interrupted() {
        Thread.currentThread().interrupt();
        return new InterruptedIOException("interrupted");
    }

    @Override public void close() throws IOException {
        try {
            join();
        } finally {
            file.close();
        }
    }
}
