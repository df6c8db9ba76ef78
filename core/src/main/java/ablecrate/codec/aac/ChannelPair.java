package ablecrate.codec.aac;

import ablecrate.codec.BitReader;
import java.io.IOException;
import java.util.Arrays;

/// Two channels of a packet that may be coded as their middle and side, or one after the other's measure.
///
/// 1 bit if both are windowed alike; then [ChannelInfo] of both, 2 bits of whether middle and side are coded (0 nowhere, 1 as a bit for each band says, 2 everywhere).
///
/// Source: ISO/IEC 14496-3:2009, table 4.4 and sections 4.6.8, 4.6.13.
final class ChannelPair {
    private static final int BY_BAND = 1, EVERYWHERE = 2;

    private final ChannelStream left, right;
    /// `[group × bands + band]`
    private final boolean[] isMiddleAndSide = new boolean[ChannelStream.MOST_BANDS];
    private boolean saysByBand;

    ChannelPair(ChannelStream left, ChannelStream right) {
        this.left = left;
        this.right = right;
    }

    /// @param seed of noise
    void read(BitReader in, Bands bands, int seed) throws IOException {
        ChannelInfo shared = in.flag() ? ChannelInfo.read(in, bands) : null;
        int kind = shared != null ? in.bits(2) : 0;
        saysByBand = kind == BY_BAND;
        Arrays.fill(isMiddleAndSide, kind == EVERYWHERE);
        if (saysByBand)
            for (int i = 0; i < shared.groups().length * shared.bands(); i++)
                isMiddleAndSide[i] = in.flag();
        left.read(in, shared, bands);
        right.read(in, shared, bands);
        left.fillNoise(seed);
        right.fillNoise(~seed);
        if (shared != null) join();
    }

    private void join() {
        ChannelInfo info = left.info;
        for (int window = 0, group = 0; group < info.groups().length; window += info.groups()[group++])
            for (int band = 0; band < info.bands(); band++)
                for (int w = window; w < window + info.groups()[group]; w++)
                    join(group * info.bands() + band, w * info.lines() + info.edges()[band], w * info.lines() + info.edges()[band + 1]);
    }

    private void join(int i, int from, int to) {
        int book = right.books[i];
        if (book == ChannelStream.INTENSITY || book == ChannelStream.INTENSITY_OPPOSITE) {
            boolean isOpposite = (book == ChannelStream.INTENSITY_OPPOSITE) != (saysByBand && isMiddleAndSide[i]);
            copy(from, to, Math.pow(0.5, right.factors[i] / 4.0) * (isOpposite ? -1 : 1));
        } else
            if (isMiddleAndSide[i] && book <= ChannelStream.LAST_OF_VALUES && left.books[i] <= ChannelStream.LAST_OF_VALUES)
                for (int line = from; line < to; line++) {
                    double middle = left.spectrum[line], side = right.spectrum[line];
                    left.spectrum[line] = middle + side;
                    right.spectrum[line] = middle - side;
                }
            // Noise of both that is said to be one.
            else
                if (isMiddleAndSide[i] && book == ChannelStream.NOISE && left.books[i] == ChannelStream.NOISE)
                    copy(from, to, Math.pow(2, (right.factors[i] - left.factors[i]) / 4.0));
    }

    private void copy(int from, int to, double factor) {
        for (int line = from; line < to; line++)
            right.spectrum[line] = left.spectrum[line] * factor;
    }
}
