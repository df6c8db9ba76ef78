package ablecrate.codec.chunk;

import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Arrays;

/// A stretch of a file in memory that moves along, for streams whose pieces have to be looked for.
public final class FileWindow implements Closeable {
    private static final int STEP = 1 << 18;

    private final FileChannel file;
    private final long end;
    private byte[] bytes = new byte[STEP];
    private long from;
    private int held;

    public FileWindow(Path path) throws IOException {
        file = FileChannel.open(path, StandardOpenOption.READ);
        end = file.size();
        ReadingBudget.opened(end);
    }

    public long end() { return end; }

    /// Makes bytes of the file be there, as far as the file goes.
    /// @return the index of byte `at` in [#bytes]
    public int reach(long at, int count) throws IOException {
        if (at >= from && (at + count <= from + held || from + held == end && at <= end)) return (int) (at - from);
        int kept = at >= from && at < from + held ? (int) (from + held - at) : 0, wanted = (int) Math.min(Math.max(STEP, count), end - at);
        ReadingBudget.spend(wanted - kept);
        byte[] next = wanted <= bytes.length ? bytes : new byte[wanted];
        System.arraycopy(bytes, held - kept, next, 0, kept);
        bytes = next;
        from = at;
        held = kept;
        for (ByteBuffer into = ByteBuffer.wrap(bytes, held, Math.max(0, wanted - held)); into.hasRemaining();) {
            int got = file.read(into, from + held);
            if (got < 0) break;
            held += got;
        }
        return 0;
    }

    /// What is in memory; good until the next [#reach].
    public byte[] bytes() { return bytes; }

    /// How many bytes are there from `at` on, of those that [#reach] was asked for.
    public int held(long at) { return (int) (from + held - at); }

    public byte[] copy(long at, int count) throws IOException {
        int index = reach(at, count);
        return Arrays.copyOfRange(bytes, index, index + Math.min(count, held(at)));
    }

    @Override public void close() throws IOException { file.close(); }
}
