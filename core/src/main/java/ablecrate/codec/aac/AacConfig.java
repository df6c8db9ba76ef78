package ablecrate.codec.aac;

import ablecrate.codec.BitReader;
import ablecrate.codec.Bytes;
import java.util.Optional;

/// What an AAC stream says of itself in front of its packets: the `AudioSpecificConfig`.
///
/// | bits | field |
/// |-----:|-------|
/// | 5 (+6) | object type; 31 stands for 32 plus six more bits |
/// | 4 (+24) | rate: an index, 15 stands for a rate in full |
/// | 4 | channels: an index; 0 for a layout that the stream tells itself |
/// | 4 (+24), 5 (+6) | of types 5 and 29 alone: the rate with spectral band replication, and the type below it |
/// | 1 | 1 for packets of 960 frames instead of 1024 |
/// | 1 (+14) | 1 if it builds on another stream |
/// | 1 | 1 if more follows |
/// | 11, 5, 1 | anywhere behind: 0x2B7, type 5, 1 if bands are replicated, as old decoders do not read it |
///
/// Source: ISO/IEC 14496-3:2009, sections 1.6.2.1 and 4.4.1, tables 1.18 and 1.19; from memory.
/// @param objectType 2 for AAC-LC
/// @param rateHz of what is coded; replicated bands double it
/// @param channels 0 if the stream tells its layout itself
/// @param replicates whether it says that spectral bands are replicated; a stream may do so without saying
record AacConfig(int objectType, int rateHz, int channels, int packetFrames, boolean replicates) {
    private static final int LOW_COMPLEXITY = 2, REPLICATION = 5, PARAMETRIC_STEREO = 29, SYNC = 0x2B7, FULL_RATE = 15;
    private static final int[] RATES = {96_000, 88_200, 64_000, 48_000, 44_100, 32_000, 24_000, 22_050, 16_000, 12_000, 11_025, 8000, 7350},
            CHANNELS = {0, 1, 2, 3, 4, 5, 6, 8};

    /// @return empty for what does not exist
    static Optional<AacConfig> read(Bytes raw) {
        BitReader in = new BitReader(raw.toArray());
        int type = objectType(in), rate = rate(in), layout = in.bits(4);
        boolean replicates = type == REPLICATION || type == PARAMETRIC_STEREO;
        if (replicates) {
            rate(in);
            type = objectType(in);
        }
        int frames = in.flag() ? 960 : 1024;
        if (in.flag()) in.skip(14);
        in.skip(1);
        for (long last = 8L * raw.size() - 17; !replicates && in.position() <= last; in.skip(1))
            replicates = in.peek(17) == (SYNC << 6 | REPLICATION << 1 | 1);
        return rate > 0 && layout < CHANNELS.length ? Optional.of(new AacConfig(type, rate, CHANNELS[layout], frames, replicates)) : Optional.empty();
    }

    /// Whether it is AAC-LC in packets of the usual length, as far as it says.
    boolean isPlain() { return objectType == LOW_COMPLEXITY && packetFrames == FilterBank.LINES && !replicates; }

    private static int objectType(BitReader in) {
        int type = in.bits(5);
        return type == 31 ? 32 + in.bits(6) : type;
    }

    /// @return 0 for an index of no rate
    private static int rate(BitReader in) {
        int index = in.bits(4);
        if (index == FULL_RATE) return in.bits(24);
        return index < RATES.length ? RATES[index] : 0;
    }

    /// @return 0 for an index of no rate
    static int rateHz(int index) { return index < RATES.length ? RATES[index] : 0; }
}
