package ablecrate.dsp;

import ablecrate.audio.FrameSource;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/// Finds the pitch of a sound of one note.
///
/// The normalised square difference of several windows is searched for its first high peak, and the windows' median is taken.
/// Source: P. McLeod, G. Wyvill, *A Smarter Way to Find Pitch*, ICMC 2005, with their threshold for key maxima; the median over windows is ours.
public final class PitchDetector {
    /// Lowest and highest pitch that is looked for: a little beyond keys 21 and 120.
    private static final double LOWEST_HZ = 25, HIGHEST_HZ = 9000;
    /// The first peak this near to the highest is the period; lower ones are its parts, later ones its multiples.
    private static final double KEY_MAXIMUM = 0.92;
    /// Below this a window has no pitch.
    private static final double CLEAR = 0.75;
    private static final int WINDOWS = 7;
    /// Longer sounds are judged by their start.
    private static final double LONGEST_SECONDS = 4;

    /// @param clarity 0…1 of the windows that had a pitch
    public record Pitch(double hz, double clarity) {
        /// In keys, with fractions; 69 is 440 Hz (ISO 16).
        public double key() { return 69 + 12 * Math.log(hz / 440) / Math.log(2); }
    }

    private PitchDetector() {}

    /// @return empty if most of the sound has no pitch
    public static Optional<Pitch> detect(FrameSource source) throws IOException {
        int rate = source.rateHz(), count = (int) Math.min(source.frames(), (long) (LONGEST_SECONDS * rate));
        double[][] planes = new double[source.channels()][count];
        int got = source.readFully(planes, 0, count);
        double[] mono = new double[got];
        for (double[] plane : planes)
            for (int i = 0; i < got; i++)
                mono[i] += plane[i];
        return detect(mono, rate);
    }

    /// @param x samples of one channel
    public static Optional<Pitch> detect(double[] x, int rateHz) {
        int longest = (int) (rateHz / LOWEST_HZ), length = Math.min(2 * longest, x.length / 2);
        if (length < 64) return Optional.empty();
        int attack = loudest(x, rateHz), last = Math.max(attack, x.length - 2 * length);
        List<Pitch> found = new ArrayList<>();
        for (int i = 0; i < WINDOWS; i++) {
            int from = Math.min(attack + (int) ((long) (last - attack) * i / (2 * WINDOWS)), x.length - length);
            window(x, Math.max(0, from), Math.min(length, x.length - Math.max(0, from)), rateHz).ifPresent(found::add);
        }
        if (found.size() * 2 < WINDOWS) return Optional.empty();
        found.sort(Comparator.comparingDouble(Pitch::hz));
        return Optional.of(new Pitch(found.get(found.size() / 2).hz(), found.stream().mapToDouble(Pitch::clarity).average().orElseThrow()));
    }

    /// A little behind the loudest moment, where noise of the attack is over.
    private static int loudest(double[] x, int rateHz) {
        int at = 0;
        for (int i = 1; i < x.length; i++)
            if (Math.abs(x[i]) > Math.abs(x[at])) at = i;
        return Math.min(at + rateHz / 50, x.length / 2);
    }

    private static Optional<Pitch> window(double[] x, int from, int length, int rateHz) {
        int longest = Math.min(length / 2, (int) (rateHz / LOWEST_HZ)), shortest = Math.max(2, (int) (rateHz / HIGHEST_HZ)), width = length - longest;
        double[] similarity = new double[longest + 1];
        double energy = 0;
        for (int i = 0; i < width; i++)
            energy += x[from + i] * x[from + i];
        if (energy < 1e-9 * width) return Optional.empty();
        double[] products = new Correlation(new double[][]{Arrays.copyOfRange(x, from, from + length)}, 0).products(0, width);
        double shifted = energy;
        for (int lag = 0; lag <= longest; lag++) {
            similarity[lag] = 2 * products[lag] / (energy + shifted);
            if (lag < longest) shifted += x[from + width + lag] * x[from + width + lag] - x[from + lag] * x[from + lag];
        }
        return peak(similarity, shortest, rateHz);
    }

    private static Optional<Pitch> peak(double[] n, int shortest, int rateHz) {
        List<Integer> maxima = new ArrayList<>();
        int lag = 1;
        while (lag < n.length && n[lag] > 0)
            lag++;
        while (lag < n.length - 1) {
            while (lag < n.length - 1 && n[lag] <= 0)
                lag++;
            int best = lag;
            for (; lag < n.length - 1 && n[lag] > 0; lag++)
                if (n[lag] > n[best]) best = lag;
            if (best >= shortest && best < n.length - 1) maxima.add(best);
        }
        double highest = maxima.stream().mapToDouble(i -> height(n, i)).max().orElse(0);
        if (highest < CLEAR) return Optional.empty();
        int at = maxima.stream().filter(i -> height(n, i) >= KEY_MAXIMUM * highest).findFirst().orElseThrow();
        return Optional.of(new Pitch(rateHz / refined(n, at, highest), Math.min(1, n[at])));
    }

    /// A short period is told more finely by its multiples, as long as they are as clear.
    private static double refined(double[] n, int at, double highest) {
        double period = vertex(n, at);
        for (int multiple = 2; multiple <= 32; multiple++) {
            int near = (int) Math.rint(period * multiple), best = near;
            if (near + 2 >= n.length) break;
            for (int lag = near - 1; lag <= near + 1; lag++)
                if (n[lag] > n[best]) best = lag;
            if (height(n, best) < KEY_MAXIMUM * highest || n[best] < n[best - 1] || n[best] < n[best + 1]) break;
            period = vertex(n, best) / multiple;
        }
        return period;
    }

    /// Of the top of the parabola: short periods fall between lags.
    private static double height(double[] n, int at) {
        double slope = n[at - 1] - n[at + 1], bend = n[at - 1] - 2 * n[at] + n[at + 1];
        return bend == 0 ? n[at] : Math.min(1, n[at] - slope * slope / (8 * bend));
    }

    /// The top of the parabola through three lags.
    private static double vertex(double[] n, int at) {
        double a = n[at - 1], b = n[at], c = n[at + 1], bend = a - 2 * b + c;
        return at + (bend == 0 ? 0 : (a - c) / (2 * bend));
    }
}
