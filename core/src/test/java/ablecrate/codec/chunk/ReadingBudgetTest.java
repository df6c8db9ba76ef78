package ablecrate.codec.chunk;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ablecrate.library.Gathered;
import ablecrate.library.Gatherer;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicLong;
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
        assertThat(ReadingBudget.within(() -> {
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

    @Test void aReaderThatIsStuckIsLeftAlone() {
        CountDownLatch never = new CountDownLatch(1);
        assertThatThrownBy(() -> ReadingBudget.within(1, () -> {
            while (never.getCount() > 0)
                Thread.onSpinWait();
            return 0;
        }, () -> false)).isInstanceOf(IOException.class).hasMessage("no answer for 1 s");
        never.countDown();
    }

    @Test void aStopDoesNotWaitForADiskThatDoesNotAnswer() throws Exception {
        CountDownLatch answer = new CountDownLatch(1);
        assertThat(ReadingBudget.within(() -> {
            try {
                answer.await();
            } catch (InterruptedException e) {
                answer.countDown();
            }
            return 0;
        }, () -> true)).isEmpty();
        answer.await();
    }

    @Test void whatIsNoFileIsNotWaitedFor() {
        Path endless = Path.of("/dev/zero");
        org.junit.jupiter.api.Assumptions.assumeTrue(Files.exists(endless));
        Gathered gathered = Gatherer.read(new Gathered(endless, endless.getFileName(), new Gathered.Content.Unread()));
        assertThat(gathered.content()).isInstanceOfSatisfying(Gathered.Content.Refused.class, r -> assertThat(r.reason()).contains("only files and folders"));
    }
}
