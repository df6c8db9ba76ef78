package ablecrate.codec.mpeg;

import java.util.Optional;

/// The header of a frame of MPEG audio: 32 bits, most significant first.
///
/// | bits | field |
/// |-----:|-------|
/// | 11 | sync, all ones |
/// | 2 | version: 0 MPEG-2.5, 2 MPEG-2, 3 MPEG-1 |
/// | 2 | layer: 3 I, 2 II, 1 III |
/// | 1 | 0 if a CRC follows |
/// | 4 | bit rate: a table; 0 free format |
/// | 2 | rate: a table |
/// | 1 | padding: one slot more |
/// | 1 | private |
/// | 2 | mode: 1 joint stereo, 3 mono |
/// | 2 | what is joint: of layer III 1 intensity, 2 middle and side; of the others from which subband on |
/// | 4 | of no interest here |
///
/// Source: ISO/IEC 11172-3:1993, section 2.4.1.3 and 2.4.2.3; ISO/IEC 13818-3 (MPEG-2).
/// @param version 1, 2, or 25 for 2.5
/// @param joint what is joint; -1 for nothing
record MpegHeader(int version, int layer, int kbps, int rateHz, int channels, int bytes, boolean hasCrc, int joint) {
    static final int BYTES = 4;
    private static final int[][] KBPS = {
        {0, 32, 64, 96, 128, 160, 192, 224, 256, 288, 320, 352, 384, 416, 448}, {0, 32, 48, 56, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320, 384},
        {0, 32, 40, 48, 56, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320}};
    private static final int[][] KBPS_LOW = {
        {0, 32, 48, 56, 64, 80, 96, 112, 128, 144, 160, 176, 192, 224, 256}, {0, 8, 16, 24, 32, 40, 48, 56, 64, 80, 96, 112, 128, 144, 160},
        {0, 8, 16, 24, 32, 40, 48, 56, 64, 80, 96, 112, 128, 144, 160}};
    private static final int[] RATES = {44_100, 48_000, 32_000};

    static Optional<MpegHeader> read(byte[] b, int at, int end) {
        if (end - at < BYTES || (b[at] & 0xFF) != 0xFF || (b[at + 1] & 0xE0) != 0xE0) return Optional.empty();
        int versionBits = b[at + 1] >> 3 & 3, layerBits = b[at + 1] >> 1 & 3, rateBits = b[at + 2] >> 2 & 3, kbpsBits = b[at + 2] >> 4 & 15;
        if (versionBits == 1 || layerBits == 0 || rateBits == 3 || kbpsBits == 15) return Optional.empty();
        int version = versionBits == 3 ? 1 : versionBits == 2 ? 2 : 25, layer = 4 - layerBits;
        int rateHz = RATES[rateBits] >> (version == 1 ? 0 : version == 2 ? 1 : 2), kbps = (version == 1 ? KBPS : KBPS_LOW)[layer - 1][kbpsBits],
                padding = b[at + 2] >> 1 & 1;
        int bytes = layer == 1 ? (12_000 * kbps / rateHz + padding) * 4 : (layer == 3 && version != 1 ? 72_000 : 144_000) * kbps / rateHz + padding;
        int mode = b[at + 3] >> 6 & 3;
        return Optional.of(new MpegHeader(version, layer, kbps, rateHz, mode == 3 ? 1 : 2, bytes, (b[at + 1] & 1) == 0, mode == 1 ? b[at + 3] >> 4 & 3 : -1));
    }

    boolean isJoint() { return joint >= 0; }

    /// Of layer III.
    boolean isIntensity() { return isJoint() && (joint & 1) == 1; }

    /// Of layer III.
    boolean isMidSide() { return isJoint() && (joint & 2) == 2; }

    /// First subband of layers I and II whose samples are shared.
    int sharedBand() { return 4 * (joint + 1); }

    boolean isFreeFormat() { return kbps == 0; }

    int frames() { return layer == 1 ? 384 : layer == 3 && version != 1 ? 576 : 1152; }

    /// Whether both can be frames of one stream.
    boolean goesWith(MpegHeader other) { return version == other.version && layer == other.layer && rateHz == other.rateHz; }

    /// Bytes between header and main data of layer III, without the CRC.
    int sideBytes() { return version == 1 ? channels == 1 ? 17 : 32 : channels == 1 ? 9 : 17; }

    String codec() { return "MPEG-" + (version == 25 ? "2.5" : version) + " layer " + "I".repeat(layer); }

    /// The bit rate of layer III that is nearest to the wanted one.
    static int nearestKbps(int wanted, int rateHz) {
        int[] table = (rateHz >= 32_000 ? KBPS : KBPS_LOW)[2];
        int best = table[1];
        for (int kbps : table)
            if (kbps > 0 && Math.abs(kbps - wanted) < Math.abs(best - wanted)) best = kbps;
        return best;
    }
}
