package ablecrate.detect;

import ablecrate.audio.FrameRange;
import ablecrate.audio.FrameSource;
import ablecrate.dsp.Correlation;
import ablecrate.dsp.LoopLevel;
import ablecrate.instrument.LoopMode;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.BooleanSupplier;

/// Finds the best places to loop a held sound.
///
/// Ends are tried all over the stable part. For each, every place that what leads to it is like is found by normalised cross-correlation, first at some
/// 8 kHz, then to the frame; both channels count. What is most alike, and likest in third-octave levels around, is judged as it would be played, with
/// fades of four lengths, and where that is wanted raised by what the sound decays within it; of what cannot be told apart, longer loops come first.
public final class LoopFinder {
    private static final double COARSE_HZ = 8000, CONTEXT_SECONDS = 0.06, FINE_SECONDS = 0.012, SPECTRUM_SECONDS = 0.09, LONGEST_SECONDS = 20,
            MOST_SECONDS = 60;
    private static final double[] FADES_SECONDS = {0, 0.02, 0.05, 0.12};
    private static final double LONGEST_SHARE = 0.85;
    private static final int MOST_SHORTENED = 16;
    private static final int ENDS = 24, STARTS = 6, JUDGED = 22, PER_END = 3;
    /// What a doubled length is worth, and what each longer fade costs, and a rise in level.
    private static final double LENGTH_WORTH = 0.12, FADE_COST = 0.03, LEVEL_COST = 0.03, LEVEL_COST_OF_DB = 0.01, UNHEARD = 0.7;
    /// What each dB costs by which a seam steps more than this.
    private static final double STEP_COST_OF_DB = 0.003, SMALL_STEP_DB = -30;
    /// What each cent costs by which it is off the pitch, though nobody hears it.
    private static final double CENT_COST = 0.03;
    /// Less is not worth it.
    private static final double LEAST_RISE_DB = 0.5;

    private LoopFinder() {}

    /// @param riseDb that would make both ends as loud
    private record Candidate(int start, int end, double likeness, double change, double riseDb) {
        /// What the judge will likely say.
        double guess() { return change + 8 * (1 - likeness); }
    }

    /// The same for a sound that is read; of a long one, its first minute is looked at.
    public static List<FoundLoop> find(FrameSource source, LoopWish wish, int most, BooleanSupplier stopped) throws IOException {
        Optional<double[][]> planes = beginning(source);
        return planes.isEmpty() ? List.of() : find(planes.get(), source.rateHz(), wish, most, stopped);
    }

    /// How well a loop can be heard that a sound has.
    /// @return empty where it does not lie within the first minute, or is too short to be judged
    public static Optional<LoopQuality> judge(FrameSource source, FrameRange loop, LoopMode mode, int crossfadeFrames) throws IOException {
        int fade = (int) Math.min(crossfadeFrames, Math.min(loop.start(), loop.length()));
        return beginning(source).filter(p -> loop.end() <= p[0].length && loop.length() >= 2 && p[0].length >= source.rateHz() / 50)
                .map(p -> new LoopJudge(p, source.rateHz())).map(j -> mode == LoopMode.ALTERNATING ? new TurnJudge(j).judge(loop) : j.judge(loop, fade, 0));
    }

    /// Its first minute, or all of it.
    private static Optional<double[][]> beginning(FrameSource source) throws IOException {
        double[][] planes = new double[source.channels()][(int) Math.min(source.frames(), (long) (MOST_SECONDS * source.rateHz()))];
        int got = planes[0].length == 0 ? 0 : source.readFully(planes, 0, planes[0].length);
        return got < planes[0].length || got == 0 ? Optional.empty() : Optional.of(planes);
    }

