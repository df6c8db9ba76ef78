package ablecrate.codec;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;
import java.util.Arrays;

/// Puts bits together to bytes, the most significant first.
public final class BitWriter {
    private static final VarHandle INTS = MethodHandles.byteArrayViewVarHandle(int[].class, ByteOrder.BIG_ENDIAN);

    private byte[] bytes = new byte[1 << 14];
    private int at;
    /// Bits that make no whole word yet, fewer than 32 of them.
    private long held;
    private int heldBits;

    /// @param value its lowest bits are written
    /// @param count 0…32
    public void bits(long value, int count) {
        held = held << count | value & (1L << count) - 1;
        heldBits += count;
        if (heldBits < Integer.SIZE) return;
        heldBits -= Integer.SIZE;
        if (at + Integer.BYTES > bytes.length) bytes = Arrays.copyOf(bytes, 2 * bytes.length);
        INTS.set(bytes, at, (int) (held >>> heldBits));
        at += Integer.BYTES;
    }

    /// A number in Rice's code, see [BitReader#rice].
    /// @param value from 0 on
    /// @param restBits 0…30
    public void rice(long value, int restBits) {
        long zeros = value >>> restBits;
        for (; zeros + 1 + restBits > Integer.SIZE; zeros--)
            bits(0, 1);
        bits(1L << restBits | value & (1L << restBits) - 1, (int) zeros + 1 + restBits);
    }

    /// Zeros up to the next whole byte.
    private void align() { bits(0, -heldBits & 7); }

    private int wholeBytes() { return at + heldBits / 8; }

    /// What was written; the last byte is filled up with zeros.
    public byte[] toArray() {
        align();
        byte[] out = Arrays.copyOf(bytes, wholeBytes());
        for (int i = at; i < out.length; i++)
            out[i] = (byte) (held >>> heldBits - 8 * (i - at + 1));
        return out;
    }
}
