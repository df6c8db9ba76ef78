package ablecrate.codec.mpeg;

import ablecrate.codec.BitReader;
import ablecrate.codec.FormatException;

/// In how many steps the samples of a subband are coded in layers I and II.
///
/// Source: ISO/IEC 11172-3:1993, section 2.4.2.5 and tables B.2a to B.2d; ISO/IEC 13818-3:1998, table B.1.
final class BitAllocation {
    private static final int[] WIDE = {0, 3, 7, 15, 31, 63, 127, 255, 511, 1023, 2047, 4095, 8191, 16383, 32767, 65535},
            HIGH = {0, 3, 5, 7, 9, 15, 31, 63, 127, 255, 511, 1023, 2047, 4095, 8191, 65535}, MIDDLE = {0, 3, 5, 7, 9, 15, 31, 65535},
            FEW = {0, 3, 5, 65535}, FINE = {0, 3, 5, 9, 15, 31, 63, 127, 255, 511, 1023, 2047, 4095, 8191, 16383, 32767},
            FINE_FEW = {0, 3, 5, 9, 15, 31, 63, 127},
            FINE_FEWEST = {0, 3, 5, 9}, LOW = {0, 3, 5, 7, 9, 15, 31, 63, 127, 255, 511, 1023, 2047, 4095, 8191, 16383};

    private BitAllocation() {}

    /// Subbands of layer II that may have anything.
    static int bands(MpegHeader header) {
        if (header.version() != 1) return 30;
        int kbps = header.kbps() / header.channels();
        return kbps < 56 ? header.rateHz() == 32_000 ? 12 : 8 : kbps >= 96 && header.rateHz() != 48_000 ? 30 : 27;
    }

    static int ofLayer1(BitReader in) throws FormatException {
        int bits = in.bits(4);
        if (bits == 15) throw new FormatException("samples of 16 bits, which there are none of", "", "");
        return bits == 0 ? 0 : (2 << bits) - 1;
    }

    static int ofLayer2(BitReader in, MpegHeader header, int band) {
        int[] steps = steps(header, band);
        return steps[in.bits(Integer.numberOfTrailingZeros(steps.length))];
    }

    static int[] steps(MpegHeader header, int band) {
        if (header.version() != 1) return band < 4 ? LOW : band < 11 ? FINE_FEW : FINE_FEWEST;
        if (bands(header) <= 12) return band < 2 ? FINE : FINE_FEW;
        return band < 3 ? WIDE : band < 11 ? HIGH : band < 23 ? MIDDLE : FEW;
    }

    /// Whether three samples share a number.
    static boolean isGrouped(int steps) { return steps == 3 || steps == 5 || steps == 9; }
}
