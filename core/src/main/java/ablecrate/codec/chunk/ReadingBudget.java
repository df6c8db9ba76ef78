package ablecrate.codec.chunk;

import java.io.IOException;
import java.util.Optional;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.FutureTask;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.function.BooleanSupplier;
import java.util.function.Supplier;

/// What looking into one file may cost: bytes read, in proportion to the size of all files that it has opened, and time in which nothing more is read.
/// What a reader keeps in memory comes from bytes it has read, so that the first bounds memory as well. Decoding is not bounded here: its blocks
/// are of one size, and a run that decodes can be stopped.
public final class ReadingBudget {
    /// Bytes that may be read: so many for each byte of the files, and so many more.
    public static final long FOR_EACH_BYTE = 16, IN_ANY_CASE = 64L << 20;
    public static final int SECONDS_WITHOUT_READING = 30;

    private static final ScopedValue<ReadingBudget> CURRENT = ScopedValue.newInstance();
    /// A look that is given up keeps its thread, which therefore is none that anybody waits for.
    private static final ExecutorService LOOKS = Executors.newCachedThreadPool(work -> {
        Thread thread = new Thread(work, "look into a file");
        thread.setDaemon(true);
        return thread;
    });
    private static final int ASKED_EVERY_MS = 200;

    private final int secondsWithoutReading;
    private long left = IN_ANY_CASE;
    private volatile long readAt = System.nanoTime();

    private ReadingBudget(int secondsWithoutReading) { this.secondsWithoutReading = secondsWithoutReading; }

    /// More was read than the file can be worth.
    public static final class SpentException extends IOException {
        private static final long serialVersionUID = 1;

        private SpentException() { super("more than " + FOR_EACH_BYTE + " times as much would be read as it holds"); }
    }

    /// Looks into a file in a thread of its own.
    /// @param stopped asked now and then; true gives the look up
    /// @return empty where it was given up
    /// @throws IOException if nothing was read for [#SECONDS_WITHOUT_READING]
    public static <T> Optional<T> within(Supplier<T> look, BooleanSupplier stopped) throws IOException {
        return within(SECONDS_WITHOUT_READING, look, stopped);
    }

    static <T> Optional<T> within(int secondsWithoutReading, Supplier<T> look, BooleanSupplier stopped) throws IOException {
        ReadingBudget budget = new ReadingBudget(secondsWithoutReading);
        FutureTask<T> task = new FutureTask<>(() -> ScopedValue.where(CURRENT, budget).call(look::get));
        LOOKS.execute(task);
        try {
            while (true)
                try {
                    return Optional.of(task.get(ASKED_EVERY_MS, TimeUnit.MILLISECONDS));
                } catch (TimeoutException e) {
                    if (stopped.getAsBoolean()) return Optional.empty();
                    if (budget.isStuck()) throw new IOException("no answer for " + secondsWithoutReading + " s");
                }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return Optional.empty();
        } catch (ExecutionException e) {
            throw new IllegalStateException(e.getCause());
        } finally {
            // Wakes it where it waits for a disk; does nothing where it is done.
            task.cancel(true);
        }
    }

    private boolean isStuck() { return System.nanoTime() - readAt > TimeUnit.SECONDS.toNanos(secondsWithoutReading); }

    /// A file of so many bytes was opened.
    static void opened(long bytes) {
        if (CURRENT.isBound()) CURRENT.get().left += FOR_EACH_BYTE * bytes;
    }

    /// Bytes of a file are handed to its reader.
    static void spend(int bytes) throws SpentException {
        if (CURRENT.isBound()) CURRENT.get().take(bytes);
    }

    private void take(int bytes) throws SpentException {
        // A read costs more than its bytes: an array, and what is made of it.
        left -= bytes + 16;
        if (left < 0) throw new SpentException();
        readAt = System.nanoTime();
    }
}
