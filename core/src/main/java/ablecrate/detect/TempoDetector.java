package ablecrate.detect;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/// How fast a clip goes.
///
/// The strength of onsets is compared with itself, shifted: a tempo is as likely as its beats, at one to eight beats' distance, fall on onsets again. Tempos
/// near 120 are liked better, and those of which the clip is a whole number of bars. The best is refined on the onsets themselves.
///
/// Source: F. Gouyon et al., *An Experimental Comparison of Audio Tempo Induction Algorithms*, IEEE TASLP 14, 2006 (induction by autocorrelation of onset
/// strength; the octave error); the whole bars are common practice with loops.
public final class TempoDetector {
    /// What it hears lies below.
    public static final double HIGHEST_BPM = 210;
    private static final double LOWEST_BPM = 55, STEP = 1.002, LIKED_BPM = 120, LIKED_OCTAVES = 0.9, BAR_BONUS = 0.12, WHOLE = 0.004;
    private static final int BEATS = 8, BEATS_A_BAR = 4, FEWEST_ONSETS = 4;
    private static final double SAME = 0.03, REFINED_WITHIN = 0.02;

    /// @param confidence 0…1: how far it stands out of the best rival that is no half or double
    /// @param rivalBpm that rival; 0 where there is none
    public record Tempo(double bpm, double confidence, double rivalBpm) {}

    private record Guess(double bpm, double score) {}

    private TempoDetector() {}

    /// @param frames length of the clip
    /// @return empty where too little begins
    public static Optional<Tempo> detect(OnsetDetector.Heard heard, long frames, int rateHz) {
        if (heard.onsets().size() < FEWEST_ONSETS) return Optional.empty();
        double[] likeness = likeness(heard.strength());
        double hopsAMinute = 60.0 * rateHz / heard.hopFrames();
        List<Guess> guesses = new ArrayList<>();
        for (double bpm = LOWEST_BPM; bpm <= HIGHEST_BPM; bpm *= STEP)
            guesses.add(new Guess(bpm, score(likeness, bpm, hopsAMinute, frames, rateHz)));
        Guess best = guesses.stream().max(Comparator.comparingDouble(Guess::score)).orElseThrow();
        if (best.score() <= 0) return Optional.empty();
        Optional<Guess> rival = guesses.stream().filter(g -> !isOctave(g.bpm() / best.bpm())).max(Comparator.comparingDouble(Guess::score));
        double confidence = rival.map(r -> Math.clamp(2 * (best.score() - r.score()) / best.score(), 0, 1)).orElse(1.0);
        return Optional.of(new Tempo(refined(heard.onsets(), best.bpm(), frames, rateHz), confidence, rival.map(Guess::bpm).orElse(0.0)));
    }

    private static boolean isOctave(double ratio) {
        for (double octave : new double[]{0.25, 0.5, 1, 2, 4})
            if (Math.abs(ratio / octave - 1) < SAME) return true;
        return false;
    }

    /// Autocorrelation over its value without a shift.
    private static double[] likeness(double[] x) {
        double mean = Arrays.stream(x).average().orElse(0), zero = 1e-12;
        double[] y = Arrays.stream(x).map(v -> v - mean).toArray(), out = new double[x.length];
        for (double v : y)
            zero += v * v;
        for (int lag = 0; lag < out.length; lag++) {
            double sum = 0;
            for (int n = 0; n + lag < y.length; n++)
                sum += y[n] * y[n + lag];
            // Long shifts have fewer to compare.
            out[lag] = sum / zero * y.length / Math.max(y.length / 4.0, y.length - lag);
        }
        return out;
    }

    private static double score(double[] likeness, double bpm, double hopsAMinute, long frames, int rateHz) {
        double period = hopsAMinute / bpm, sum = 0, weights = 0;
        for (int beat = 1; beat <= BEATS; beat++) {
            double at = beat * period;
            if (at + 2 >= likeness.length) break;
            double weight = beat == BEATS_A_BAR || beat == BEATS ? 1.5 : 1;
            sum += weight * highest(likeness, at);
            weights += weight;
        }
        if (weights == 0) return 0;
        double beats = frames * bpm / 60.0 / rateHz, octaves = Math.log(bpm / LIKED_BPM) / Math.log(2) / LIKED_OCTAVES;
        return (sum / weights + (isWholeBars(beats) ? BAR_BONUS : 0)) * Math.exp(-0.5 * octaves * octaves);
    }

    private static double highest(double[] x, double at) {
        int from = (int) Math.floor(at) - 1, to = from + 3;
        double most = 0;
        for (int i = Math.max(0, from); i <= Math.min(x.length - 1, to); i++)
            most = Math.max(most, x[i]);
        return most;
    }

    private static boolean isWholeBars(double beats) {
        double bars = beats / BEATS_A_BAR;
        return Math.rint(bars) >= 1 && Math.abs(bars - Math.rint(bars)) / bars < WHOLE;
    }

    /// Whole bars decide where the clip is nearly so many; otherwise the beat whose grid lies nearest to the onsets.
    private static double refined(List<OnsetDetector.Onset> onsets, double bpm, long frames, int rateHz) {
        double beats = frames * bpm / 60.0 / rateHz;
        if (isWholeBars(beats)) return Math.rint(beats / BEATS_A_BAR) * BEATS_A_BAR * 60.0 * rateHz / frames;
        double best = bpm, most = -1;
        for (double tried = bpm * (1 - REFINED_WITHIN); tried <= bpm * (1 + REFINED_WITHIN); tried *= 1.0002) {
            // Quarters of a beat, as a phase: what falls on them adds up.
            double x = 0, y = 0, turn = 2 * Math.PI * 4 * tried / 60 / rateHz;
            for (OnsetDetector.Onset o : onsets) {
                x += o.riseDb() * Math.cos(turn * o.frame());
                y += o.riseDb() * Math.sin(turn * o.frame());
            }
            if (Math.hypot(x, y) > most) {
                most = Math.hypot(x, y);
                best = tried;
            }
        }
        return best;
    }
}
