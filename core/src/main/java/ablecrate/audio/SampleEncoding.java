package ablecrate.audio;

import java.nio.ByteOrder;

/// How one sample is stored in a file: kind, size, and the bits in use.
///
/// Integers are left-justified in their container: a 20-bit sample in 3 bytes has 4 zero bits below it.
/// @param containerBytes 1…4 for integers, 4 or 8 for floats
/// @param validBits bits that may carry signal, at most `8 * containerBytes`
public record SampleEncoding(Kind kind, int containerBytes, int validBits, ByteOrder order) {
    /// Whether numbers are two's complement, offset binary (8-bit WAV) or IEEE 754.
    public enum Kind { SIGNED, UNSIGNED, FLOAT }

    public SampleEncoding {
        boolean sizeExists = kind == Kind.FLOAT
                ? containerBytes == 4 || containerBytes == 8
                : containerBytes >= 1 && containerBytes <= 4;
        if (!sizeExists || validBits < 1 || validBits > 8 * containerBytes)
            throw new IllegalArgumentException(kind + " samples of " + validBits + " bits in " + containerBytes + " bytes");
    }

    public boolean isFloat() { return kind == Kind.FLOAT; }

    public int containerBits() { return 8 * containerBytes; }

    /// The depth a destination would have to offer to hold these samples unchanged.
    public Depth depth() {
        if (isFloat()) return containerBytes == 4 ? Depth.FLOAT_32 : Depth.FLOAT_64;
        return Depth.integer(containerBytes == 2 && validBits == Depth.INT_12.bits() ? validBits : containerBits());
    }
}
