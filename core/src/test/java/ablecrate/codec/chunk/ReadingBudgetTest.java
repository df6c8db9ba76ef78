package ablecrate.codec.chunk;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.library.Gathered;
import ablecrate.library.Gatherer;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicLong;
import java.util.concurrent.locks.LockSupport;
import java.util.function.BooleanSupplier;
import java.util.function.Function;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

@Timeout(20) class ReadingBudgetTest {
    private static final int BYTES = 1 << 20;

    @TempDir private Path folder;

    /// Reads a file over and over until it may no longer.
    private long bytesReadOf(int files) throws IOException {
        Path file = Files.write(folder.resolve("file"), new byte[BYTES]);
        AtomicLong read = new AtomicLong();
        assertThat(look(ReadingBudget.SECONDS_WITHOUT_READING, _ -> {
            try {
                for (int opened = 1; opened < files; opened++)
                    new FileBytes(file).close();
                try (FileBytes bytes = new FileBytes(file)) {
                    while (true)
                        read.addAndGet(bytes.read(0, 1000).length);
                }
            } catch (IOException e) {
                return e;
            }
        }, () -> false)).containsInstanceOf(ReadingBudget.SpentException.class);
        return read.get();
    }

    @Test void aReaderThatGoesRoundInCirclesIsEnded() throws Exception {
        long most = ReadingBudget.FOR_EACH_BYTE * BYTES + ReadingBudget.IN_ANY_CASE;
        assertThat(bytesReadOf(1)).isBetween(most * 9 / 10, most);
        assertThat(bytesReadOf(3)).as("the size of each file that is opened counts").isGreaterThan(most + 3L * ReadingBudget.FOR_EACH_BYTE * BYTES / 2);
    }

    private static <T> Optional<T> look(int seconds, Function<Integer, T> look, BooleanSupplier stopped) {
        return ReadingBudget.<Integer, T>all(seconds, List.of(0), look, (_, e) -> {
            throw new IllegalStateException(e);
        }, stopped).getFirst();
    }

    /// Two of twenty never end: the others are looked into all the same, also where there are no more threads than those two.
    @Test void aReaderThatIsStuckIsLeftAlone() {
        AtomicBoolean isOver = new AtomicBoolean();
        List<Optional<String>> found = ReadingBudget.<Integer, String>all(1, IntStream.range(0, 20).boxed().toList(), file -> {
            while (file < 2 && !isOver.get())
                Thread.onSpinWait();
            return "read " + file;
        }, (file, e) -> file + ": " + e.getMessage(), () -> false);
        isOver.set(true);
        assertThat(found).extracting(Optional::orElseThrow).startsWith("0: no answer for 1 s", "1: no answer for 1 s", "read 2").endsWith("read 19");
    }

    /// Slow is not stuck: names of a large folder on a slow disk take longer than a file may be silent.
    @Test void whatGoesOnIsNotLeft() {
        assertThat(look(1, _ -> {
            for (int i = 0; i < 15; i++) {
                LockSupport.parkNanos(100_000_000);
                ReadingBudget.goesOn();
            }
            return "found";
        }, () -> false)).contains("found");
    }

    @Test void aStopDoesNotWaitForADiskThatDoesNotAnswer() throws Exception {
        CountDownLatch answer = new CountDownLatch(1);
        AtomicBoolean isStopped = new AtomicBoolean();
        List<Optional<Integer>> found = ReadingBudget.<Integer, Integer>all(20, List.of(1), file -> {
            isStopped.set(true);
            try {
                answer.await();
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
            return file;
        }, (file, _) -> file, isStopped::get);
        answer.countDown();
        assertThat(found).containsExactly(Optional.empty());
    }

    @Test void whatIsNoFileIsNotWaitedFor() {
        Path endless = Path.of("/dev/zero");
        org.junit.jupiter.api.Assumptions.assumeTrue(Files.exists(endless));
        Gathered gathered = Gatherer.read(new Gathered(endless, endless.getFileName(), new Gathered.Content.Unread()));
        assertThat(gathered.content()).isInstanceOfSatisfying(Gathered.Content.Refused.class, r -> assertThat(r.reason()).contains("only files and folders"));
    }
}
