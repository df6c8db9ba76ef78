package ablecrate.dsp;

import ablecrate.audio.FrameRange;
import java.util.Optional;

/// Finds where a click begins and ends.
///
/// A detector finds a click by its sharper edge. Beside it the signal may go on smoothly, as a whole stretch was moved or held, and its other edge is hidden by
/// that one. A model of the surroundings on both sides predicts forward into the click and backward into it from behind: the first sample that comes
/// unexpected from either side is its edge.
public final class ClickEdges {
    /// What has to be known on each side.
    public static final int AROUND = 1024;
    private static final int ORDER = 32, BEFORE = 8, SIDE = 256, EDGE = 3;
    /// Prediction errors of the surroundings, in their root mean square: what is beyond is no part of the sound.
    private static final double UNEXPECTED = 6;
    /// Of a click, as [FaultFinder] has it: the square of its error against the mean square around.
    static final double CLICK_RATIO = 400, QUIETEST_CLICK = 0.004;
    /// A channel whose error is less than this part of a click's has none: 6 dB below the threshold.
    static final double DISTINCT = 0.25;

    private ClickEdges() {}

    /// @param x one channel; as much as possible of [#AROUND] frames on both sides
    /// @param found where a click was found
    /// @param longest frames of a click
    /// @return the whole click; empty if this channel has none there
    public static Optional<FrameRange> of(double[] x, int found, int longest) {
        Optional<FrameRange> whole = within(x, found - longest - BEFORE, found + longest + BEFORE);
        // What is longer is two clicks, or one beside something else.
        return whole.filter(w -> w.length() > longest).isPresent() ? within(x, found - BEFORE, found + longest + BEFORE) : whole;
    }

    private static Optional<FrameRange> within(double[] x, int first, int last) {
        int from = Math.max(0, first), to = Math.min(x.length, last), order = Math.min(ORDER, Math.min(from, x.length - to) / 3);
        int start = Math.max(0, from - AROUND), end = Math.min(x.length, to + AROUND);
        if (order < 2 || sharpness(x, start, from, to, end) < DISTINCT) return Optional.empty();
        double[] model = AutoRegression.model(x, start, from, to, end, order);
        double most = UNEXPECTED * rms(model, x, start, from, to, end) + QUIETEST_CLICK / 8;
        int begin = from, finish = to - 1;
        while (begin < to && Math.abs(forward(model, x, begin)) <= most)
            begin++;
        while (finish >= begin && Math.abs(backward(model, x, finish)) <= most)
            finish--;
        return finish < begin ? Optional.empty() : Optional.of(new FrameRange(begin, finish + 1));
    }

    private static double forward(double[] model, double[] x, int n) {
        double error = 0;
        for (int i = 0; i < model.length; i++)
            error += model[i] * x[n - i];
        return error;
    }

    private static double backward(double[] model, double[] x, int n) {
        double error = 0;
        for (int i = 0; i < model.length; i++)
            error += model[i] * x[n + i];
        return error;
    }

    private static double rms(double[] model, double[] x, int start, int from, int to, int end) {
        double sum = 0;
        int count = 0, order = model.length - 1;
        for (int n = start + order; n < from; n++, count++)
            sum += square(forward(model, x, n));
        for (int n = end - 1 - order; n >= to; n--, count++)
            sum += square(backward(model, x, n));
        return count == 0 ? 0 : Math.sqrt(sum / count);
    }

    private static double square(double x) { return x * x; }

    /// How much of a click frames `[from, to)` are: 1 where the detector would just find one.
    /// @param start,end what may be looked at
    static double sharpness(double[] x, int start, int from, int to, int end) {
        int first = Math.max(start + 2, from - EDGE), last = Math.min(end - 2, to + EDGE);
        double before = meanSquare(x, Math.max(start + 2, first - SIDE), first), after = meanSquare(x, last, Math.min(end - 2, last + SIDE)), sharpest = 0;
        for (int n = first; n < last; n++)
            sharpest = Math.max(sharpest, Math.abs(error(x, n)));
        if (sharpest <= QUIETEST_CLICK) return 0;
        double around = Math.max(before, after);
        return around == 0 ? Double.POSITIVE_INFINITY : square(sharpest) / (CLICK_RATIO * around);
    }

    private static double meanSquare(double[] x, int from, int to) {
        double sum = 0;
        for (int n = from; n < to; n++)
            sum += square(error(x, n));
        return to <= from ? 0 : sum / (to - from);
    }

    /// The error of cubic interpolation from both sides.
    private static double error(double[] x, int n) { return x[n] - (-x[n - 2] + 4 * x[n - 1] + 4 * x[n + 1] - x[n + 2]) / 6; }
}
