package ablecrate.codec.mpeg;

import ablecrate.codec.BitReader;

/// Scale factors of layer III, one a band of the layout; of intensity stereo the places between left and right.
///
/// Source: ISO/IEC 11172-3:1993, section 2.4.2.7 and table B.6; ISO/IEC 13818-3:1998, section 2.4.3.2.
final class ScaleFactors {
    /// What a place between left and right is that stands for none.
    static final int NO_PLACE = -1;
    private static final int[] FIRST_BITS = {0, 0, 0, 0, 3, 1, 1, 1, 2, 2, 2, 3, 3, 3, 4, 4}, SECOND_BITS = {0, 1, 2, 3, 0, 1, 2, 3, 1, 2, 3, 1, 2, 3, 2, 3};
    /// Groups of long bands that the second granule may share with the first.
    private static final int[] GROUP_EDGES = {0, 6, 11, 16, 21};
    private static final int[] RAISED = {0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 1, 1, 1, 1, 2, 2, 3, 3, 3, 2, 0};
    /// `[kind of code][long, short, mixed]`: how many bands have each of four lengths, in lower versions.
    private static final int[][][] COUNTS = {{{6, 5, 5, 5}, {9, 9, 9, 9}, {6, 9, 9, 9}}, {{6, 5, 7, 3}, {9, 9, 12, 6}, {6, 9, 12, 6}},
        {{11, 10, 0, 0}, {18, 18, 0, 0}, {15, 18, 0, 0}}, {{7, 7, 7, 0}, {12, 12, 12, 0}, {6, 15, 12, 0}}, {{6, 6, 6, 3}, {12, 9, 9, 6}, {6, 12, 9, 6}},
        {{8, 8, 5, 0}, {15, 12, 9, 0}, {6, 18, 9, 0}}};

    private final int[] values = new int[39], most = new int[39];
    private boolean raisesHigh;

    /// Of MPEG-1.
    /// @param shared groups that stay as they were in the granule before
    void read(BitReader in, Granule granule, BandLayout layout, boolean[] shared) {
        raisesHigh = granule.raisesHigh();
        int first = FIRST_BITS[granule.scaleCode()], second = SECOND_BITS[granule.scaleCode()];
        if (!granule.isShort()) {
            for (int group = 0; group < shared.length; group++)
                for (int band = GROUP_EDGES[group]; band < GROUP_EDGES[group + 1]; band++)
                    if (!shared[group]) put(in, band, band < GROUP_EDGES[2] ? first : second);
            values[GROUP_EDGES[4]] = 0;
            return;
        }
        // Of the last three windows nothing is said; the first half of the rest has the first length.
        int told = layout.bands() - 3, half = told - 18;
        for (int band = 0; band < layout.bands(); band++)
            put(in, band, band >= told ? 0 : band < half ? first : second);
    }

    /// Of lower versions.
    /// @param isPlaces whether they are places between left and right
    void readLow(BitReader in, Granule granule, BandLayout layout, boolean isPlaces) {
        int code = granule.scaleCode(), kind;
        int[] bits;
        raisesHigh = false;
        if (isPlaces) {
            code >>= 1;
            kind = code < 180 ? 3 : code < 244 ? 4 : 5;
            code -= kind == 3 ? 0 : kind == 4 ? 180 : 244;
            bits = kind == 3
                    ? new int[]{code / 36, code % 36 / 6, code % 6, 0}
                    : kind == 4 ? new int[]{code >> 4 & 3, code >> 2 & 3, code & 3, 0} : new int[]{code / 3, code % 3, 0, 0};
        } else {
            kind = code < 400 ? 0 : code < 500 ? 1 : 2;
            code -= kind == 0 ? 0 : kind == 1 ? 400 : 500;
            bits = kind == 0
                    ? new int[]{(code >> 4) / 5, (code >> 4) % 5, code >> 2 & 3, code & 3}
                    : kind == 1 ? new int[]{(code >> 2) / 5, (code >> 2) % 5, code & 3, 0} : new int[]{code / 3, code % 3, 0, 0};
            raisesHigh = kind == 2;
        }
        int band = 0;
        int[] counts = COUNTS[kind][granule.layout()];
        for (int part = 0; part < counts.length; part++)
            for (int i = 0; i < counts[part] && band < layout.bands(); i++)
                put(in, band++, bits[part]);
        while (band < layout.bands())
            put(in, band++, 0);
    }

    private void put(BitReader in, int band, int bits) {
        values[band] = in.bits(bits);
        most[band] = (1 << bits) - 1;
    }

    int of(int band, boolean isLong) { return values[band] + (raisesHigh && isLong ? RAISED[band] : 0); }

    /// The place between left and right of a band; [#NO_PLACE] where the sides are coded as elsewhere.
    int place(int band, boolean isFirstVersion) {
        int value = values[band];
        boolean isNone = isFirstVersion ? value >= 7 : most[band] > 0 && value == most[band];
        return isNone ? NO_PLACE : value;
    }
}
