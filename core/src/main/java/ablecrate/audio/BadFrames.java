package ablecrate.audio;

import java.util.List;
import java.util.TreeSet;
import java.util.function.LongConsumer;

/// Collects the frames of a file whose samples are no numbers, each once however often it is read. Safe for threads.
public final class BadFrames implements LongConsumer {
    private static final int MOST = 100_000;

    private final TreeSet<Long> frames = new TreeSet<>();

    @Override public synchronized void accept(long frame) { if (frames.size() < MOST) frames.add(frame); }

    public synchronized int count() { return frames.size(); }

    /// In order; the first hundred thousand.
    public synchronized List<Long> frames() { return List.copyOf(frames); }
}
