package ablecrate.detect;

import ablecrate.audio.FrameRange;
import ablecrate.dsp.Decibels;
import ablecrate.dsp.LoopCrossfade;
import ablecrate.dsp.LoopLevel;
import ablecrate.dsp.PitchDetector;
import ablecrate.dsp.Seam;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;

/// Says how well a loop of one sound can be heard.
///
/// What changes across the seam is held against what changes in the sound by itself: third-octave levels in windows of about 12, 45 and 150 ms, before and
/// after five points of the fade and the seam; 1 is the 90th percentile of the same at 150 places of the sound without a loop. A loop that only hides its
/// click behind a crossfade still changes the spectrum there. All channels are judged, the worst decides.
///
/// One per thread.
public final class LoopJudge {
    private static final double[] WINDOW_SECONDS = {0.012, 0.045, 0.150};
    private static final int PLACES = 150, FADE_POINTS = 5;
    private static final double CLICK_SECONDS = 0.0007, LEVEL_SECONDS = 0.05, USUAL_SHARE = 0.9;
    /// Changes below this nobody hears, however steady the sound is.
    private static final double LEAST_CHANGE_DB = 0.3;
    private static final double EVEN_SECONDS = 0.03, EVENED = 0.7;
    private static final int FEWEST_LEVELS = 4;
    private static final double HELD_DB = -30, RISEN_DB = -6, BLOCK_SECONDS = 0.01, AFTER_ATTACK_SECONDS = 0.05;

    private final double[][] planes;
    private final int rateHz, frames;
    private final Window[] windows;
    private final double usualClick;
    private final FrameRange stable;
    private final OptionalDouble period;

    /// A length of window, and what the sound changes by itself between two of them.
    static final class Window {
        private final ThirdOctaves bands;
        private double usualDb = LEAST_CHANGE_DB;

        ThirdOctaves bands() { return bands; }

        double usualDb() { return usualDb; }

        Window(int rateHz, double seconds) {
            int nearest = (int) Math.round(Math.log(seconds * rateHz) / Math.log(2));
            bands = new ThirdOctaves(1 << Math.max(6, nearest), rateHz);
        }
    }

    /// @param planes `[channel][frame]`, all of the sound
    public LoopJudge(double[][] planes, int rateHz) {
        this.planes = planes;
        this.rateHz = rateHz;
        frames = planes[0].length;
        stable = stable();
        period = measuredPeriod();
        windows = Arrays.stream(WINDOW_SECONDS).mapToObj(s -> new Window(rateHz, s)).toArray(Window[]::new);
        for (Window window : windows)
            window.usualDb = Math.max(LEAST_CHANGE_DB, usual(window));
        usualClick = usualClick();
    }

    double[][] planes() { return planes; }

    List<Window> windows() { return List.of(windows); }

    /// From behind the attack to where the sound has died away.
    public FrameRange stablePart() { return stable; }

    /// Frames of a period, where the sound has a pitch.
    public OptionalDouble period() { return period; }

    private FrameRange stable() {
        int block = (int) Math.max(1, BLOCK_SECONDS * rateHz), count = Math.max(1, frames / block);
        double[] power = new double[count];
        double most = 0;
        for (int i = 0; i < count; i++) {
            for (double[] plane : planes)
                for (int n = i * block; n < Math.min(frames, (i + 1) * block); n++)
                    power[i] += plane[n] * plane[n];
            most = Math.max(most, power[i]);
        }
        int first = 0, last = count - 1;
        while (first < last && power[first] < most * Decibels.toFactor(2 * RISEN_DB))
            first++;
        while (last > first && power[last] < most * Decibels.toFactor(2 * HELD_DB))
            last--;
        long start = Math.min(first * (long) block + (long) (AFTER_ATTACK_SECONDS * rateHz), frames / 2),
                end = last == count - 1 ? frames : (last + 1L) * block;
        return new FrameRange(start, Math.max(start + 1, end));
    }

