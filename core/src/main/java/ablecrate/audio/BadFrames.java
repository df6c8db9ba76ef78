package ablecrate.audio;

import java.util.ArrayList;
import java.util.List;
import java.util.TreeSet;
import java.util.function.LongConsumer;

/// Collects the frames of a file whose samples are no numbers or could not be decoded, each once however often it is read. Safe for threads.
public final class BadFrames implements LongConsumer {
    private static final int MOST = 100_000;

    private final TreeSet<Long> frames = new TreeSet<>();

    @Override public synchronized void accept(long frame) { if (frames.size() < MOST) frames.add(frame); }

    public synchronized int count() { return frames.size(); }

    /// Where they lie, in order; of the first hundred thousand.
    public synchronized List<FrameRange> ranges() {
        List<FrameRange> ranges = new ArrayList<>();
        for (long frame : frames)
            if (!ranges.isEmpty() && ranges.getLast().end() == frame)
                ranges.set(ranges.size() - 1, new FrameRange(ranges.getLast().start(), frame + 1));
            else
                ranges.add(new FrameRange(frame, frame + 1));
        return ranges;
    }
}
