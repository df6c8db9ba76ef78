package ablecrate.codec;

import ablecrate.audio.FrameRange;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/// Collects what of a compressed stream could not be saved, and tells it.
public final class Losses {
    private static final int TOLD = 4;

    private final List<FrameRange> lost = new ArrayList<>();
    private final int rateHz;
    private final String what;

    /// Of frames that are silent instead.
    public Losses(int rateHz) { this(rateHz, "of audio are damaged and silent instead"); }

    private Losses(int rateHz, String what) {
        this.rateHz = rateHz;
        this.what = what;
    }

    /// Of frames that were decoded although a checksum is wrong.
    public static Losses suspect(int rateHz) { return new Losses(rateHz, "of audio have a wrong checksum and may crackle"); }

    /// In the order of the stream.
    public void add(long start, long end) {
        if (end <= start) return;
        if (!lost.isEmpty() && lost.getLast().end() >= start)
            lost.set(lost.size() - 1, new FrameRange(lost.getLast().start(), Math.max(end, lost.getLast().end())));
        else
            lost.add(new FrameRange(start, end));
    }

    /// @param delayFrames taken off at the start
    /// @param frames true ones
    public List<Problem> problems(long delayFrames, long frames) {
        List<Problem> out = new ArrayList<>();
        long more = 0, seconds = 0;
        for (FrameRange range : lost) {
            long start = Math.max(0, range.start() - delayFrames), end = Math.min(frames, range.end() - delayFrames);
            if (end <= start) continue;
            if (out.size() < TOLD)
                out.add(Problem.lost(String.format(Locale.ROOT, "%.3f s %s, from %.3f s to %.3f s",
                        (end - start) / (double) rateHz, what, start / (double) rateHz, end / (double) rateHz), ""));
            else {
                more++;
                seconds += end - start;
            }
        }
        if (more > 0)
            out.add(Problem.lost(String.format(Locale.ROOT, "%,d more damaged places, %.3f s in all", more, seconds / (double) rateHz), ""));
        return out;
    }

    /// The end of a file that is cut off.
    public static Problem cut(long frames, long all, int rateHz) {
        return Problem.lost(String.format(Locale.ROOT, "the file is cut off: %,d of %,d frames are there, the last %.2f s is missing", frames, all,
                (double) (all - frames) / rateHz), "");
    }
}
