package ablecrate.dsp;

import ablecrate.audio.FrameRange;
import ablecrate.audio.FrameSource;
import java.io.IOException;
import java.util.List;

/// A stream whose clicks are filled in: the missing frames are those that an autoregressive model of the surroundings finds least surprising.
///
/// Source: Janssen, Veldhuis, Vries, *Adaptive interpolation of discrete-time signals that can be modeled as autoregressive processes*, IEEE Trans.
/// ASSP 34 (1986): the prediction errors' sum of squares is quadratic in the unknown samples; its minimum solves a small symmetric system.
public final class ClickMender implements FrameSource {
    private static final int AROUND = 1024, LEAST_ORDER = 32, MOST_ORDER = 96, BLOCK = 4096;
    /// A part of the mean square that keeps the model stable where the surroundings are a pure tone.
    private static final double FLOOR = 1e-11;

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
                if (to > from) mend(plane, Math.max(0, from - AROUND), from, to, Math.min(held, to + AROUND));
        }
        return nextClick < clicks.size() ? Math.min(end, clicks.get(nextClick).start()) : end;
    }

    /// Replaces frames `[from, to)` of `x`, of which `[start, end)` is known besides.
    static void mend(double[] x, int start, int from, int to, int end) {
        // Three times the gap and a little more, as the authors advise; half of what is known on each side at most.
        int unknown = to - from, order = Math.min(Math.clamp(3L * unknown + 2, LEAST_ORDER, MOST_ORDER), Math.min(from - start, end - to) / 2);
        if (order < 1) {
            line(x, start, from, to, end);
            return;
        }
        double[] model = model(x, start, from, to, end, order), b = new double[order + 1];
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
        solve(system, right);
        System.arraycopy(right, 0, x, from, unknown);
    }

    private static void line(double[] x, int start, int from, int to, int end) {
        double left = from > start ? x[from - 1] : 0, right = to < end ? x[to] : 0;
        for (int i = from; i < to; i++)
            x[i] = left + (right - left) * (i - from + 1) / (to - from + 1);
    }

    /// Coefficients of the filter that predicts best on both sides, forward and backward: 1, a₁ … (modified covariance: unlike the autocorrelation, it
    /// takes a tone for a tone however few of its periods there are).
    private static double[] model(double[] x, int start, int from, int to, int end, int order) {
        double[][] products = new double[order][order];
        double[] right = new double[order];
        products(x, start, from, order, products, right);
        products(x, to, end, order, products, right);
        double ridge = Double.MIN_NORMAL;
        for (int i = 0; i < order; i++)
            ridge += FLOOR * products[i][i];
        for (int i = 0; i < order; i++)
            products[i][i] += ridge;
        solve(products, right);
        double[] a = new double[order + 1];
        a[0] = 1;
        System.arraycopy(right, 0, a, 1, order);
        return a;
    }

    private static void products(double[] x, int from, int to, int order, double[][] products, double[] right) {
        for (int n = from + order; n < to; n++)
            for (int i = 1; i <= order; i++) {
                double forward = x[n - i], backward = x[n - order + i];
                right[i - 1] -= forward * x[n] + backward * x[n - order];
                for (int j = 1; j <= i; j++)
                    products[i - 1][j - 1] += forward * x[n - j] + backward * x[n - order + j];
            }
        for (int i = 0; i < order; i++)
            for (int j = i + 1; j < order; j++)
                products[i][j] = products[j][i];
    }

    /// Cholesky, in place; the result is in `right`.
    private static void solve(double[][] s, double[] right) {
        int n = right.length;
        for (int j = 0; j < n; j++) {
            double diagonal = s[j][j];
            for (int k = 0; k < j; k++)
                diagonal -= s[j][k] * s[j][k];
            s[j][j] = Math.sqrt(Math.max(diagonal, Double.MIN_NORMAL));
            for (int i = j + 1; i < n; i++) {
                double sum = s[i][j];
                for (int k = 0; k < j; k++)
                    sum -= s[i][k] * s[j][k];
                s[i][j] = sum / s[j][j];
            }
        }
        for (int i = 0; i < n; i++) {
            for (int k = 0; k < i; k++)
                right[i] -= s[i][k] * right[k];
            right[i] /= s[i][i];
        }
        for (int i = n - 1; i >= 0; i--) {
            for (int k = i + 1; k < n; k++)
                right[i] -= s[k][i] * right[k];
            right[i] /= s[i][i];
        }
    }

    @Override public void close() throws IOException { source.close(); }
}