    /// Refined over as many periods as the stable part has, so that a tenth of a cent counts.
    private OptionalDouble measuredPeriod() {
        int from = (int) stable.start(), length = (int) Math.min(stable.length(), rateHz);
        double[] mono = new double[length];
        for (double[] plane : planes)
            for (int i = 0; i < length; i++)
                mono[i] += plane[from + i];
        Optional<PitchDetector.Pitch> pitch = PitchDetector.detect(mono, rateHz);
        if (pitch.isEmpty()) return OptionalDouble.empty();
        double found = rateHz / pitch.get().hz();
        for (int periods = 1; periods * found < length / 2.0; periods *= 2)
            found = nearest(mono, periods * found, found / 4) / periods;
        return OptionalDouble.of(found);
    }

    /// The shift near a wanted one at which the sound is most like itself, between frames by a parabola.
    private static double nearest(double[] x, double wanted, double within) {
        int low = (int) Math.max(1, Math.floor(wanted - within)), high = (int) Math.ceil(wanted + within), width = x.length - high - 1;
        double[] likeness = new double[high - low + 1];
        int best = 0;
        for (int i = 0; i < likeness.length; i++) {
            double product = 0, energy = 0;
            for (int n = 0; n < width; n++) {
                product += x[n] * x[n + low + i];
                energy += x[n + low + i] * x[n + low + i];
            }
            likeness[i] = energy == 0 ? 0 : product / Math.sqrt(energy);
            if (likeness[i] > likeness[best]) best = i;
        }
        if (best == 0 || best == likeness.length - 1) return wanted;
        double a = likeness[best - 1], b = likeness[best], c = likeness[best + 1], bend = a - 2 * b + c;
        return low + best + (bend == 0 ? 0 : (a - c) / (2 * bend));
    }

    private int place(int i, int margin) {
        long from = Math.max(margin, stable.start()), to = Math.max(from, Math.min(frames - margin, stable.end()));
        return (int) (from + (to - from) * i / PLACES);
    }

    private double usual(Window window) {
        int length = window.bands.length();
        if (frames < 2 * length) return LEAST_CHANGE_DB;
        double[] changes = new double[PLACES];
        for (int i = 0; i < PLACES; i++)
            for (double[] plane : planes) {
                int at = place(i, length);
                changes[i] = Math.max(changes[i], window.bands.change(plane, at - length, at));
            }
        Arrays.sort(changes);
        return changes[(int) (USUAL_SHARE * (PLACES - 1))];
    }

    private double usualClick() {
        double[] found = new double[PLACES];
        int around = clickFrames();
        for (int i = 0; i < PLACES; i++)
            for (double[] plane : planes)
                found[i] = Math.max(found[i], bend(plane, place(i, around + 2), around));
        Arrays.sort(found);
        return found[(int) (USUAL_SHARE * (PLACES - 1))];
    }

    private int clickFrames() { return (int) Math.max(2, CLICK_SECONDS * rateHz / 2); }

    /// Energy of the second difference around a place.
    private static double bend(double[] x, int at, int around) {
        double sum = 0;
        for (int n = Math.max(1, at - around); n < Math.min(x.length - 1, at + around); n++) {
            double bend = x[n - 1] - 2 * x[n] + x[n + 1];
            sum += bend * bend;
        }
        return sum;
    }

    /// How much softer the sound is before a loop's end than before its start, in dB.
    double fallDb(FrameRange loop) {
        int count = (int) Math.min(LEVEL_SECONDS * rateHz, Math.min(loop.start(), loop.length()));
        double start = 1e-20, end = 1e-20;
        for (double[] plane : planes)
            for (int n = 1; n <= count; n++) {
                start += plane[(int) loop.start() - n] * plane[(int) loop.start() - n];
                end += plane[(int) loop.end() - n] * plane[(int) loop.end() - n];
            }
        return 10 * Math.log10(start / end);
    }

    /// Whether a loop that is raised is clearly more even than as it is: not so where it only beats, and its ends happen to differ.
    boolean isEvenedBy(FrameRange loop, double riseDb) {
        int window = (int) Math.max(1, EVEN_SECONDS * rateHz), count = (int) (2 * loop.length() / window) - 1;
        if (count < FEWEST_LEVELS) return true;
        double[] asItIs = new double[count], raised = new double[count];
        for (int i = 0; i < count; i++) {
            long from = loop.start() + (long) i * window / 2;
            double power = 1e-20;
            for (double[] plane : planes)
                for (long n = from; n < from + window; n++)
                    power += plane[(int) n] * plane[(int) n];
            asItIs[i] = 10 * Math.log10(power);
            raised[i] = asItIs[i] + riseDb * (from + window / 2 - loop.start()) / loop.length();
        }
        return deviation(raised) < EVENED * deviation(asItIs);
    }

