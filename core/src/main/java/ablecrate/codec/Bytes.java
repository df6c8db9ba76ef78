package ablecrate.codec;

import java.util.Arrays;

/// Bytes as a value: immutable, equal by content.
public final class Bytes {
    public static final Bytes NONE = new Bytes(new byte[0]);

    private final byte[] bytes;

    private Bytes(byte[] bytes) { this.bytes = bytes; }

    public static Bytes of(byte... bytes) { return bytes.length == 0 ? NONE : new Bytes(bytes.clone()); }

    public int size() { return bytes.length; }

    public byte[] toArray() { return bytes.clone(); }

    @Override public boolean equals(Object other) { return other instanceof Bytes b && Arrays.equals(bytes, b.bytes); }

    @Override public int hashCode() { return Arrays.hashCode(bytes); }

    @Override public String toString() { return bytes.length + " bytes"; }
}
