package ablecrate.codec.chunk;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicReference;
import java.util.concurrent.atomic.AtomicReferenceArray;
import java.util.function.BiFunction;
import java.util.function.BooleanSupplier;
import java.util.function.Function;
import java.util.stream.IntStream;

/// What looking into one file may cost: bytes read, in proportion to the size of all files that it has opened, and time in which nothing more is read.
/// What a reader keeps in memory comes from bytes it has read, so that the first bounds memory as well. Decoding is not bounded here: its blocks
/// are of one size, and a run that decodes can be stopped.
public final class ReadingBudget {
    /// Bytes that may be read: so many for each byte of the files, and so many more.
    public static final long FOR_EACH_BYTE = 16, IN_ANY_CASE = 64L << 20;
    public static final int SECONDS_WITHOUT_READING = 30;

    private static final ScopedValue<ReadingBudget> CURRENT = ScopedValue.newInstance();
    private static final int ASKED_EVERY_MS = 200;

    private long left = IN_ANY_CASE;
    private volatile long readAt = System.nanoTime();

    private ReadingBudget() {}

    /// More was read than the file can be worth.
    public static final class SpentException extends IOException {
        private static final long serialVersionUID = 1;

        private SpentException() { super("more than " + FOR_EACH_BYTE + " times as much would be read as it holds"); }
    }

    /// Looks into many files at once, each with a budget of its own.
    /// @param stuck what is said of a file of which nothing was read for [#SECONDS_WITHOUT_READING]
    /// @param stopped asked now and then; true leaves the rest
    /// @return in the order of the files; empty for those that were left
    public static <F, T> List<Optional<T>> all(List<F> files, Function<F, T> look, BiFunction<F, IOException, T> stuck, BooleanSupplier stopped) {
        return all(SECONDS_WITHOUT_READING, files, look, stuck, stopped);
    }

    static <F, T> List<Optional<T>> all(int secondsWithoutReading, List<F> files, Function<F, T> look, BiFunction<F, IOException, T> stuck,
            BooleanSupplier stopped) {
        return new Looks<>(secondsWithoutReading, files, look, stuck, stopped).results();
    }

    /// The threads that look; one that is stuck is left alone, and another takes its place.
    private static final class Looks<F, T> {
        private final int secondsWithoutReading;
        private final List<F> files;
        private final Function<F, T> look;
        private final BiFunction<F, IOException, T> stuck;
        private final BooleanSupplier stopped;
        private final AtomicReferenceArray<T> results;
        private final AtomicInteger next = new AtomicInteger();
        private final CountDownLatch remaining;
        private final AtomicReference<Throwable> fault = new AtomicReference<>();
        private final List<Look> looking = new ArrayList<>();

        Looks(int secondsWithoutReading, List<F> files, Function<F, T> look, BiFunction<F, IOException, T> stuck, BooleanSupplier stopped) {
            this.secondsWithoutReading = secondsWithoutReading;
            this.files = files;
            this.look = look;
            this.stuck = stuck;
            this.stopped = stopped;
            results = new AtomicReferenceArray<>(files.size());
            remaining = new CountDownLatch(files.size());
        }

        private final class Look extends Thread {
            private volatile int at = -1;
            private volatile ReadingBudget budget = new ReadingBudget();
            private volatile boolean isGivenUp;

            Look() {
                super("look into files");
                setDaemon(true);
            }

            @Override public void run() {
                for (int file; !isGivenUp && !stopped.getAsBoolean() && (file = next.getAndIncrement()) < files.size();) {
                    F looked = files.get(file);
                    budget = new ReadingBudget();
                    at = file;
                    try {
                        found(file, ScopedValue.where(CURRENT, budget).call(() -> look.apply(looked)));
                    } catch (RuntimeException | Error e) {
                        fault.set(e);
                    }
                    at = -1;
                }
            }

            boolean isStuck() { return at >= 0 && System.nanoTime() - budget.readAt > TimeUnit.SECONDS.toNanos(secondsWithoutReading); }
        }

        private void found(int file, T result) {
            if (results.compareAndSet(file, null, result)) remaining.countDown();
        }

        private void start() {
            Look started = new Look();
            looking.add(started);
            started.start();
        }

        List<Optional<T>> results() {
            for (int i = 0; i < Math.min(Runtime.getRuntime().availableProcessors(), files.size()); i++)
                start();
            try {
                while (!remaining.await(ASKED_EVERY_MS, TimeUnit.MILLISECONDS) && !stopped.getAsBoolean() && fault.get() == null)
                    leaveStuck();
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
            if (fault.get() != null) throw new IllegalStateException(fault.get());
            return IntStream.range(0, files.size()).mapToObj(i -> Optional.ofNullable(results.get(i))).toList();
        }

        private void leaveStuck() {
            for (Look one : List.copyOf(looking)) {
                int file = one.at;
                if (!one.isStuck() || file < 0) continue;
                one.isGivenUp = true;
                // Wakes it where it waits for a disk.
                one.interrupt();
                looking.remove(one);
                found(file, stuck.apply(files.get(file), new IOException("no answer for " + secondsWithoutReading + " s")));
                start();
            }
        }
    }

    /// A file of so many bytes was opened.
    static void opened(long bytes) {
        if (CURRENT.isBound()) CURRENT.get().left += FOR_EACH_BYTE * bytes;
        goesOn();
    }

    /// Something else than bytes came from the disk, as the names in a folder.
    public static void goesOn() {
        if (CURRENT.isBound()) CURRENT.get().readAt = System.nanoTime();
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