    /// @param planes `[channel][frame]`, all of the sound
    /// @param most how many places to tell
    /// @param stopped asked now and then
    /// @return the best first; empty where the sound is too short or silent
    public static List<FoundLoop> find(double[][] planes, int rateHz, LoopWish wish, int most, BooleanSupplier stopped) {
        int frames = planes[0].length;
        if (frames < rateHz / 50) return List.of();
        LoopJudge judge = new LoopJudge(planes, rateHz);
        FrameRange stable = new FrameRange(judge.stablePart().start(),
                Math.min(judge.stablePart().end(), judge.stablePart().start() + (long) (LONGEST_SECONDS * rateHz)));
        // A sound that is too short for the wanted length is looped as long as it can be; one that changes all the time is looped in less.
        long wanted = Math.clamp(wish.shortest(), 16, Math.max(16, (long) (stable.length() * LONGEST_SHARE)));
        List<FoundLoop> found = new ArrayList<>();
        for (long shortest = wanted; shortest >= Math.max(wish.least(), wanted / MOST_SHORTENED); shortest /= 4) {
            LoopWish now = wish.startingFrom(shortest);
            if (wish.modes().contains(LoopMode.FORWARD)) found.addAll(found(planes, rateHz, judge, stable, now, stopped));
            if (wish.modes().contains(LoopMode.ALTERNATING) && found.stream().noneMatch(f -> f.quality().passes()))
                found.addAll(TurnFinder.find(planes, rateHz, judge, stable, now, stopped));
            if (found.stream().anyMatch(f -> f.quality().passes())) break;
        }
        found.sort(Comparator.comparingDouble(f -> rank(f, wanted)));
        double fall = SoundDecay.dbPerSecond(planes, rateHz, judge.stablePart().start());
        return apart(found, rateHz, most).stream().map(f -> f.falling(fall)).toList();
    }

    private static List<FoundLoop> found(double[][] planes, int rateHz, LoopJudge judge, FrameRange stable, LoopWish wish,
            BooleanSupplier stopped) {
        List<Candidate> candidates = candidates(planes, rateHz, stable, wish, wish.levelled() ? Optional.of(judge) : Optional.empty(), stopped),
                tried = new ArrayList<>();
        candidates.sort(Comparator.comparingDouble(c -> c.guess() - LENGTH_WORTH * log2((double) (c.end() - c.start()) / wish.shortest())));
        for (Candidate c : candidates)
            if (tried.size() < JUDGED && tried.stream().filter(t -> t.end() == c.end()).count() < PER_END) tried.add(c);
        List<FoundLoop> found = new ArrayList<>();
        for (Candidate c : tried) {
            if (stopped.getAsBoolean()) break;
            judged(judge, rateHz, c).filter(f -> f.frames().length() >= wish.least()).ifPresent(found::add);
        }
        return found;
    }

    /// No two that are nearly the same.
    private static List<FoundLoop> apart(List<FoundLoop> found, int rateHz, int most) {
        List<FoundLoop> out = new ArrayList<>();
        long near = rateHz / 100;
        for (FoundLoop f : found)
            if (out.size() < most && out.stream()
                    .noneMatch(o -> Math.abs(o.frames().start() - f.frames().start()) < near && Math.abs(o.frames().end() - f.frames().end()) < near))
                out.add(f);
        return out;
    }

    private static double log2(double x) { return Math.log(x) / Math.log(2); }

    /// Loops that nobody hears are ranked by their length, by how smooth their seams are and how true their pitch is.
    private static double rank(FoundLoop f, long shortest) {
        return Math.max(UNHEARD, f.quality().cost()) + stepCost(f.stepDb()) + CENT_COST * Math.abs(f.quality().centsOff())
                - LENGTH_WORTH * log2((double) f.frames().length() / shortest);
    }

    private static double stepCost(double db) { return STEP_COST_OF_DB * Math.max(0, db - SMALL_STEP_DB); }

    /// With the fade that it needs, and raised where that is worth it.
    private static Optional<FoundLoop> judged(LoopJudge judge, int rateHz, Candidate c) {
        FrameRange loop = new FrameRange(c.start(), c.end());
        FoundLoop best = null;
        double least = Double.POSITIVE_INFINITY;
        for (double riseDb : c.riseDb() == 0 ? new double[]{0} : new double[]{0, c.riseDb()})
            for (int i = 0; i < FADES_SECONDS.length; i++) {
                int fade = (int) (FADES_SECONDS[i] * rateHz);
                if (fade > loop.start() || fade > loop.length() / 2) break;
                LoopQuality quality = judge.judge(loop, fade, riseDb);
                double stepDb = judge.stepDb(loop, fade, riseDb),
                        cost = Math.max(UNHEARD, quality.cost()) + stepCost(stepDb) + FADE_COST * i + (riseDb > 0 ? LEVEL_COST + LEVEL_COST_OF_DB * riseDb : 0);
                if (cost >= least) continue;
                least = cost;
                best = new FoundLoop(loop, LoopMode.FORWARD, fade, riseDb, stepDb, quality);
            }
        return Optional.ofNullable(best);
    }

