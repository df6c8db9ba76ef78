package ablecrate.disk;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Random;
import java.util.zip.CRC32C;
import org.junit.jupiter.api.Assumptions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// What was written is there, whole, however much of it was forced on the way.
class ForcedFileTest {
    @TempDir Path folder;

    @Test void aLargeFileArrivesWhole() throws Exception {
        Path path = Files.writeString(folder.resolve("long.wav"), "what was there before");
        Random random = new Random(9);
        CRC32C wanted = new CRC32C();
        long bytes = 0;
        try (ForcedFile file = new ForcedFile(path)) {
            for (int n = 0; n < 1500; n++) {
                byte[] chunk = new byte[1 + random.nextInt(120_000)];
                random.nextBytes(chunk);
                int at = random.nextInt(chunk.length);
                file.write(chunk, at, chunk.length - at);
                wanted.update(chunk, at, chunk.length - at);
                file.write(n);
                wanted.update(n);
                bytes += chunk.length - at + 1;
            }
            file.force();
            assertThat(Files.size(path)).as("more than is forced at once in between").isEqualTo(bytes).isGreaterThan(33 << 20);
        }
        assertThat(Checksums.crc32c(path)).isEqualTo(wanted.getValue());
    }

    @Test void anEmptyFileTakesThePlaceOfWhatWasThere() throws Exception {
        Path path = Files.writeString(folder.resolve("a"), "before");
        try (ForcedFile file = new ForcedFile(path)) {
            file.force();
        }
        assertThat(path).isEmptyFile();
    }

    /// A device that is always full.
    @Test void aFullDiskIsTold() {
        Path full = Path.of("/dev/full");
        Assumptions.assumeTrue(Files.exists(full));
        assertThatThrownBy(() -> {
            try (ForcedFile file = new ForcedFile(full)) {
                file.write(new byte[4096]);
                file.force();
            }
        }).isInstanceOf(IOException.class).hasMessageContaining("No space");
    }
}
