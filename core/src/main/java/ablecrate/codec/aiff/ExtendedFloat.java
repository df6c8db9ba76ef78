package ablecrate.codec.aiff;

import java.nio.ByteBuffer;

/// The 80-bit IEEE 754 extended number that holds the rate: sign and 15-bit exponent (bias 16383), then a 64-bit
/// significand with its leading one written out. Big-endian. 44 100 is `40 0E AC 44 00…`.
///
/// Source: Apple Numerics Manual, 2nd ed. (1988), extended format; used by AIFF 1.3, `COMM`.
final class ExtendedFloat {
    static final int BYTES = 10;

    private ExtendedFloat() {}

    /// @return NaN or an infinity where the bytes say so, or where a double cannot hold the number
    static double read(byte[] bytes) {
        ByteBuffer in = ByteBuffer.wrap(bytes);
        int signAndExponent = in.getShort() & 0xFFFF, exponent = signAndExponent & 0x7FFF;
        long significand = in.getLong();
        if (exponent == 0x7FFF) return significand << 1 == 0 ? Double.POSITIVE_INFINITY : Double.NaN;
        double magnitude = (significand >>> 11) * 0x1p11 + (significand & 0x7FF);
        double value = Math.scalb(magnitude, Math.clamp(exponent - 16383 - 63, -2000, 2000));
        return (signAndExponent & 0x8000) == 0 ? value : -value;
    }

    /// @param value a whole number of at least 1
    static byte[] write(long value) {
        int zeros = Long.numberOfLeadingZeros(value);
        return ByteBuffer.allocate(BYTES).putShort((short) (16383 + 63 - zeros)).putLong(value << zeros).array();
    }
}