    /// @param level says how far levels fall; absent where that is not made up for
    private static List<Candidate> candidates(double[][] planes, int rateHz, FrameRange stable, LoopWish wish, Optional<LoopJudge> level,
            BooleanSupplier stopped) {
        long shortest = wish.shortest(), longest = wish.longest();
        int factor = factor(rateHz);
        double[][] coarse = Arrays.stream(planes).limit(2).map(p -> decimated(p, factor)).toArray(double[][]::new);
        int context = (int) Math.min(CONTEXT_SECONDS * rateHz / factor, stable.length() / factor / 3);
        if (context < 4) return new ArrayList<>();
        Correlation correlation = new Correlation(coarse, context);
        ThirdOctaves bands = new ThirdOctaves(1 << Math.max(6, (int) Math.round(log2(SPECTRUM_SECONDS * rateHz))), rateHz);
        List<Candidate> out = new ArrayList<>();
        for (int i = 0; i < ENDS && !stopped.getAsBoolean(); i++) {
            long first = stable.start() + shortest, end = stable.end() - (stable.end() - first) * i / ENDS;
            if (end <= first || end / factor - context < 0) continue;
            double[] likeness = correlation.with((int) (end / factor) - context, context);
            // A start before the stable part would play the attack again.
            int low = (int) Math.max(stable.start(), longest == Long.MAX_VALUE ? 0 : end - longest) / factor - context,
                    high = (int) ((end - shortest) / factor) - context;
            for (int at : peaks(likeness, Math.max(1, low), Math.min(high, likeness.length - 2)))
                out.add(refined(planes, rateHz, (at + context) * factor, (int) end, factor, bands, level));
        }
        return out;
    }

    /// Places that are likest, no two within a few milliseconds.
    private static List<Integer> peaks(double[] likeness, int low, int high) {
        List<Integer> all = new ArrayList<>();
        for (int i = low; i <= high; i++)
            if (likeness[i] >= likeness[i - 1] && likeness[i] > likeness[i + 1] && likeness[i] > 0) all.add(i);
        all.sort(Comparator.comparingDouble(i -> -likeness[i]));
        List<Integer> best = new ArrayList<>(all.subList(0, Math.min(STARTS, all.size())));
        // The earliest of those that are as good as any makes the longest loop.
        if (!all.isEmpty())
            all.stream().filter(i -> likeness[i] > likeness[all.getFirst()] - 0.01).min(Comparator.naturalOrder()).filter(i -> !best.contains(i))
                    .ifPresent(best::add);
        return best;
    }

    /// To the frame, by a shorter stretch before both ends.
    private static Candidate refined(double[][] planes, int rateHz, int start, int end, int within, ThirdOctaves bands, Optional<LoopJudge> level) {
        int context = (int) Math.min(FINE_SECONDS * rateHz, Math.max(8, start - 2 * within));
        int best = start;
        double most = -1;
        for (int s = Math.max(context, start - 2 * within); s <= Math.min(end - 2, start + 2 * within); s++) {
            double product = 0, a = 0, b = 0;
            for (double[] plane : planes)
                for (int n = 1; n <= context && n <= end; n++) {
                    product += plane[s - n] * plane[end - n];
                    a += plane[s - n] * plane[s - n];
                    b += plane[end - n] * plane[end - n];
                }
            double likeness = a * b <= 0 ? 0 : product / Math.sqrt(a * b);
            if (likeness > most) {
                most = likeness;
                best = s;
            }
        }
        FrameRange loop = new FrameRange(best, end);
        double rise = level.map(j -> rise(j, loop)).orElse(0.0);
        double change = 0;
        for (double[] plane : planes)
            change = Math.max(change, bands.change(plane, end - bands.length(), best, rise));
        return new Candidate(best, end, most, change, rise);
    }

    private static double rise(LoopJudge judge, FrameRange loop) {
        double fallen = judge.fallDb(loop);
        return fallen >= LEAST_RISE_DB && fallen <= LoopLevel.MOST_DB && judge.isEvenedBy(loop, fallen) ? fallen : 0;
    }

    /// By which sounds are thinned for a first look.
    static int factor(int rateHz) { return (int) Math.max(1, rateHz / COARSE_HZ); }

    /// Means of runs of frames: enough of a low-pass to find by, as the frames themselves decide.
    static double[] decimated(double[] x, int factor) {
        double[] out = new double[x.length / factor];
        for (int i = 0; i < out.length; i++) {
            for (int n = 0; n < factor; n++)
                out[i] += x[i * factor + n];
            out[i] /= factor;
        }
        return out;
    }
}