    private static double deviation(double[] x) {
        double mean = Arrays.stream(x).average().orElse(0);
        return Math.sqrt(Arrays.stream(x).map(v -> (v - mean) * (v - mean)).average().orElse(0));
    }

    /// @param loop at least two frames, within the sound
    /// @param crossfadeFrames at most the loop's length, and what lies before it
    /// @param riseDb by which the sound is raised within the loop
    public LoopQuality judge(FrameRange loop, int crossfadeFrames, double riseDb) {
        int reach = windows[windows.length - 1].bands.length() + crossfadeFrames;
        double[][] played = played(loop, crossfadeFrames, riseDb, reach);
        double bump = 0;
        for (Window window : windows)
            for (int point = 0; point < FADE_POINTS; point++) {
                int at = reach - crossfadeFrames * point / (FADE_POINTS - 1), length = window.bands.length();
                if (crossfadeFrames == 0 && point > 0) break;
                for (double[] plane : played)
                    bump = Math.max(bump, window.bands.change(plane, at - length, at) / window.usualDb);
            }
        double before = 1e-20, after = 1e-20;
        int level = (int) Math.min(reach, LEVEL_SECONDS * rateHz);
        for (double[] plane : played)
            for (int n = 0; n < level; n++) {
                before += plane[reach - 1 - n] * plane[reach - 1 - n];
                after += plane[reach + n] * plane[reach + n];
            }
        return new LoopQuality(bump, clickDb(played, reach), 10 * Math.log10(after / before), cents(loop.length()));
    }

    /// Energy of the second difference at a place of what is played, over that of the sound itself, in dB.
    double clickDb(double[][] played, int at) {
        double click = 0;
        for (double[] plane : played)
            click = Math.max(click, bend(plane, at, clickFrames()));
        return 10 * Math.log10((click + 1e-20) / (usualClick + 1e-20));
    }

    private double cents(long length) {
        if (period.isEmpty()) return 0;
        double periods = length / period.getAsDouble();
        return 1200 * Math.log(Math.max(1, Math.rint(periods)) / periods) / Math.log(2);
    }

    /// What is heard around the seam: `reach` frames before and after it.
    double[][] played(FrameRange loop, int crossfadeFrames, double riseDb, int reach) {
        int start = (int) loop.start(), length = (int) loop.length();
        double[][] tail = new double[planes.length][], lead = new double[planes.length][], out = new double[planes.length][2 * reach];
        for (int channel = 0; channel < planes.length; channel++) {
            tail[channel] = Arrays.copyOfRange(planes[channel], start + length - crossfadeFrames, start + length);
            lead[channel] = Arrays.copyOfRange(planes[channel], start - crossfadeFrames, start);
        }
        LoopLevel.raise(tail, loop, riseDb, loop.end() - crossfadeFrames);
        LoopLevel.raise(lead, loop, riseDb, loop.start() - crossfadeFrames);
        if (crossfadeFrames > 0) LoopCrossfade.blend(tail, lead);
        for (int n = 0; n < 2 * reach; n++) {
            int inLoop = Math.floorMod(n - reach, length), fromEnd = inLoop - (length - crossfadeFrames);
            double factor = riseDb == 0 || fromEnd >= 0 ? 1 : LoopLevel.factor(loop, riseDb, start + inLoop);
            for (int channel = 0; channel < planes.length; channel++)
                out[channel][n] = fromEnd >= 0 ? tail[channel][fromEnd] : planes[channel][start + inLoop] * factor;
        }
        return out;
    }

    /// The step that is left at the seam, see [Seam].
    double stepDb(FrameRange loop, int crossfadeFrames, double riseDb) {
        int around = (int) Math.min(Seam.AROUND, loop.length());
        double[][] played = played(loop, crossfadeFrames, riseDb, around);
        return Seam.stepDb(Arrays.stream(played).map(p -> Arrays.copyOfRange(p, 0, around)).toArray(double[][]::new),
                Arrays.stream(played).map(p -> Arrays.copyOfRange(p, around, 2 * around)).toArray(double[][]::new));
    }
}
