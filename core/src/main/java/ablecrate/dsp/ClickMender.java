package ablecrate.dsp;

import ablecrate.audio.FrameRange;
import ablecrate.audio.FrameSource;
import java.io.IOException;
import java.util.Arrays;
import java.util.List;

/// A stream whose clicks are filled in: the missing frames are those that an autoregressive model of the surroundings finds least surprising.
///
/// Source: Janssen, Veldhuis, Vries, *Adaptive interpolation of discrete-time signals that can be modeled as autoregressive processes*, IEEE Trans.
/// ASSP 34 (1986): the prediction errors' sum of squares is quadratic in the unknown samples; its minimum solves a small symmetric system.
public final class ClickMender implements FrameSource {
    private static final int AROUND = 1024, LEAST_ORDER = 32, MOST_ORDER = 96, BLOCK = 4096;
    /// How often a click that is still one is filled in wider, and by how many frames on each side.
    private static final int TRIES = 3, WIDER = 3;

    private final FrameSource source;
    private final List<FrameRange> clicks;
    private final double[][] buffer;
    private long first, given;
    private int held, nextClick;
    private boolean isAtEnd;

    /// @param clicks in the order of the stream, apart from each other
    public ClickMender(FrameSource source, List<FrameRange> clicks) {
        this.source = source;
        this.clicks = List.copyOf(clicks);
        int longest = clicks.stream().mapToInt(c -> Math.toIntExact(c.length())).max().orElse(0);
        buffer = new double[source.channels()][BLOCK + 4 * AROUND + longest];
    }

    @Override public int channels() { return source.channels(); }

    @Override public int rateHz() { return source.rateHz(); }

    @Override public long frames() { return source.frames(); }

    @Override public int read(double[][] planes, int at, int count) throws IOException {
        // What is given out keeps its surroundings on both sides until no click near it is left.
        long ready = mended();
        while (ready <= given && !isAtEnd) {
            fill();
            ready = mended();
        }
        int n = (int) Math.min(count, ready - given);
        if (n <= 0) return 0;
        for (int channel = 0; channel < buffer.length; channel++)
            System.arraycopy(buffer[channel], (int) (given - first), planes[channel], at, n);
        given += n;
        return n;
    }

    private void fill() throws IOException {
        int kept = (int) Math.min(held, first + held - given + AROUND), dropped = held - kept;
        for (double[] plane : buffer)
            System.arraycopy(plane, dropped, plane, 0, kept);
        first += dropped;
        held = kept;
        int got = source.read(buffer, held, Math.min(BLOCK, buffer[0].length - held));
        held += got;
        isAtEnd = got == 0;
    }

    /// Mends what can be mended, and says up to where all is right.
    private long mended() {
        long end = first + held;
        while (nextClick < clicks.size() && (clicks.get(nextClick).end() + AROUND <= end || isAtEnd)) {
            FrameRange click = clicks.get(nextClick++);
            int from = (int) Math.max(0, click.start() - first), to = (int) Math.min(held, click.end() - first);
            for (double[] plane : buffer)
                if (to > from) mendIfNeeded(plane, Math.max(0, from - AROUND), from, to, Math.min(held, to + AROUND));
        }
        return nextClick < clicks.size() ? Math.min(end, clicks.get(nextClick).start()) : end;
    }

    /// Fills a channel in where it has the click: the other side of a stereo sound stays to the bit. What is still a click afterwards is filled in wider;
    /// what would be a worse one is left as it was.
    private static void mendIfNeeded(double[] x, int start, int from, int to, int end) {
        double before = ClickEdges.sharpness(x, start, from, to, end);
        if (before < ClickEdges.DISTINCT) return;
        double[] original = Arrays.copyOfRange(x, start, end);
        for (int tries = 0, wider = 0; tries < TRIES; tries++, wider += WIDER) {
            int first = Math.max(start, from - wider), last = Math.min(end, to + wider);
            System.arraycopy(original, 0, x, start, original.length);
            mend(x, start, first, last, end);
            if (ClickEdges.sharpness(x, start, first, last, end) < 1) return;
        }
        if (ClickEdges.sharpness(x, start, from, to, end) >= before) System.arraycopy(original, 0, x, start, original.length);
    }

    /// Replaces frames `[from, to)` of `x`, of which `[start, end)` is known besides.
    static void mend(double[] x, int start, int from, int to, int end) {
        // Three times the gap and a little more, as the authors advise; half of what is known on each side at most.
        int unknown = to - from, order = Math.min(Math.clamp(3L * unknown + 2, LEAST_ORDER, MOST_ORDER), Math.min(from - start, end - to) / 2);
        if (order < 1) {
            line(x, start, from, to, end);
            return;
        }
        double[] model = AutoRegression.model(x, start, from, to, end, order), b = new double[order + 1];
        // Correlation of the prediction filter with itself: how much two unknown frames have to do with each other.
        for (int lag = 0; lag <= order; lag++)
            for (int i = 0; i + lag <= order; i++)
                b[lag] += model[i] * model[i + lag];
        double[][] system = new double[unknown][unknown];
        double[] right = new double[unknown];
        for (int i = 0; i < unknown; i++) {
            for (int j = 0; j < unknown; j++)
                if (Math.abs(i - j) <= order) system[i][j] = b[Math.abs(i - j)];
            for (int lag = -order; lag <= order; lag++) {
                int k = from + i + lag;
                if ((k < from || k >= to) && k >= start && k < end) right[i] -= b[Math.abs(lag)] * x[k];
            }
        }
        AutoRegression.solve(system, right);
        System.arraycopy(right, 0, x, from, unknown);
    }

    private static void line(double[] x, int start, int from, int to, int end) {
        double left = from > start ? x[from - 1] : 0, right = to < end ? x[to] : 0;
        for (int i = from; i < to; i++)
            x[i] = left + (right - left) * (i - from + 1) / (to - from + 1);
    }

    @Override public void close() throws IOException { source.close(); }
}
