package ablecrate.detect;

import ablecrate.audio.FrameSource;
import ablecrate.dsp.AutoRegression;
import ablecrate.dsp.Decibels;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.function.BooleanSupplier;

/// Finds where new sounds begin in anything from drums to strings.
///
/// Levels in third octaves, every 3 ms through a window of 11.6 ms, are held against the highest that each band had 12 to 26 ms before; what rises counts,
/// what goes on does not. Where the mean rise stands out of its surroundings, something begins. Its first frame is then found in the samples: a model of what was
/// there before predicts on, and where what it cannot predict changes its spread, by Akaike's criterion, is the attack.
///
/// Sources: S. Böck, G. Widmer, *Maximum Filter Vibrato Suppression for Onset Detection*, DAFx 2013 (rise over the maximum of the past); J. P. Bello et al.,
/// *A Tutorial on Onset Detection in Music Signals*, IEEE TSAP 13, 2005 (flux, adaptive threshold, picking peaks); R. Sleeman, T. van Eck, *Robust automatic
/// P-phase picking*, PEPI 113, 1999 (autoregression and Akaike's criterion).
public final class OnsetDetector {
    private static final double WINDOW_SECONDS = 0.0116, HOP_SECONDS = 0.0029;
    private static final int NEAREST_PAST = 4, FARTHEST_PAST = 9;
    /// Below the loudest of the sound nothing begins.
    private static final double RANGE_DB = -66;
    private static final double SURROUNDINGS_SECONDS = 0.15, APART_SECONDS = 0.020, PEAK_SECONDS = 0.014;
    /// Mean rise over the surroundings' median, at usual sensitivity.
    private static final double LEAST_RISE_DB = 3.4;
    private static final double PIECE_SECONDS = 20, OVERLAP_SECONDS = 1;
    private static final double BEFORE_SECONDS = 0.020, AFTER_SECONDS = 0.004;
    private static final int ORDER = 8;

    private final int rateHz, hop;
    private final ThirdOctaves bands;
    private final double leastDb;

    /// @param frame where it begins
    /// @param riseDb mean rise of the levels in third octaves
    public record Onset(long frame, double riseDb) {}

    /// @param strength how far levels rise, a value every `hopFrames`
    public record Heard(List<Onset> onsets, double[] strength, int hopFrames) {}

    private OnsetDetector(int rateHz, double sensitivity) {
        this.rateHz = rateHz;
        hop = (int) Math.max(1, Math.round(HOP_SECONDS * rateHz));
        bands = new ThirdOctaves(1 << Math.max(6, (int) Math.round(Math.log(WINDOW_SECONDS * rateHz) / Math.log(2))), rateHz);
        leastDb = LEAST_RISE_DB / sensitivity;
    }

    /// @param sensitivity 1 as usual; more finds more
    /// @param stopped asked now and then
    public static Heard detect(FrameSource source, double sensitivity, BooleanSupplier stopped) throws IOException {
        return new OnsetDetector(source.rateHz(), sensitivity).detect(source, stopped);
    }

    private Heard detect(FrameSource source, BooleanSupplier stopped) throws IOException {
        int overlap = (int) (OVERLAP_SECONDS * rateHz) / hop * hop, piece = (int) (PIECE_SECONDS * rateHz) / hop * hop + 2 * overlap;
        List<Onset> found = new ArrayList<>();
        List<double[]> strengths = new ArrayList<>();
        double[][] planes = new double[source.channels()][piece];
        double loudest = 0;
        int held = source.readFully(planes, 0, piece);
        for (long start = 0; held > 0 && !stopped.getAsBoolean();) {
            boolean isFirst = start == 0, isLast = held < piece;
            double[][] levels = levels(planes, held);
            for (double[] at : levels)
                for (double power : at)
                    loudest = Math.max(loudest, power);
            double[] strength = strength(levels, loudest);
            long from = isFirst ? 0 : overlap, to = isLast ? held : held - overlap;
            // The end cuts off what sounds, which looks as if something began.
            if (isLast)
                for (int i = Math.max(0, (held - bands.length() / 2) / hop); i < strength.length; i++)
                    strength[i] = 0;
            for (Onset onset : picked(strength, planes, held))
                if (onset.frame() >= from && onset.frame() < to) found.add(new Onset(start + onset.frame(), onset.riseDb()));
            strengths.add(Arrays.copyOfRange(strength, (int) Math.min(strength.length, from / hop), (int) Math.min(strength.length, to / hop)));
            if (isLast) break;
            int kept = 2 * overlap;
            for (double[] plane : planes)
                System.arraycopy(plane, held - kept, plane, 0, kept);
            start += held - kept;
            held = kept + source.readFully(planes, kept, piece - kept);
        }
        double[] all = strengths.stream().flatMapToDouble(Arrays::stream).toArray();
        return new Heard(apart(found), all, hop);
    }

