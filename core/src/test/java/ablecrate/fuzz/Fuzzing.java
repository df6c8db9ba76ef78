package ablecrate.fuzz;

import ablecrate.Fixtures;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.atomic.AtomicLong;
import java.util.stream.Stream;

/// Reads spoilt files one after the other, as many at once as there are cores, and collects what goes wrong: anything that is thrown, and what takes
/// too long. Which file a case is follows from its number alone.
final class Fuzzing {
    static final long TOO_LONG_MS = 10_000;

    private final long tooLongMs;
    private final List<Seeds> seeds;
    private final Path folder;
    private final AtomicLong next;
    private final long end;
    private final List<Failure> failures = new ArrayList<>();
    private final Map<String, long[]> counts = new TreeMap<>();
    private volatile boolean isOver;

    /// @param number of the case, by which it can be made again
    record Failure(long number, String name, byte[] file, Throwable fault) {}

    /// @param from,end numbers of cases
    Fuzzing(List<Seeds> seeds, Path folder, long from, long end) { this(seeds, folder, from, end, TOO_LONG_MS); }

    Fuzzing(List<Seeds> seeds, Path folder, long from, long end, long tooLongMs) {
        this.tooLongMs = tooLongMs;
        this.seeds = seeds;
        this.folder = folder;
        this.next = new AtomicLong(from);
        this.end = end;
    }

    private Seeds seed(long number) { return seeds.get(Math.floorMod(number, seeds.size())); }

    private byte[] file(long number) {
        Seeds seed = seed(number);
        return Mutation.of(seed.bytes(), seed.isText(), seeds.stream().map(Seeds::bytes).toList(), number);
    }

    /// One reader's thread, which is left alone where it hangs.
    private final class Reader extends Thread {
        private final Path place;
        private volatile long number = -1, startedAt;
        private volatile boolean isGivenUp;

        Reader(int index) throws IOException {
            super("reader " + index);
            setDaemon(true);
            place = Files.createDirectories(folder.resolve("reader" + index));
            for (String played : List.of("wav_instrument.wav", "wav_cue.wav"))
                Files.copy(Fixtures.path("metadata/" + played), Files.createDirectories(place.resolve("metadata")).resolve(played));
        }

        @Override public void run() {
            for (long n; !isGivenUp && !isOver && (n = next.getAndIncrement()) < end;) {
                Seeds seed = seed(n);
                byte[] file = file(n);
                startedAt = System.currentTimeMillis();
                number = n;
                try {
                    Path path = Files.write(Files.createDirectories(place.resolve("made")).resolve(seed.name()), file);
                    boolean isUsed = seed.reading().read(path);
                    count(seed, isUsed ? 0 : 1);
                } catch (Throwable e) {
                    if (!isGivenUp) failed(n, e);
                }
                number = -1;
            }
        }

        boolean isStuck() { return number >= 0 && System.currentTimeMillis() - startedAt > tooLongMs; }
    }

    private synchronized void count(Seeds seed, int kind) { counts.computeIfAbsent(seed.name(), _ -> new long[2])[kind]++; }

    private synchronized void failed(long number, Throwable fault) { failures.add(new Failure(number, seed(number).name(), file(number), fault)); }

    /// How many files of each seed were used, and how many refused.
    synchronized Map<String, long[]> counts() { return new TreeMap<>(counts); }

    synchronized List<Failure> failures() { return List.copyOf(failures); }

    /// Reads until the last case is done, or it is late.
    Fuzzing run(int readers, long mostMs) throws IOException, InterruptedException {
        long start = System.currentTimeMillis();
        List<Reader> running = new ArrayList<>();
        int started = 0;
        for (; started < readers; started++)
            running.add(started(started));
        while (running.stream().anyMatch(Thread::isAlive)) {
            Thread.sleep(50);
            isOver |= System.currentTimeMillis() - start > mostMs;
            for (Reader reader : List.copyOf(running))
                if (reader.isStuck()) {
                    AssertionError fault = new AssertionError("more than " + tooLongMs / 1000.0 + " s");
                    fault.setStackTrace(reader.getStackTrace());
                    failed(reader.number, fault);
                    reader.isGivenUp = true;
                    reader.interrupt();
                    running.remove(reader);
                    running.add(started(started++));
                }
        }
        return this;
    }

    private Reader started(int index) throws IOException {
        Reader reader = new Reader(index);
        reader.start();
        return reader;
    }

    static void clear(Path folder) throws IOException {
        if (Files.exists(folder)) try (Stream<Path> files = Files.walk(folder)) {
            for (Path file : files.sorted(Comparator.reverseOrder()).toList())
                Files.delete(file);
        }
    }

    /// Goes on for some minutes and says what it found; files that failed are kept.
    /// @param args minutes, and the number of the first case
    public static void main(String[] args) throws Exception {
        Path folder = Path.of(System.getProperty("java.io.tmpdir"), "ablecrate-fuzz"), kept = folder.resolve("failed");
        clear(folder);
        Files.createDirectories(kept);
        long from = args.length > 1 ? Long.parseLong(args[1]) : 1;
        Fuzzing done = new Fuzzing(Seeds.all(), folder, from, Long.MAX_VALUE).run(Runtime.getRuntime().availableProcessors(),
                Math.round(Double.parseDouble(args[0]) * 60_000));
        long used = done.counts().values().stream().mapToLong(c -> c[0]).sum(), refused = done.counts().values().stream().mapToLong(c -> c[1]).sum();
        for (Failure failure : done.failures()) {
            Files.write(kept.resolve(failure.number() + " " + failure.name()), failure.file());
            System.out.println("case " + failure.number() + ", " + failure.name() + ": " + failure.fault());
            for (StackTraceElement line : failure.fault().getStackTrace())
                if (line.getClassName().startsWith("ablecrate")) System.out.println("    " + line);
        }
        System.out.printf("%,d files of %d seeds, from case %,d on: %,d used, %,d refused, %d failed%n", used + refused + done.failures().size(),
                done.seeds.size(), from, used, refused, done.failures().size());
        if (done.failures().isEmpty()) clear(folder);
        System.exit(done.failures().isEmpty() ? 0 : 1);
    }
}
