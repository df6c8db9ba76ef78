package ablecrate.disk;

import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.zip.CRC32C;

/// Checksums of what passes to the disk: SHA-256 for the slip, CRC-32C for the comparison with what the disk gives back, which
/// it does twenty times as fast.
public final class Checksums extends FilterOutputStream {
    /// The virtual machine compiles a method once it was called thousands of times: small pieces reach its fast SHA-256 after
    /// megabytes, large ones only after a gigabyte.
    private static final int PIECE = 2048;

    private final MessageDigest digest = sha256();
    private final CRC32C crc = new CRC32C();

    public Checksums(OutputStream out) { super(out); }

    @Override public void write(int b) throws IOException { write(new byte[]{(byte) b}, 0, 1); }

    @Override public void write(byte[] bytes, int at, int count) throws IOException {
        out.write(bytes, at, count);
        crc.update(bytes, at, count);
        update(digest, bytes, at, count);
    }

    public String sha256Hex() { return HexFormat.of().formatHex(digest.digest()); }

    public long crc32c() { return crc.getValue(); }

    public static String sha256Hex(Path file) throws IOException {
        MessageDigest digest = sha256();
        read(file, (bytes, count) -> update(digest, bytes, 0, count));
        return HexFormat.of().formatHex(digest.digest());
    }

    public static long crc32c(Path file) throws IOException {
        CRC32C crc = new CRC32C();
        read(file, (bytes, count) -> crc.update(bytes, 0, count));
        return crc.getValue();
    }

    private interface Sink {
        void accept(byte[] bytes, int count);
    }

    private static void read(Path file, Sink sink) throws IOException {
        try (InputStream in = Files.newInputStream(file)) {
            byte[] buffer = new byte[1 << 17];
            for (int got; (got = in.read(buffer)) > 0;)
                sink.accept(buffer, got);
        }
    }

    private static void update(MessageDigest digest, byte[] bytes, int at, int count) {
        for (int done = 0; done < count; done += PIECE)
            digest.update(bytes, at + done, Math.min(PIECE, count - done));
    }

    private static MessageDigest sha256() {
        try {
            return MessageDigest.getInstance("SHA-256");
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java platform has SHA-256", e);
        }
    }
}
