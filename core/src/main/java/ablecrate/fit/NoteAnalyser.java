package ablecrate.fit;

import ablecrate.dsp.PowerSpectrum;
import java.util.Arrays;
import java.util.Optional;
import java.util.stream.IntStream;

/// Turns rendered notes into what is heard of them, and into what would be heard on other keys. One per thread.
final class NoteAnalyser {
    static final int RATE_HZ = 44_100;
    /// A reference sounds so long, as a sound that plays faster is over sooner.
    static final double REFERENCE_SECONDS = 2.4;
    /// Keys that a reference is heard away from its own.
    static final int MOST_KEYS = 72;
    private static final int WINDOW = 2048;
    private static final double FINE_SECONDS = 0.16, FINE_STEP = 0.01, STEP = 0.02;
    private static final int FINE_WINDOWS = (int) Math.round(FINE_SECONDS / FINE_STEP),
            WINDOWS = FINE_WINDOWS + (int) Math.round((REFERENCE_SECONDS - FINE_SECONDS) / STEP);
    private static final double LOWEST_HZ = 40, HIGHEST_HZ = 16_000, TILT_FROM_HZ = 500;
    /// What is moved to other keys is kept in bands of a quarter of a semitone, from this frequency on: half as many as bins are.
    private static final int BANDS_PER_OCTAVE = 48;
    private static final double EDGES_FROM_HZ = 20;
    private static final int NARROW_BANDS = (int) (BANDS_PER_OCTAVE * Math.log(RATE_HZ / 2.0 / EDGES_FROM_HZ) / Math.log(2));
    /// Edges of the narrow bands in bins, from the lower edge of the first one.
    private static final double[] EDGE_BINS = IntStream.rangeClosed(0, NARROW_BANDS).mapToDouble(edge -> edgeHz(edge) * WINDOW / RATE_HZ + 0.5).toArray();

    private static final ThreadLocal<NoteAnalyser> OF_THREAD = ThreadLocal.withInitial(NoteAnalyser::new);

    private final PowerSpectrum spectrum = new PowerSpectrum(WINDOW);
    private final Bands ofBins = bands(IntStream.range(0, spectrum.bins()).mapToDouble(bin -> (double) bin * RATE_HZ / WINDOW).toArray());
    private final Bands[] ofKeys = new Bands[2 * MOST_KEYS + 1];
    private final double[][] sum = new double[2][spectrum.bins()];

    private NoteAnalyser() {}

    /// The one of this thread.
    static NoteAnalyser ofThread() { return OF_THREAD.get(); }

    /// Which mel band a bin falls into, counted from the one below the lowest, with its share of that and of the next.
    /// @param first,last the bins that fall into any
    private record Bands(int[] band, double[] lower, double[] upper, int first, int last) {}

    private static double mel(double hertz) { return 2595 * Math.log10(1 + hertz / 700); }

    /// @param hertz of each bin
    private static Bands bands(double[] hertz) {
        int bins = hertz.length, first = bins, last = 0;
        int[] band = new int[bins];
        double[] lower = new double[bins], upper = new double[bins];
        double step = (mel(HIGHEST_HZ) - mel(LOWEST_HZ)) / (HeardNote.BANDS + 1);
        for (int bin = 0; bin < bins; bin++) {
            double place = (mel(hertz[bin]) - mel(LOWEST_HZ)) / step, tilt = Math.max(1, hertz[bin] / TILT_FROM_HZ);
            // What a faster sound would have above half the rate is not there.
            if (place < 0 || place >= HeardNote.BANDS + 1 || hertz[bin] > RATE_HZ / 2.0) continue;
            first = Math.min(first, bin);
            last = bin + 1;
            band[bin] = (int) place;
            upper[bin] = (place - band[bin]) * tilt;
            lower[bin] = tilt - upper[bin];
        }
        return new Bands(band, lower, upper, first, last);
    }

    private static double edgeHz(double edge) { return EDGES_FROM_HZ * Math.pow(2, edge / BANDS_PER_OCTAVE); }

