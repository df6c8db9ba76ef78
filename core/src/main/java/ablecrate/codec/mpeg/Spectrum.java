package ablecrate.codec.mpeg;

import ablecrate.codec.BitReader;
import ablecrate.codec.FormatException;
import java.util.Arrays;

/// The lines of one channel of a granule of layer III.
///
/// Source: ISO/IEC 11172-3:1993, section 2.4.3.4.
final class Spectrum {
    private static final int LARGEST = 15 + (1 << 13) - 1;
    /// Amounts to the power of 4/3 with their signs, from the least that can be coded to the largest.
    private static final double[] POWERS = powers();
    /// Quarters of 6 dB, from this one on.
    private static final int LEAST_STEP = -600;
    private static final double[] STEPS = steps();
    private static final int NO_GAIN = 210, WINDOW_STEP = 8;

    /// As coded, in the order of the bands.
    private final int[] coded = new int[BandLayout.LINES + 4];
    final double[] lines = new double[BandLayout.LINES];
    /// In the order of the bands; above them all are 0.
    private int used;

    private static double[] powers() {
        double[] powers = new double[2 * LARGEST + 1];
        for (int i = 0; i <= LARGEST; i++) {
            powers[LARGEST + i] = Math.pow(i, 4 / 3.0);
            powers[LARGEST - i] = -powers[LARGEST + i];
        }
        return powers;
    }

    private static double[] steps() {
        double[] steps = new double[1000];
        for (int i = 0; i < steps.length; i++)
            steps[i] = Math.pow(2, (i + LEAST_STEP) / 4.0);
        return steps;
    }

    /// @param end bit behind its last one
    void read(BitReader in, Granule granule, long end) throws FormatException {
        Arrays.fill(coded, 0);
        int at = 0;
        int[] edges = {Math.min(granule.secondRegion(), granule.pairLines()), Math.min(granule.thirdRegion(), granule.pairLines()), granule.pairLines()};
        for (int region = 0; region < 3; region++) {
            if (granule.books()[region] == 0 || at >= edges[region])
                at = Math.max(at, edges[region]);
            else
                if (Codebook.exists(granule.books()[region]))
                    at = pairs(in, Codebook.of(granule.books()[region]), at, edges[region]);
                else
                    throw new FormatException("code " + granule.books()[region] + " is none", "", "");
        }
        if (in.position() > end) throw new FormatException("lines go on behind their granule", "", "");
        Codebook four = Codebook.ofFour(granule.fourBook());
        while (in.position() < end && at + 4 <= BandLayout.LINES) {
            int symbol = four.symbol(in);
            for (int i = 0; i < 4; i++)
                coded[at + i] = (symbol >> 3 - i & 1) == 0 ? 0 : in.flag() ? -1 : 1;
            // The last ones may be filling only (common practice).
            if (in.position() > end) Arrays.fill(coded, at, at + 4, 0);
            at += 4;
        }
        used = at;
        while (used > 0 && coded[used - 1] == 0)
            used--;
    }

    private int pairs(BitReader in, Codebook book, int from, int to) {
        int more = book.moreBits();
        for (int at = from; at < to; at += 2) {
            int symbol = book.symbol(in);
            coded[at] = signed(in, symbol >> 4, more);
            coded[at + 1] = signed(in, symbol & 15, more);
        }
        return to;
    }

    private static int signed(BitReader in, int amount, int more) {
        if (amount == 0) return 0;
        int value = amount == 15 && more > 0 ? amount + in.bits(more) : amount, sign = -in.bits(1);
        return (value ^ sign) - sign;
    }

    /// Takes the lines to their places and levels.
    void scale(Granule granule, BandLayout layout, ScaleFactors factors) {
        Arrays.fill(lines, 0);
        for (int band = 0, at = 0; band < layout.bands() && at < used; at += layout.width()[band++]) {
            boolean isLong = band < layout.longBands();
            int step = granule.gain() - NO_GAIN - granule.scaleStep() * factors.of(band, isLong)
                    - (isLong ? 0 : WINDOW_STEP * granule.windowGains()[layout.window(band)]);
            double scale = STEPS[step - LEAST_STEP];
            int to = layout.start()[band], stride = layout.stride(band), last = Math.min(used, at + layout.width()[band]);
            for (int i = at; i < last; i++, to += stride)
                lines[to] = POWERS[LARGEST + coded[i]] * scale;
        }
    }
}
