package ablecrate.audio;

import java.util.Optional;
import java.util.stream.Stream;

/// Bit depths that files are written in, from coarse to fine.
public enum Depth {
    INT_8("8", 8), INT_12("12", 12), INT_16("16", 16), INT_24("24", 24), INT_32("32", 32), FLOAT_32("32f", 32), FLOAT_64("64f", 64);

    private final String id;
    private final int bits;

    Depth(String id, int bits) {
        this.id = id;
        this.bits = bits;
    }

    /// As written on the command line, in sheets and in JSON: `16`, `32f`.
    public String id() { return id; }

    public int bits() { return bits; }

    /// Bytes that a sample takes in a file; 12 bits lie in words of 16.
    public int bytes() { return Math.ceilDiv(bits, 8); }

    public boolean isFloat() { return this == FLOAT_32 || this == FLOAT_64; }

    /// For people: `16 bit`, `32 bit float`.
    public String label() { return bits + (isFloat() ? " bit float" : " bit"); }

    /// Bits of resolution at full scale: what an integer of the same exactness would need.
    public int resolutionBits() {
        return switch (this) {
            case FLOAT_32 -> 25; // 24-bit significand and a sign
            case FLOAT_64 -> 54;
            default -> bits;
        };
    }

    public static Depth integer(int bits) {
        return switch (bits) {
            case 8 -> INT_8;
            case 12 -> INT_12;
            case 16 -> INT_16;
            case 24 -> INT_24;
            case 32 -> INT_32;
            default -> throw new IllegalArgumentException("no integer depth of " + bits + " bits");
        };
    }

    public static Optional<Depth> byId(String id) { return Stream.of(values()).filter(d -> d.id.equals(id)).findFirst(); }
}