    /// Powers by time and band, all channels together. The window of a time begins there.
    private double[][] levels(double[][] planes, int held) {
        int count = Math.max(1, held / hop);
        double[][] out = new double[count][bands.count()];
        double[] one = new double[bands.count()];
        for (int i = 0; i < count; i++)
            for (double[] plane : planes) {
                bands.powers(plane, i * hop - bands.length() / 2, one);
                for (int band = 0; band < one.length; band++)
                    out[i][band] += one[band];
            }
        return out;
    }

    private static double[] strength(double[][] powers, double loudest) {
        int bands = powers[0].length;
        double floor = loudest * Decibels.toFactor(2 * RANGE_DB) + 1e-20;
        double[][] db = new double[powers.length][bands];
        for (int i = 0; i < powers.length; i++)
            for (int band = 0; band < bands; band++)
                db[i][band] = 10 * Math.log10(powers[i][band] + floor);
        double silent = 10 * Math.log10(floor);
        double[] out = new double[powers.length];
        for (int i = 0; i < powers.length; i++) {
            for (int band = 0; band < bands; band++) {
                double past = silent;
                for (int back = NEAREST_PAST; back <= FARTHEST_PAST; back++)
                    if (i >= back) past = Math.max(past, db[i - back][band]);
                out[i] += Math.max(0, db[i][band] - past);
            }
            out[i] /= bands;
        }
        return out;
    }

    private List<Onset> picked(double[] strength, double[][] planes, int held) {
        List<Onset> out = new ArrayList<>();
        int around = (int) (SURROUNDINGS_SECONDS * rateHz / hop), near = (int) Math.max(1, PEAK_SECONDS * rateHz / hop);
        for (int i = 0; i < strength.length; i++) {
            if (strength[i] < leastDb || !isHighest(strength, i, near)) continue;
            double[] others = Arrays.copyOfRange(strength, Math.max(0, i - around), Math.min(strength.length, i + around + 1));
            Arrays.sort(others);
            if (strength[i] - others[others.length / 2] < leastDb) continue;
            out.add(new Onset(placed(planes, held, i * hop), strength[i]));
        }
        return out;
    }

    private static boolean isHighest(double[] x, int at, int near) {
        for (int i = Math.max(0, at - near); i <= Math.min(x.length - 1, at + near); i++)
            if (x[i] > x[at] || x[i] == x[at] && i < at) return false;
        return true;
    }

    /// The attack's first frame near a place where levels have risen.
    private long placed(double[][] planes, int held, int near) {
        // Before the sound there is silence.
        int from = (int) (near - BEFORE_SECONDS * rateHz), to = (int) Math.min(held, near + AFTER_SECONDS * rateHz);
        if (to - from < 4 * ORDER) return near;
        // The channel in which most changes has it clearest.
        Change best = new Change(near - from, Double.NEGATIVE_INFINITY);
        for (double[] plane : planes) {
            double[] x = new double[to - from];
            System.arraycopy(plane, Math.max(0, from), x, Math.max(0, -from), to - Math.max(0, from));
            Change change = change(AutoRegression.residual(x, x.length / 2, ORDER), ORDER, x.length - 2);
            if (change.gain() > best.gain()) best = change;
        }
        return Math.max(0, from + best.at());
    }

    /// @param gain how much better two spreads tell the numbers than one
    private record Change(int at, double gain) {}

    /// Where the spread of numbers changes most, by Akaike's criterion.
    private static Change change(double[] x, int first, int last) {
        double[] sums = new double[x.length + 1];
        for (int n = 0; n < x.length; n++)
            sums[n + 1] = sums[n] + x[n] * x[n];
        double all = sums[x.length] - sums[first], least = Double.POSITIVE_INFINITY;
        int best = first;
        for (int k = first + 2; k < last; k++) {
            double before = (sums[k] - sums[first]) / (k - first) + all * 1e-9 / x.length + 1e-30, after = (sums[x.length] - sums[k]) / (x.length - k) + 1e-30;
            double criterion = (k - first) * Math.log(before) + (x.length - k) * Math.log(after);
            if (criterion < least) {
                least = criterion;
                best = k;
            }
        }
        return new Change(best, (x.length - first) * Math.log(all / (x.length - first) + 1e-30) - least);
    }

    /// What begins within 20 ms is one, at the first.
    private List<Onset> apart(List<Onset> found) {
        List<Onset> out = new ArrayList<>();
        for (Onset onset : found.stream().sorted(Comparator.comparingLong(Onset::frame)).toList())
            if (out.isEmpty() || onset.frame() - out.getLast().frame() >= APART_SECONDS * rateHz) out.add(onset);
        return List.copyOf(out);
    }
}
