package ablecrate.codec.flac;

import java.util.Optional;

/// The header of one frame: 5 to 16 bytes.
///
/// | bits | field |
/// |-----:|-------|
/// | 15 | sync, 0x7FFC |
/// | 1 | numbers count samples (1) or frames of one size (0) |
/// | 4 | block size: a table, or 6 and 7 for 8 and 16 bits at the end |
/// | 4 | rate: a table, or 12 to 14 for 8 and 16 bits at the end |
/// | 4 | channels less one; 8 to 10 stereo with a side channel |
/// | 3 | bits of a sample: a table |
/// | 1 | 0 |
/// | 8…56 | number, coded as in UTF-8 |
/// | 8 | CRC-8 of all this |
///
/// Source: RFC 9639, section 9.1.
/// @param first frame of the stream that it starts with
/// @param count frames in it
/// @param sides 0…7 for channels that stand by themselves, or one of the constants
/// @param bits of a sample
record FlacFrame(long first, int count, int sides, int bits, int headerBytes) {
    /// What the two subframes of a stereo frame hold: left and left less right, left less right and right, the sum's half and left less right.
    static final int LEFT_AND_SIDE = 8, SIDE_AND_RIGHT = 9, MIDDLE_AND_SIDE = 10;
    private static final int[] BITS = {0, 8, 12, 0, 16, 20, 24, 32};
    static final int LONGEST_HEADER = 16;

    /// @param bytes of the file from `at` on, as many as there are
    static Optional<FlacFrame> read(byte[] bytes, int at, int end, StreamInfo info) {
        if (end - at < 6 || (bytes[at] & 0xFF) != 0xFF || (bytes[at + 1] & 0xFE) != 0xF8 || (bytes[at + 3] & 1) != 0) return Optional.empty();
        int size = bytes[at + 2] >> 4 & 15, rate = bytes[at + 2] & 15, channels = bytes[at + 3] >> 4 & 15, bits = bytes[at + 3] >> 1 & 7;
        if (size == 0 || rate == 15 || channels > 10 || bits == 3) return Optional.empty();
        if ((channels < 8 ? channels + 1 : 2) != info.channels()) return Optional.empty();
        int lead = bytes[at + 4] & 0xFF, extra = lead < 0x80 ? 0 : Integer.numberOfLeadingZeros(~(lead << 24)) - 1;
        if (lead >= 0x80 && (extra < 1 || extra > 6)) return Optional.empty();
        int sizeBytes = size == 6 ? 1 : size == 7 ? 2 : 0, rateBytes = rate == 12 ? 1 : rate == 13 || rate == 14 ? 2 : 0,
                length = 5 + extra + sizeBytes + rateBytes + 1;
        if (end - at < length || Crc.crc8(bytes, at, length - 1) != (bytes[at + length - 1] & 0xFF)) return Optional.empty();
        long number = extra == 0 ? lead : lead & (0x3F >> extra);
        for (int i = 0; i < extra; i++)
            number = number << 6 | bytes[at + 5 + i] & 0x3F;
        int sizeAt = at + 5 + extra;
        int count = switch (size) {
            case 1 -> 192;
            case 2, 3, 4, 5 -> 144 << size;
            case 6 -> (bytes[sizeAt] & 0xFF) + 1;
            case 7 -> ((bytes[sizeAt] & 0xFF) << 8 | bytes[sizeAt + 1] & 0xFF) + 1;
            default -> 1 << size;
        };
        boolean countsFrames = (bytes[at + 1] & 1) == 0;
        return Optional.of(new FlacFrame(countsFrames ? number * info.maxBlock() : number, count, channels, bits == 0 ? info.bits() : BITS[bits], length));
    }
}
