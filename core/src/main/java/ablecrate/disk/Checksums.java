package ablecrate.disk;

import com.dynatrace.hash4j.hashing.HashStream128;
import com.dynatrace.hash4j.hashing.HashValue128;
import com.dynatrace.hash4j.hashing.Hashing;
import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HexFormat;
import java.util.function.BooleanSupplier;
import java.util.zip.CRC32C;

/// Checksums of what passes to the disk: XXH128 for the slip and for knowing files by their content, CRC-32C for the comparison with what the disk gives back.
/// Both find damage and mix-ups, no forgery: who can change a file can change the slip beside it.
public final class Checksums extends FilterOutputStream {
    private final HashStream128 hash = Hashing.xxh3_128().hashStream();
    private final CRC32C crc = new CRC32C();

    public Checksums(OutputStream out) { super(out); }

    @Override public void write(int b) throws IOException { write(new byte[]{(byte) b}, 0, 1); }

    @Override public void write(byte[] bytes, int at, int count) throws IOException {
        out.write(bytes, at, count);
        crc.update(bytes, at, count);
        hash.putBytes(bytes, at, count);
    }

    /// XXH128 of what was written, 32 hexadecimal digits, as `xxhsum -H2` prints it.
    public String xxh128Hex() { return hex(hash.get()); }

    public long crc32c() { return crc.getValue(); }

    public static String xxh128Hex(Path file) throws IOException {
        HashStream128 hash = Hashing.xxh3_128().hashStream();
        read(file, (bytes, count) -> hash.putBytes(bytes, 0, count), () -> false);
        return hex(hash.get());
    }

    public static long crc32c(Path file) throws IOException { return crc32c(file, () -> false); }

    /// @param stopped asked now and then; true ends it, with a sum of no use
    public static long crc32c(Path file, BooleanSupplier stopped) throws IOException {
        CRC32C crc = new CRC32C();
        read(file, (bytes, count) -> crc.update(bytes, 0, count), stopped);
        return crc.getValue();
    }

    private interface Sink {
        void accept(byte[] bytes, int count);
    }

    private static void read(Path file, Sink sink, BooleanSupplier stopped) throws IOException {
        try (InputStream in = Files.newInputStream(file)) {
            byte[] buffer = new byte[1 << 17];
            for (int got; (got = in.read(buffer)) > 0 && !stopped.getAsBoolean();)
                sink.accept(buffer, got);
        }
    }

    private static String hex(HashValue128 value) {
        HexFormat digits = HexFormat.of();
        return digits.toHexDigits(value.getMostSignificantBits()) + digits.toHexDigits(value.getLeastSignificantBits());
    }
}