    /// Of the narrow bands, played faster by a number of keys.
    private Bands moved(int keys) {
        if (ofKeys[keys + MOST_KEYS] == null)
            ofKeys[keys + MOST_KEYS] = bands(IntStream.range(0, NARROW_BANDS).mapToDouble(b -> edgeHz(b + 0.5) * Math.pow(2, keys / 12.0)).toArray());
        return ofKeys[keys + MOST_KEYS];
    }

    /// @param sides `[left, right][frame]` of a note
    /// @param blocks of it that are listened to, but for those in which it may go on
    HeardNote heard(double[][] sides, int blocks) {
        double[] cells = new double[2 * HeardNote.BLOCKS * HeardNote.BANDS];
        Optional<Panned> panned = Panned.of(sides);
        double[] left = panned.map(p -> sides[p.louder]).orElse(sides[0]), right = panned.isPresent() ? left : sides[1];
        int end = end(sides);
        for (int block = 0; block < blocks; block++) {
            if (HeardNote.isLate(block)) continue;
            double to = HeardNote.toSeconds(block) - 1e-9;
            clear();
            int count = 0;
            for (double at = HeardNote.fromSeconds(block); at < to; count++) {
                double next = next(at);
                if (panned.isPresent() && next < to && frame(at) < end) {
                    // Two windows of one side in the place of one of both.
                    spectrum.add(left, frame(at), left, frame(next), sum[0], sum[0]);
                    at = next(next);
                    count++;
                    continue;
                }
                if (frame(at) < end) spectrum.add(left, frame(at), right, frame(at), sum[0], sum[1]);
                at = next;
            }
            for (int side = 0; side < (panned.isPresent() ? 1 : 2); side++)
                pool(sum[side], 1.0 / count, ofBins, cells, (side * HeardNote.BLOCKS + block) * HeardNote.BANDS);
        }
        panned.ifPresent(p -> p.spread(cells));
        return new HeardNote(cells);
    }

    private static double next(double at) { return at + (at < FINE_SECONDS - 1e-9 ? FINE_STEP : STEP); }

    /// Behind which there is silence.
    private static int end(double[][] sides) {
        int end = sides[0].length;
        while (end > 0 && sides[0][end - 1] == 0 && sides[1][end - 1] == 0)
            end--;
        return end;
    }

    /// Two sides that are the same but for their level, as of a sound that was recorded in mono.
    /// @param louder which side is, and is looked at for both
    /// @param power of the other side, as a part of the louder one's
    private record Panned(int louder, double power) {
        /// What rounding makes different, as a part of the loudest frame.
        private static final double ROUNDING = 1e-12;

        /// @param sides `[left, right][frame]`
        /// @return empty if they differ in more than level
        static Optional<Panned> of(double[][] sides) {
            int loudest = 0;
            double peak = 0;
            for (int i = 0; i < sides[0].length; i++) {
                double larger = Math.max(Math.abs(sides[0][i]), Math.abs(sides[1][i]));
                if (larger <= peak) continue;
                peak = larger;
                loudest = i;
            }
            int louder = Math.abs(sides[1][loudest]) > Math.abs(sides[0][loudest]) ? 1 : 0;
            double[] loud = sides[louder], soft = sides[1 - louder];
            double factor = peak == 0 ? 1 : soft[loudest] / loud[loudest], most = ROUNDING * peak;
            for (int i = 0; i < loud.length; i++)
                if (Math.abs(soft[i] - factor * loud[i]) > most) return Optional.empty();
            return Optional.of(new Panned(louder, factor * factor));
        }

        /// From the louder side's cells, which lie in the first half, to both.
        private void spread(double[] cells) {
            int half = cells.length / 2;
            for (int cell = 0; cell < half; cell++) {
                double loud = cells[cell], soft = loud * power;
                cells[cell] = louder == 0 ? loud : soft;
                cells[half + cell] = louder == 0 ? soft : loud;
            }
        }
    }

    private static int frame(double seconds) { return (int) Math.round(seconds * RATE_HZ); }

    private void clear() {
        for (double[] row : sum)
            Arrays.fill(row, 0);
    }

