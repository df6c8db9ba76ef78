package ablecrate.fuzz;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ablecrate.Fixtures;
import ablecrate.json.Json;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// Spoilt files are read or refused with a message, never a fault of the program, never in more than ten seconds, never with much memory (the heap of the
/// tests is small). `benchmarks/run fuzz` goes on for as long as one likes.
class FuzzTest {
    private static final long CASES = 4000;

    @TempDir private Path folder;

    @Test void spoiltFilesAreReadOrRefused() throws Exception {
        Fuzzing done = new Fuzzing(Seeds.all(), folder, 1, 1 + CASES).run(Runtime.getRuntime().availableProcessors(), Long.MAX_VALUE);
        assertThat(done.failures()).as("faults").extracting(f -> f.number() + " " + f.name() + ": " + f.fault()).isEmpty();
        assertThat(done.counts().values().stream().mapToLong(c -> c[0] + c[1]).sum()).isEqualTo(CASES);
        assertThat(done.counts().values().stream().mapToLong(c -> c[0]).sum()).as("much damage is survived").isGreaterThan(CASES / 3);
    }

    @Test void whatIsThrownAndWhatDoesNotEndIsFound() throws Exception {
        Seeds deep = new Seeds("deep", new byte[10], _ -> {
            throw new StackOverflowError();
        }), slow = new Seeds("slow", new byte[10], _ -> {
            Thread.sleep(60_000);
            return true;
        }), good = new Seeds("good", new byte[10], Files::exists);
        Fuzzing done = new Fuzzing(List.of(deep, slow, good), folder, 0, 3, 300).run(2, Long.MAX_VALUE);
        assertThat(done.failures()).extracting(Fuzzing.Failure::name).containsExactlyInAnyOrder("deep", "slow");
        assertThat(done.counts()).containsOnlyKeys("good");
    }

    /// Cases that once failed: text that is no UTF-8, notes that end too soon, tuning at its bound with a loop that needs more,
    /// packets of AAC without a channel, samples of no bits.
    @Test void whatOnceFailedIsReadOrRefused() throws Exception {
        Path sheet = Files.write(folder.resolve("sheet.json"), new byte[]{'{', (byte) 0xC3, '}'});
        assertThat(Reading.SHEET.read(sheet)).isFalse();
        assertThatThrownBy(() -> Json.text(sheet)).isInstanceOf(Json.JsonFault.class).hasMessageContaining("no text in UTF-8");
        Path notes = Files.write(folder.resolve("notes.mid"), Arrays.copyOf(Files.readAllBytes(Fixtures.path("malformed/midi_named.wav")), 20));
        assertThat(Reading.LIBRARY.read(notes)).isFalse();
        assertThat(Reading.LIBRARY.read(Fixtures.path("made/fuzz/no_channels.m4a"))).isFalse();
        byte[] caf = Files.readAllBytes(Fixtures.path("lossless/x44_caf_pcm24.caf"));
        int bits = new String(caf, StandardCharsets.ISO_8859_1).indexOf("desc") + 12 + 28 + 3;
        assertThat(caf[bits]).isEqualTo((byte) 24);
        caf[bits] = 0;
        assertThat(Reading.LIBRARY.read(Files.write(folder.resolve("no bits.caf"), caf))).isFalse();
        Files.copy(Fixtures.path("metadata/wav_instrument.wav"), folder.resolve("reed.wav"));
        Path low = Files.writeString(folder.resolve("low.sfz"),
                "<region> sample=reed.wav transpose=-127 loop_mode=loop_continuous loop_start=100 loop_end=777");
        assertThat(Reading.LIBRARY.read(low)).isTrue();
    }

    @Test void theSameCaseIsTheSameFile() throws Exception {
        List<byte[]> others = List.of(new byte[100]);
        byte[] whole = "RIFF....WAVEfmt ................data....".repeat(20).getBytes(StandardCharsets.US_ASCII);
        for (long seed = 0; seed < 50; seed++)
            assertThat(Mutation.of(whole, false, others, seed)).isEqualTo(Mutation.of(whole, false, others, seed));
        assertThat(LongStream.range(0, 50).filter(s -> !Arrays.equals(Mutation.of(whole, false, others, s), whole)).count()).isGreaterThan(40);
    }
}
