package ablecrate.codec;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;

/// Reads bits from bytes, the most significant first. Past the end it gives zeros, and says so.
public final class BitReader {
    private static final VarHandle LONGS = MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.BIG_ENDIAN);

    /// A long read at any byte holds so many bits from any bit of that byte on.
    private static final int SURE = 57;

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

    /// At least [#SURE] bits, the first of them on top.
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

    /// @param count 1…64, the first bit as the sign
    public long signedLong(int count) {
        return count <= Integer.SIZE ? signed(count) : (long) signed(count - Integer.SIZE) << Integer.SIZE | bits(Integer.SIZE) & 0xFFFF_FFFFL;
    }

    /// How many zeros stand before the next one, which is passed over as well.
    public int unary() {
        for (int count = 0;;) {
            int zeros = Long.numberOfLeadingZeros(ahead());
            if (zeros < SURE) {
                position += zeros + 1;
                return count + zeros;
            }
            position += SURE;
            count += SURE;
            if (isPastEnd()) return count;
        }
    }

    /// A number in Rice's code: how often the divisor fits in unary, and the rest.
    /// @param restBits 0…31
    public long rice(int restBits) {
        long ahead = ahead();
        int zeros = Long.numberOfLeadingZeros(ahead);
        if (zeros + 1 + restBits > SURE) return (long) unary() << restBits | bits(restBits) & 0xFFFF_FFFFL;
        position += zeros + 1 + restBits;
        return (long) zeros << restBits | ahead << zeros + 1 >>> 1 >>> Long.SIZE - 1 - restBits;
    }

    /// Numbers in Rice's code whose signs are folded into their lowest bits: 0, −1, 1, −2 …
    /// @param into receives them in `[from, to)`
    public void foldedRice(int restBits, long[] into, int from, int to) {
        long whole = limit - Long.SIZE, at = position;
        for (int i = from; i < to; i++) {
            long folded, ahead = at <= whole ? (long) LONGS.get(bytes, (int) (at >> 3)) << (at & 7) : 0;
            int zeros = Long.numberOfLeadingZeros(ahead);
            if (zeros + 1 + restBits > SURE) {
                position = at;
                folded = rice(restBits);
                at = position;
            } else {
                folded = (long) zeros << restBits | ahead << zeros + 1 >>> 1 >>> Long.SIZE - 1 - restBits;
                at += zeros + 1 + restBits;
            }
            into[i] = folded >>> 1 ^ -(folded & 1);
        }
        position = at;
    }

    public boolean flag() { return bits(1) == 1; }

    public void skip(long count) { position += count; }

    public long position() { return position; }

    public boolean isPastEnd() { return position > limit; }
}
