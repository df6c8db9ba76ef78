package ablecrate.codec.aac;

import ablecrate.codec.BitReader;
import java.io.IOException;

/// How one channel of a packet, or both of a pair, are windowed and parted: `ics_info`.
///
/// | bits | field |
/// |-----:|-------|
/// | 1 | reserved |
/// | 2 | sequence of windows |
/// | 1 | shape of slopes |
/// | 6 or 4 | bands that are coded; 4 bits for eight short windows |
/// | 1 or 7 | 1 if a predictor is used, which low complexity has not; for short windows 1 for each that shares its scale factors with the one before it |
///
/// Source: ISO/IEC 14496-3:2009, table 4.6.
/// @param bands that are coded in each group
/// @param groups `[group]`: its number of windows
record ChannelInfo(FilterBank.Sequence sequence, int shape, int bands, int[] groups, int[] edges) {
    static ChannelInfo read(BitReader in, Bands all) throws IOException {
        in.skip(1);
        FilterBank.Sequence sequence = FilterBank.Sequence.of(in.bits(2));
        int shape = in.bits(1);
        boolean isShort = sequence == FilterBank.Sequence.EIGHT_SHORT;
        int bands = in.bits(isShort ? 4 : 6);
        int[] edges = all.edges(isShort), groups = {1};
        if (isShort)
            groups = groups(in.bits(7));
        else
            if (in.flag()) throw new IOException("an AAC packet uses a predictor, which low complexity has not");
        if (bands >= edges.length) throw new IOException("an AAC packet codes " + bands + " of " + (edges.length - 1) + " bands");
        return new ChannelInfo(sequence, shape, bands, groups, edges);
    }

    private static int[] groups(int joined) {
        int[] groups = new int[FilterBank.SHORT_WINDOWS - Integer.bitCount(joined)];
        int group = 0;
        groups[0] = 1;
        for (int bit = 6; bit >= 0; bit--) {
            if ((joined >> bit & 1) == 0) group++;
            groups[group]++;
        }
        return groups;
    }

    boolean isShort() { return sequence == FilterBank.Sequence.EIGHT_SHORT; }

    /// Lines of one window.
    int lines() { return isShort() ? FilterBank.SHORT_LINES : FilterBank.LINES; }

    int windows() { return isShort() ? FilterBank.SHORT_WINDOWS : 1; }
}
