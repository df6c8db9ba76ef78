package ablecrate.detect;

import java.util.Arrays;

/// How fast a sound dies away by itself.
///
/// The median of the slopes between all pairs of its levels, so that beating does not count (H. Theil, *A rank-invariant method of linear and polynomial
/// regression analysis*, 1950; P. K. Sen, *Estimates of the regression coefficient based on Kendall's tau*, J. Am. Stat. Assoc. 63, 1968).
final class SoundDecay {
    private static final double WINDOW_SECONDS = 0.05;
    private static final int FEWEST_LEVELS = 6, MOST_LEVELS = 400;
    /// What is softer than its loudest part by more is taken for noise.
    private static final double HEARD_DB = 40;
    /// A sound that loses less until its end is held: its player let it swell and fall.
    private static final double LEAST_FALL_DB = 6;
    /// Less is not heard as dying away.
    private static final double LEAST_DB_PER_SECOND = 1;

    private SoundDecay() {}

    /// @param planes `[channel][frame]`
    /// @param from the first frame that counts
    /// @return 0 where it does not die away, or is too short to tell
    static double dbPerSecond(double[][] planes, int rateHz, long from) {
        double[] levels = levels(planes, (int) from, (int) Math.max(1, WINDOW_SECONDS * rateHz));
        if (levels.length < FEWEST_LEVELS) return 0;
        // A held sound that is let go late falls in its second half alone.
        double fall = Math.min(fall(levels, levels.length), fall(levels, levels.length / 2)) / WINDOW_SECONDS;
        return fall >= LEAST_DB_PER_SECOND && fall * levels.length * WINDOW_SECONDS >= LEAST_FALL_DB ? fall : 0;
    }

    /// From level to level, of so many.
    private static double fall(double[] levels, int count) {
        double[] slopes = new double[count * (count - 1) / 2];
        int pairs = 0;
        for (int late = 1; late < count; late++)
            for (int early = 0; early < late; early++)
                slopes[pairs++] = (levels[early] - levels[late]) / (late - early);
        Arrays.sort(slopes);
        return slopes[slopes.length / 2];
    }

    /// In dB, window by window, until it is lost in noise.
    private static double[] levels(double[][] planes, int from, int window) {
        double[] levels = new double[Math.min(MOST_LEVELS, (planes[0].length - from) / window)];
        double loudest = Double.NEGATIVE_INFINITY;
        for (int i = 0; i < levels.length; i++) {
            double power = 0;
            for (double[] plane : planes)
                for (int n = from + i * window; n < from + (i + 1) * window; n++)
                    power += plane[n] * plane[n];
            levels[i] = 10 * Math.log10(power + 1e-30);
            loudest = Math.max(loudest, levels[i]);
            if (levels[i] < loudest - HEARD_DB) return Arrays.copyOf(levels, i);
        }
        return levels;
    }
}
