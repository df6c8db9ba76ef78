package ablecrate.codec.flac;

import ablecrate.codec.BitWriter;

/// Makes frames of samples, each by itself. Not for two threads.
final class FlacEncoder {
    /// Of a frame; the last one may be shorter.
    static final int BLOCK = 4096;
    private static final int SYNC = 0xFFF8, BLOCK_CODE = 12, OTHER_BLOCK_CODE = 7;

    private final int channels, bits, rateCode, bitsCode;
    private final Subframe[] subframes;
    /// Of two channels: their sum's half and their difference.
    private final Subframe middle = new Subframe(), side = new Subframe();
    private final int[][] joined = new int[2][BLOCK];

    /// @param bits 16 or 24
    FlacEncoder(int channels, int rateHz, int bits) {
        this.channels = channels;
        this.bits = bits;
        subframes = new Subframe[channels];
        for (int i = 0; i < channels; i++)
            subframes[i] = new Subframe();
        bitsCode = bits == 16 ? 4 : 6;
        rateCode = switch (rateHz) {
            case 88_200 -> 1;
            case 176_400 -> 2;
            case 192_000 -> 3;
            case 8_000 -> 4;
            case 16_000 -> 5;
            case 22_050 -> 6;
            case 24_000 -> 7;
            case 32_000 -> 8;
            case 44_100 -> 9;
            case 48_000 -> 10;
            case 96_000 -> 11;
            default -> 0; // it stands in STREAMINFO
        };
    }

    /// @param number of the frame in its stream
    /// @param block `[channel][frame]`; its contents are lost
    byte[] frame(long number, int[][] block, int count) {
        double[] taken = new double[channels];
        int sides = channels - 1;
        Subframe[] chosen = subframes;
        if (channels == 2) {
            for (int i = 0; i < count; i++) {
                joined[0][i] = block[0][i] + block[1][i] >> 1;
                joined[1][i] = block[0][i] - block[1][i];
            }
            double middleBits = middle.take(joined[0], count, bits), sideBits = side.take(joined[1], count, bits + 1);
            for (int i = 0; i < channels; i++)
                taken[i] = subframes[i].take(block[i], count, bits);
            double least = taken[0] + taken[1];
            Subframe[][] pairs = {{subframes[0], side}, {side, subframes[1]}, {middle, side}};
            double[] pairBits = {taken[0] + sideBits, sideBits + taken[1], middleBits + sideBits};
            for (int i = 0; i < pairs.length; i++)
                if (pairBits[i] < least) {
                    least = pairBits[i];
                    chosen = pairs[i];
                    sides = FlacFrame.LEFT_AND_SIDE + i;
                }
        } else {
            for (int i = 0; i < channels; i++)
                subframes[i].take(block[i], count, bits);
        }
        BitWriter out = new BitWriter();
        header(out, number, sides, count);
        for (Subframe subframe : chosen)
            subframe.write(out);
        byte[] frame = out.toArray();
        int crc = Crc.crc16(0, frame, 0, frame.length);
        out.bits(crc, 16);
        return out.toArray();
    }

    /// As in [FlacFrame].
    private void header(BitWriter out, long number, int sides, int count) {
        out.bits(SYNC, 16);
        out.bits(count == BLOCK ? BLOCK_CODE : OTHER_BLOCK_CODE, 4);
        out.bits(rateCode, 4);
        out.bits(sides, 4);
        out.bits(bitsCode, 3);
        out.bits(0, 1);
        number(out, number);
        if (count != BLOCK) out.bits(count - 1, 16);
        byte[] header = out.toArray();
        out.bits(Crc.crc8(header, 0, header.length), 8);
    }

    /// Coded as in UTF-8, of up to 36 bits.
    private static void number(BitWriter out, long number) {
        if (number < 0x80) {
            out.bits(number, 8);
            return;
        }
        int following = 1;
        while (number >> 6 * following >= 1L << 6 - following)
            following++;
        out.bits(0xFE << 6 - following & 0xFF | number >> 6 * following, 8);
        for (int i = following - 1; i >= 0; i--)
            out.bits(0x80 | number >> 6 * i & 0x3F, 8);
    }
}
