package ablecrate.pack;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import ablecrate.disk.Checksums;
import ablecrate.disk.DiskFault;
import ablecrate.disk.SafeFile;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.AccessDeniedException;
import java.nio.file.FileSystemException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;
import java.util.zip.CRC32C;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class ProgressAndFilesTest {
    @TempDir Path folder;

    /// Time that stands still until it is moved.
    private static final class Clock implements InstantSource {
        private long ms;

        @Override public Instant instant() { return Instant.ofEpochMilli(ms); }
    }

    @Test void progressTellsWhatIsLeftOnceItCanKnow() {
        Clock clock = new Clock();
        clock.ms = 1_000_000;
        List<PackProgress> told = new ArrayList<>();
        ProgressMeter meter = new ProgressMeter(4, 1000, told::add, clock);
        meter.working("glass.wav");
        clock.ms += 200;
        meter.framesDone(100);
        assertThat(told.getLast().secondsLeft()).as("too early to tell").isEmpty();
        clock.ms += 9_800;
        meter.framesDone(100);
        PackProgress now = told.getLast();
        assertThat(now.fraction()).isCloseTo(0.2, within(1e-9));
        assertThat(now.secondsLeft().orElseThrow()).as("10 s for a fifth").isCloseTo(40, within(1e-9));
        assertThat(now.current()).isEqualTo("glass.wav");
        for (int i = 0; i < 4; i++)
            meter.itemDone();
        assertThat(told.getLast().fraction()).isEqualTo(1);
    }

    @Test void manySmallStepsAreToldNowAndThen() {
        Clock clock = new Clock();
        List<PackProgress> told = new ArrayList<>();
        ProgressMeter meter = new ProgressMeter(1, 100_000, told::add, clock);
        for (int i = 0; i < 10_000; i++) {
            clock.ms = 1000 + i / 10; // one second in all
            meter.framesDone(10);
        }
        assertThat(told).hasSizeBetween(3, 30);
    }

    @Test void aStoppedRunSaysSoAtTheNextLook() throws Exception {
        StopSignal stop = new StopSignal();
        stop.check();
        stop.stop();
        assertThat(stop.isStopped()).isTrue();
        assertThatThrownBy(stop::check).isInstanceOf(StopSignal.StoppedException.class);
    }

    @Test void aFileIsReplacedWholeAndLeavesNoPart() throws Exception {
        Path file = folder.resolve("job.ablecrate");
        SafeFile.write(file, "one");
        SafeFile.write(file, "two");
        assertThat(file).hasContent("two");
        try (var there = Files.list(folder)) {
            assertThat(there).containsExactly(file);
        }
        assertThat(SafeFile.isPart(SafeFile.partOf(file))).isTrue();
        assertThat(SafeFile.isPart(file)).isFalse();
    }

    /// XXH128 of "abc" as printed by `xxhsum` of xxHash 0.8; RFC 3720, appendix B.4: CRC-32C of 32 zero bytes.
    @Test void checksumsAreTheStandardOnes() throws Exception {
        Checksums out = new Checksums(new ByteArrayOutputStream());
        out.write("abc".getBytes(StandardCharsets.US_ASCII));
        assertThat(out.xxh128Hex()).isEqualTo("06b05ab6733a618578af5f94892f3950");
        Checksums zeros = new Checksums(new ByteArrayOutputStream());
        zeros.write(new byte[32]);
        assertThat(zeros.crc32c()).isEqualTo(0x8A9136AAL);
    }

    @Test void aFilesChecksumIsThatOfWhatWasWritten() throws Exception {
        byte[] bytes = new byte[300_001];
        for (int i = 0; i < bytes.length; i++)
            bytes[i] = (byte) (i * 31);
        Path file = folder.resolve("x");
        Checksums written;
        try (var out = Files.newOutputStream(file)) {
            written = new Checksums(out);
            written.write(bytes, 0, 100_000);
            written.write(bytes[100_000]);
            written.write(bytes, 100_001, 200_000);
        }
        CRC32C plain = new CRC32C();
        plain.update(bytes);
        assertThat(Checksums.crc32c(file)).isEqualTo(written.crc32c()).isEqualTo(plain.getValue());
        assertThat(Checksums.xxh128Hex(file)).isEqualTo(written.xxh128Hex());
        assertThat(file).hasBinaryContent(bytes);
    }

    @Test void theDisksFaultsAreToldInWords() {
        assertThat(DiskFault.text(new NoSuchFileException("a.wav"))).isEqualTo("a.wav is no longer there; gather it again");
        assertThat(DiskFault.text(new AccessDeniedException("a.wav"))).contains("may not be read or written");
        assertThat(DiskFault.text(new FileSystemException("a.wav", null, "Read-only file system"))).contains("the disk says 'Read-only file system'");
        assertThat(DiskFault.text(new IOException("No space left on device"))).startsWith("the disk is full; make room");
    }

    @Test void aSlipOfAnotherProgramIsNoReasonToFail() throws Exception {
        Files.writeString(folder.resolve(Packer.SLIP_JSON), "{ \"items\": 3 }");
        assertThat(PackedBefore.of(folder).isMadeSo("a.wav", "x")).isFalse();
        Files.writeString(folder.resolve(Packer.SLIP_JSON), "not even JSON");
        assertThat(PackedBefore.of(folder).isMadeSo("a.wav", "x")).isFalse();
    }
}
