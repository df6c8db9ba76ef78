package ablecrate.codec;

import java.io.InputStream;

/// Gives a decoder that reads from a stream one piece at a time, and the end between them.
public final class PieceStream extends InputStream {
    private byte[] bytes = {};
    private int at;

    /// The next piece; what was left of the one before is gone.
    public void take(byte[] piece) {
        bytes = piece;
        at = 0;
    }

    @Override public int read() { return at < bytes.length ? bytes[at++] & 0xFF : -1; }

    @Override public int read(byte[] into, int offset, int count) {
        if (at == bytes.length) return -1;
        int n = Math.min(count, bytes.length - at);
        System.arraycopy(bytes, at, into, offset, n);
        at += n;
        return n;
    }

    @Override public int available() { return bytes.length - at; }
}
