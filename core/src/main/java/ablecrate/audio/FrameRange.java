package ablecrate.audio;

import java.util.Locale;

/// Frames `[start, end)` of one sound: `start` is played, `end` is not. Frames, never samples or bytes.
public record FrameRange(long start, long end) {
    public FrameRange {
        if (start < 0 || end < start)
            throw new IllegalArgumentException(String.format(Locale.ROOT, "frames [%d, %d): need 0 <= start <= end", start, end));
    }

    public long length() { return end - start; }

    public FrameRange movedBy(long frames) { return new FrameRange(start + frames, end + frames); }
}
