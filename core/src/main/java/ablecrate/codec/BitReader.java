package ablecrate.codec;

/// Reads bits from bytes, the most significant first. Past the end it gives zeros, and says so.
public final class BitReader {
    private final byte[] bytes;
    private final long limit;
    private long position;

    public BitReader(byte[] bytes) {
        this.bytes = bytes;
        limit = 8L * bytes.length;
    }

    /// @param count 0…32
    public int bits(int count) {
        long value = 0;
        int first = (int) Math.min(position >> 3, bytes.length), skipped = (int) (position & 7);
        for (int i = 0; i < 5; i++)
            value = value << 8 | (first + i < bytes.length ? bytes[first + i] & 0xFF : 0);
        position += count;
        return count == 0 ? 0 : (int) (value >>> 40 - skipped - count & (1L << count) - 1);
    }

    /// The same, the first bit as the sign.
    public int signed(int count) { return bits(count) << 32 - count >> 32 - count; }

    public boolean flag() { return bits(1) == 1; }

    public void skip(long count) { position += count; }

    public long position() { return position; }

    public boolean isPastEnd() { return position > limit; }
}
