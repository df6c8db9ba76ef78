package ablecrate.dsp;

import java.util.OptionalInt;

/// Where a wave passes from below zero upwards.
public final class ZeroCrossings {
    private ZeroCrossings() {}

    /// The crossing that is nearest, the earlier of two.
    /// @param planes `[channel][frame]`; the sum of the channels counts
    /// @param at index of the frame that is asked for
    /// @return the first frame that is not below zero; empty where there is no crossing
    public static OptionalInt nearest(double[][] planes, int at) {
        int frames = planes[0].length;
        for (int away = 0; away < frames; away++) {
            if (isCrossing(planes, at - away)) return OptionalInt.of(at - away);
            if (isCrossing(planes, at + away)) return OptionalInt.of(at + away);
        }
        return OptionalInt.empty();
    }

    private static boolean isCrossing(double[][] planes, int frame) {
        return frame > 0 && frame < planes[0].length && sum(planes, frame - 1) < 0 && sum(planes, frame) >= 0;
    }

    private static double sum(double[][] planes, int frame) {
        double sum = 0;
        for (double[] plane : planes)
            sum += plane[frame];
        return sum;
    }
}
