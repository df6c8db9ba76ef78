package ablecrate.codec.chunk;

import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Arrays;

/// Random access to a file for header reading: small reads come from one block, so that a file of a dozen chunks
/// costs two or three disk reads.
public final class FileBytes implements Closeable {
    private static final int BLOCK = 8192;

    private final FileChannel file;
    private final long size;
    private byte[] block = {};
    private long blockAt;

    public FileBytes(Path path) throws IOException {
        file = FileChannel.open(path, StandardOpenOption.READ);
        size = file.size();
        ReadingBudget.opened(size);
    }

    public long size() { return size; }

    /// @return the bytes `[at, at + count)`, fewer where the file ends before
    /// @throws ReadingBudget.SpentException where more would be read than a look may cost
    public byte[] read(long at, int count) throws IOException {
        int available = Math.clamp(size - at, 0, count);
        ReadingBudget.spend(available);
        if (available > BLOCK / 2) return load(at, available);
        if (at < blockAt || at + available > blockAt + block.length) {
            block = load(at, (int) Math.min(BLOCK, size - at));
            blockAt = at;
        }
        int from = (int) (at - blockAt);
        return Arrays.copyOfRange(block, from, Math.min(from + available, block.length));
    }

    private byte[] load(long at, int count) throws IOException {
        ByteBuffer into = ByteBuffer.allocate(Math.max(0, count));
        while (into.hasRemaining() && file.read(into, at + into.position()) > 0) {}
        return Arrays.copyOf(into.array(), into.position());
    }

    @Override public void close() throws IOException { file.close(); }
}