    private static void pool(double[] power, double scale, Bands bands, double[] cells, int at) {
        int bin = bands.first;
        double above = 0;
        // Bins stand in the order of their bands; one band more at each end, for what falls beside all of them.
        for (int band = 0; band <= HeardNote.BANDS; band++) {
            double own = above;
            above = 0;
            for (; bin < bands.last && bands.band[bin] == band; bin++) {
                own += power[bin] * bands.lower[bin];
                above += power[bin] * bands.upper[bin];
            }
            if (band > 0) cells[at + band - 1] += own * scale;
        }
    }

    /// A held note by which others are foretold: powers summed up over time, so that a block of any length is one difference.
    /// @param sums `[side][window][narrow band]` of all windows before one, in steps of the finer ones. One side where both differ in nothing but level
    record Reference(double[][][] sums, Optional<Panned> panned) {}

    /// @param sides `[left, right][frame]` of a note that is held for [#REFERENCE_SECONDS]
    Reference reference(double[][] sides) {
        Optional<Panned> panned = Panned.of(sides);
        double[] left = panned.map(p -> sides[p.louder]).orElse(sides[0]), right = panned.isPresent() ? left : sides[1], at = new double[NARROW_BANDS];
        // Of one side, the next window in the place of the other one.
        int step = panned.isPresent() ? 2 : 1;
        double[][][] sums = new double[panned.isPresent() ? 1 : 2][WINDOWS + 1][NARROW_BANDS];
        int end = end(sides);
        for (int window = 0; window < WINDOWS; window += step) {
            clear();
            if (frame(steps(window) * FINE_STEP) < end)
                spectrum.add(left, frame(steps(window) * FINE_STEP), right, frame(steps(window + step - 1) * FINE_STEP), sum[0], sum[1]);
            for (int side = 0; side < 2; side++) {
                int w = step == 2 ? window + side : window, weight = steps(w + 1) - steps(w);
                double[][] into = sums[step == 2 ? 0 : side];
                narrow(sum[side], at);
                for (int band = 0; band < NARROW_BANDS; band++)
                    into[w + 1][band] = into[w][band] + weight * at[band];
            }
        }
        return new Reference(sums, panned);
    }

    /// Where a window of a reference starts, in fine steps: far from the start of the note windows stand for two of them.
    private static int steps(int window) { return Math.max(window, 2 * window - FINE_WINDOWS); }

    private static int window(double seconds) {
        double steps = seconds / FINE_STEP;
        return Math.clamp(Math.round(Math.min(steps, (steps + FINE_WINDOWS) / 2)), 0, WINDOWS);
    }

    /// What each narrow band has of the bins' powers; a bin reaches half a bin to both sides.
    private static void narrow(double[] power, double[] into) {
        int bin = 0;
        double below = 0, last = 0;
        for (int edge = 0; edge <= NARROW_BANDS; edge++) {
            double place = EDGE_BINS[edge];
            for (; bin < (int) place; bin++)
                below += power[bin];
            double now = below + (bin < power.length ? power[bin] * (place - bin) : 0);
            if (edge > 0) into[edge - 1] = now - last;
            last = now;
        }
    }

    /// What is heard of a reference when it is played faster by a number of keys, or slower, while the key is held.
    /// @param gainDb by which it is louder
    HeardNote moved(Reference reference, int keys, double gainDb) {
        double[] cells = new double[2 * HeardNote.BLOCKS * HeardNote.BANDS];
        Bands bands = moved(Math.clamp(keys, -MOST_KEYS, MOST_KEYS));
        double ratio = Math.pow(2, keys / 12.0), gain = Math.pow(10, gainDb / 10);
        double[] power = sum[0];
        for (int block = 0; block < HeardNote.HELD_BLOCKS; block++) {
            int to = Math.max(1, window(HeardNote.toSeconds(block) * ratio)), from = Math.min(window(HeardNote.fromSeconds(block) * ratio), to - 1);
            for (int side = 0; side < reference.sums.length; side++) {
                double[] high = reference.sums[side][to], low = reference.sums[side][from];
                for (int band = bands.first; band < bands.last; band++)
                    power[band] = Math.max(0, high[band] - low[band]);
                pool(power, gain / (steps(to) - steps(from)), bands, cells, (side * HeardNote.BLOCKS + block) * HeardNote.BANDS);
            }
        }
        reference.panned.ifPresent(p -> p.spread(cells));
        return new HeardNote(cells);
    }
}
