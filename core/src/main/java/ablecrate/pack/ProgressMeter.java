package ablecrate.pack;

import java.time.InstantSource;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.Consumer;

/// Adds up what the workers do and tells it, at most ten times a second and always at the end. Safe for threads.
final class ProgressMeter {
    private static final long EVERY_MS = 100, WARM_UP_MS = 500;

    private final int items;
    private final long work;
    private final Consumer<PackProgress> listener;
    private final InstantSource clock;
    private final long startedMs;
    private final AtomicLong done = new AtomicLong(), toldAtMs = new AtomicLong();
    private final AtomicInteger itemsDone = new AtomicInteger();
    private volatile String current = "";

    /// @param work frames to write in all
    ProgressMeter(int items, long work, Consumer<PackProgress> listener, InstantSource clock) {
        this.items = items;
        this.work = Math.max(1, work);
        this.listener = listener;
        this.clock = clock;
        this.startedMs = clock.millis();
    }

    void working(String name) { current = name; }

    void framesDone(long frames) {
        done.addAndGet(frames);
        long now = clock.millis(), told = toldAtMs.get();
        if (now - told >= EVERY_MS && toldAtMs.compareAndSet(told, now)) tell(now);
    }

    void itemDone() {
        if (itemsDone.incrementAndGet() == items) tell(clock.millis());
    }

    private void tell(long nowMs) {
        double fraction = itemsDone.get() == items ? 1 : Math.min(1, (double) done.get() / work);
        long elapsed = nowMs - startedMs;
        Optional<Double> left = elapsed < WARM_UP_MS || fraction <= 0 ? Optional.empty() : Optional.of(elapsed / 1000.0 * (1 - fraction) / fraction);
        listener.accept(new PackProgress(itemsDone.get(), items, fraction, current, left));
    }
}
