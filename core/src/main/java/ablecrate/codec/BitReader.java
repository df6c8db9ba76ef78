package ablecrate.codec;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;

/// Reads bits from bytes, the most significant first. Past the end it gives zeros, and says so.
public final class BitReader {
    private static final VarHandle LONGS = MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.BIG_ENDIAN);

    private final byte[] bytes;
    private final long limit;
    private long position;

    public BitReader(byte[] bytes) {
        this.bytes = bytes;
        limit = 8L * bytes.length;
    }

    /// @param count 0…32
    public int bits(int count) {
        int value = peek(count);
        position += count;
        return value;
    }

    /// The same, and stays where it is.
    public int peek(int count) {
        // Of a count of 0 nothing is left, for which there is no single shift.
        return (int) (ahead() >>> 1 >>> Long.SIZE - 1 - count);
    }

    /// At least 57 bits, the first of them on top.
    private long ahead() {
        int first = (int) Math.min(position >> 3, bytes.length), used = (int) (position & 7);
        if (first + Long.BYTES <= bytes.length) return (long) LONGS.get(bytes, first) << used;
        long value = 0;
        for (int i = 0; i < Long.BYTES; i++)
            value = value << 8 | (first + i < bytes.length ? bytes[first + i] & 0xFF : 0);
        return value << used;
    }

    /// The same, the first bit as the sign.
    public int signed(int count) { return bits(count) << 32 - count >> 32 - count; }

    public boolean flag() { return bits(1) == 1; }

    public void skip(long count) { position += count; }

    public long position() { return position; }

    public boolean isPastEnd() { return position > limit; }
}
