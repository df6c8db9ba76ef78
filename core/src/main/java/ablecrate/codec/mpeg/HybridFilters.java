package ablecrate.codec.mpeg;

import java.util.Arrays;

/// The transforms of layer III within the subbands of one channel.
///
/// Source: ISO/IEC 11172-3:1993, section 2.4.3.4.10 and table B.9.
final class HybridFilters {
    /// Lines of a subband, and frames of it that a granule has.
    static final int LINES = 18;
    private static final int SHORT_LINES = 6, SHORT = 2;
    private static final double[] ALIASES = {-0.6, -0.535, -0.33, -0.185, -0.095, -0.041, -0.0142, -0.0037};
    private static final double[] KEPT = Arrays.stream(ALIASES).map(c -> 1 / Math.sqrt(1 + c * c)).toArray(),
            CROSSED = Arrays.stream(ALIASES).map(c -> c / Math.sqrt(1 + c * c)).toArray();
    /// `[type of block][line][frame]`: what a line becomes, with its window; of short blocks those of the three windows between each other.
    private static final double[][][] TURNS = {turns(0), turns(1), turns(2), turns(3)};

    /// `[subband][frame]`
    private final double[][] overlap = new double[SubbandSynthesis.BANDS][LINES];
    private final double[] block = new double[2 * LINES];

    private static double[][] turns(int type) {
        double[][] turns = new double[LINES][2 * LINES];
        for (int line = 0; line < LINES; line++)
            for (int i = 0; i < 2 * LINES; i++) {
                // Short transforms begin 6 frames after each other, the first one 6 after the block.
                int at = i - SHORT_LINES * (1 + line % 3);
                turns[line][i] = type != SHORT
                        ? window(type, i) * cosine(i, line, LINES)
                        : at < 0 || at >= 2 * SHORT_LINES ? 0 : Math.sin(Math.PI / 12 * (at + 0.5)) * cosine(at, line / 3, SHORT_LINES);
            }
        return turns;
    }

    private static double cosine(int frame, int line, int lines) { return Math.cos(Math.PI / (4 * lines) * (2 * frame + 1 + lines) * (2 * line + 1)); }

    private static double window(int type, int frame) {
        int i = type == 3 ? 2 * LINES - 1 - frame : frame;
        if (type == 0 || i < LINES) return Math.sin(Math.PI / 36 * (i + 0.5));
        return i < 24 ? 1 : i < 30 ? Math.sin(Math.PI / 12 * (i - 18 + 0.5)) : 0;
    }

    /// Forgets what sounded.
    void silence() {
        for (double[] ofBand : overlap)
            Arrays.fill(ofBand, 0);
    }

    /// @param lines changed on the way
    /// @param out `[frame][subband]`
    void add(Granule granule, double[] lines, double[][] out) {
        int joined = !granule.isShort() ? SubbandSynthesis.BANDS : granule.isMixed() ? 2 : 1;
        for (int band = 1; band < joined; band++)
            for (int i = 0; i < ALIASES.length; i++) {
                int above = band * LINES + i, below = band * LINES - 1 - i;
                double low = lines[below], high = lines[above];
                lines[below] = low * KEPT[i] - high * CROSSED[i];
                lines[above] = high * KEPT[i] + low * CROSSED[i];
            }
        for (int band = 0; band < SubbandSynthesis.BANDS; band++) {
            transform(TURNS[granule.isMixed() && band < 2 ? 0 : granule.blockType()], lines, band * LINES);
            double[] before = overlap[band];
            for (int i = 0; i < LINES; i++) {
                double sum = block[i] + before[i];
                // Every other subband has its spectrum the other way round.
                out[i][band] = (band & i & 1) == 1 ? -sum : sum;
            }
            System.arraycopy(block, LINES, before, 0, LINES);
        }
    }

    private void transform(double[][] turns, double[] lines, int first) {
        Arrays.fill(block, 0);
        for (int line = 0, at = first; line < LINES; line += 3, at += 3)
            if (lines[at] != 0 || lines[at + 1] != 0 || lines[at + 2] != 0)
                scaled(turns[line], lines[at], turns[line + 1], lines[at + 1], turns[line + 2], lines[at + 2], block);
    }

    private static void scaled(double[] a, double byA, double[] b, double byB, double[] c, double byC, double[] into) {
        for (int i = 0; i < 2 * LINES; i++)
            into[i] += a[i] * byA + b[i] * byB + c[i] * byC;
    }
}
