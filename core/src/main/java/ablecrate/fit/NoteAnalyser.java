package ablecrate.fit;

import ablecrate.dsp.PowerSpectrum;
import java.util.Arrays;
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

    /// @param sides `[left, right][frame]` of a note of the usual length
    HeardNote heard(double[][] sides) {
        double[] cells = new double[2 * HeardNote.BLOCKS * HeardNote.BANDS];
        boolean isMono = Arrays.equals(sides[0], sides[1]);
        for (int block = 0; block < HeardNote.BLOCKS; block++) {
            clear();
            int count = 0;
            for (double at = HeardNote.edgeSeconds(block); at < HeardNote.edgeSeconds(block + 1) - 1e-9; count++) {
                double next = at + (at < FINE_SECONDS - 1e-9 ? FINE_STEP : STEP);
                if (isMono && next < HeardNote.edgeSeconds(block + 1) - 1e-9) {
                    // Two windows of one side in the place of one of both.
                    spectrum.add(sides[0], frame(at), sides[0], frame(next), sum[0], sum[0]);
                    at = next + (next < FINE_SECONDS - 1e-9 ? FINE_STEP : STEP);
                    count++;
                } else {
                    spectrum.add(sides[0], frame(at), sides[1], frame(at), sum[0], sum[1]);
                    at = next;
                }
            }
            for (int side = 0; side < 2; side++)
                pool(sum[isMono ? 0 : side], 1.0 / count, ofBins, cells, (side * HeardNote.BLOCKS + block) * HeardNote.BANDS);
        }
        return new HeardNote(cells);
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
    /// @param sums `[side][window][narrow band]`; window w starts at w · STEP seconds. Of sides that are the same, one array
    record Reference(double[][][] sums) {
        boolean isMono() { return sums[0] == sums[1]; }
    }

    /// @param sides `[left, right][frame]` of a note that is held for [#REFERENCE_SECONDS]
    Reference reference(double[][] sides) {
        int windows = (int) Math.round(REFERENCE_SECONDS / FINE_STEP);
        boolean isMono = Arrays.equals(sides[0], sides[1]);
        double[][][] sums = new double[2][][];
        for (int side = 0; side < 2; side++)
            sums[side] = side == 1 && isMono ? sums[0] : new double[windows + 1][NARROW_BANDS];
        double[][] at = new double[2][NARROW_BANDS], power = {sum[0], sum[1]};
        boolean isKnown = false;
        for (int w = 0; w < windows; w++) {
            if (isCounted(w) && isKnown) {
                power[0] = sum[1];
                isKnown = false;
            } else if (isCounted(w)) {
                clear();
                power[0] = sum[0];
                // Of one side, the next window in the place of the other one.
                isKnown = isMono;
                int second = isMono ? isCounted(w + 1) ? w + 1 : w + 2 : w;
                spectrum.add(sides[0], frame(w * FINE_STEP), sides[1], frame(second * FINE_STEP), sum[0], sum[1]);
            }
            for (int side = 0; side < (isMono ? 1 : 2); side++) {
                if (isCounted(w)) narrow(power[side], at[side]);
                for (int band = 0; band < NARROW_BANDS; band++)
                    sums[side][w + 1][band] = sums[side][w][band] + at[side][band];
            }
        }
        return new Reference(sums);
    }

    /// Far from the start windows stand for two steps.
    private static boolean isCounted(int window) { return window * FINE_STEP < FINE_SECONDS || window % 2 == 0; }

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
    HeardNote moved(Reference reference, int keys) {
        double[] cells = new double[2 * HeardNote.BLOCKS * HeardNote.BANDS];
        Bands bands = moved(Math.clamp(keys, -MOST_KEYS, MOST_KEYS));
        double ratio = Math.pow(2, keys / 12.0);
        int windows = reference.sums[0].length - 1;
        double[] power = sum[0];
        for (int block = 0; block < HeardNote.HELD_BLOCKS; block++) {
            int to = Math.clamp((int) Math.round(HeardNote.edgeSeconds(block + 1) * ratio / FINE_STEP), 1, windows),
                    from = Math.clamp((int) Math.round(HeardNote.edgeSeconds(block) * ratio / FINE_STEP), 0, to - 1);
            for (int side = 0; side < (reference.isMono() ? 1 : 2); side++) {
                double[] high = reference.sums[side][to], low = reference.sums[side][from];
                for (int band = bands.first; band < bands.last; band++)
                    power[band] = Math.max(0, high[band] - low[band]);
                pool(power, 1.0 / (to - from), bands, cells, (side * HeardNote.BLOCKS + block) * HeardNote.BANDS);
            }
        }
        if (reference.isMono()) System.arraycopy(cells, 0, cells, cells.length / 2, cells.length / 2);
        return new HeardNote(cells);
    }
}
