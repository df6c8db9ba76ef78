package ablecrate.codec;

/// Orders of channels: WAV's (front left, right, centre, LFE, back left, right, side left, right) is ours; others are brought into it.
///
/// Sources: Microsoft, *Multiple channel audio data and WAVE files* (2001); Xiph.Org, *Vorbis I specification*, section 4.3.9, which RFC 7845
/// takes over for Opus; ISO/IEC 14496-3, table 1.19 (AAC); the last from memory.
public enum ChannelOrder {
    VORBIS(new int[][]{{}, {}, {}, {0, 2, 1}, {}, {0, 2, 1, 3, 4}, {0, 2, 1, 5, 3, 4}, {0, 2, 1, 6, 5, 3, 4}, {0, 2, 1, 7, 5, 6, 3, 4}}), MPEG(
            new int[][]{{}, {}, {}, {1, 2, 0}, {1, 2, 0, 3}, {1, 2, 0, 3, 4}, {1, 2, 0, 5, 3, 4}});

    private final int[][] orders;

    ChannelOrder(int[][] orders) { this.orders = orders; }

    /// Which of the coded channels stands at a place of ours.
    public int coded(int place, int channels) {
        return channels < orders.length && orders[channels].length > 0 ? orders[channels][place] : place;
    }
}
