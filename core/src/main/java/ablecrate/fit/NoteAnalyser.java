package ablecrate.fit;

import ablecrate.dsp.PowerSpectrum;
import java.util.Arrays;

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

    private static final ThreadLocal<NoteAnalyser> OF_THREAD = ThreadLocal.withInitial(NoteAnalyser::new);

    private final PowerSpectrum spectrum = new PowerSpectrum(WINDOW);
    private final Bands[] bands = new Bands[2 * MOST_KEYS + 1];
    private final double[][] sum = new double[2][spectrum.bins()];

    private NoteAnalyser() {}

    /// The one of this thread.
    static NoteAnalyser ofThread() { return OF_THREAD.get(); }

    /// Which mel band a bin falls into, counted from the one below the lowest, with its share of that and of the next.
    /// @param first,last the bins that fall into any
    private record Bands(int[] band, double[] lower, double[] upper, int first, int last) {}

    private static double mel(double hertz) { return 2595 * Math.log10(1 + hertz / 700); }

    private Bands bands(int keys) {
        Bands known = bands[keys + MOST_KEYS];
        if (known != null) return known;
        int bins = spectrum.bins();
        int[] band = new int[bins];
        double[] lower = new double[bins], upper = new double[bins];
        double step = (mel(HIGHEST_HZ) - mel(LOWEST_HZ)) / (HeardNote.BANDS + 1), ratio = Math.pow(2, keys / 12.0);
        int first = bins, last = 0;
        for (int bin = 0; bin < bins; bin++) {
            double hertz = ratio * bin * RATE_HZ / WINDOW, place = (mel(hertz) - mel(LOWEST_HZ)) / step, tilt = Math.max(1, hertz / TILT_FROM_HZ);
            // What a faster sound would have above half the rate is not there.
            if (place < 0 || place >= HeardNote.BANDS + 1 || hertz > RATE_HZ / 2.0) continue;
            first = Math.min(first, bin);
            last = bin + 1;
            band[bin] = (int) place;
            upper[bin] = (place - band[bin]) * tilt;
            lower[bin] = tilt - upper[bin];
        }
        return bands[keys + MOST_KEYS] = new Bands(band, lower, upper, first, last);
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
                pool(sum[isMono ? 0 : side], 1.0 / count, bands(0), cells, (side * HeardNote.BLOCKS + block) * HeardNote.BANDS);
        }
        return new HeardNote(cells);
    }

    private static int frame(double seconds) { return (int) Math.round(seconds * RATE_HZ); }

    private void clear() {
        for (double[] row : sum)
            Arrays.fill(row, 0);
    }

    private static void pool(double[] power, double scale, Bands bands, double[] cells, int at) {
        // One band more at each end, for what falls beside all of them.
        double[] sums = new double[HeardNote.BANDS + 2];
        int[] band = bands.band;
        for (int bin = bands.first; bin < bands.last; bin++) {
            sums[band[bin]] += power[bin] * bands.lower[bin];
            sums[band[bin] + 1] += power[bin] * bands.upper[bin];
        }
        for (int i = 0; i < HeardNote.BANDS; i++)
            cells[at + i] += sums[i + 1] * scale;
    }

    /// A held note by which others are foretold: powers summed up over time, so that a block of any length is one difference.
    /// @param sums `[side][window][bin]`; window w starts at w · STEP seconds. Of sides that are the same, one array
    record Reference(double[][][] sums) {
        boolean isMono() { return sums[0] == sums[1]; }
    }

    /// @param sides `[left, right][frame]` of a note that is held for [#REFERENCE_SECONDS]
    Reference reference(double[][] sides) {
        int windows = (int) Math.round(REFERENCE_SECONDS / FINE_STEP);
        boolean isMono = Arrays.equals(sides[0], sides[1]);
        double[][][] sums = new double[2][][];
        for (int side = 0; side < 2; side++)
            sums[side] = side == 1 && isMono ? sums[0] : new double[windows + 1][spectrum.bins()];
        double[][] at = new double[2][spectrum.bins()];
        for (int w = 0; w < windows; w++) {
            // Far from the start windows stand for two steps.
            boolean isCounted = w * FINE_STEP < FINE_SECONDS || w % 2 == 0;
            if (isCounted) {
                clear();
                spectrum.add(sides[0], frame(w * FINE_STEP), sides[1], frame(w * FINE_STEP), sum[0], sum[1]);
            }
            for (int side = 0; side < (isMono ? 1 : 2); side++)
                for (int bin = 0; bin < at[side].length; bin++) {
                    at[side][bin] += sum[side][bin];
                    sums[side][w + 1][bin] = at[side][bin];
                }
        }
        return new Reference(sums);
    }

    /// What is heard of a reference when it is played faster by a number of keys, or slower, while the key is held.
    HeardNote moved(Reference reference, int keys) {
        double[] cells = new double[2 * HeardNote.BLOCKS * HeardNote.BANDS];
        Bands bands = bands(Math.clamp(keys, -MOST_KEYS, MOST_KEYS));
        double ratio = Math.pow(2, keys / 12.0);
        int windows = reference.sums[0].length - 1;
        double[] power = sum[0];
        for (int block = 0; block < HeardNote.HELD_BLOCKS; block++) {
            int to = Math.clamp((int) Math.round(HeardNote.edgeSeconds(block + 1) * ratio / FINE_STEP), 1, windows),
                    from = Math.clamp((int) Math.round(HeardNote.edgeSeconds(block) * ratio / FINE_STEP), 0, to - 1);
            for (int side = 0; side < (reference.isMono() ? 1 : 2); side++) {
                double[] high = reference.sums[side][to], low = reference.sums[side][from];
                for (int bin = bands.first; bin < bands.last; bin++)
                    power[bin] = Math.max(0, high[bin] - low[bin]);
                pool(power, 1.0 / (to - from), bands, cells, (side * HeardNote.BLOCKS + block) * HeardNote.BANDS);
            }
        }
        if (reference.isMono()) System.arraycopy(cells, 0, cells, cells.length / 2, cells.length / 2);
        return new HeardNote(cells);
    }
}
