package ablecrate.codec.mpeg;

import ablecrate.codec.BitReader;
import ablecrate.codec.FormatException;

/// What the side information of layer III says of one channel of a granule.
///
/// Source: ISO/IEC 11172-3:1993, section 2.4.1.7 and 2.4.2.7; ISO/IEC 13818-3:1998, section 2.4.1.7.
/// @param bits of its scale factors and lines
/// @param pairLines lines that are coded in pairs
/// @param gain in quarters of 6 dB, 210 for none
/// @param scaleCode how many bits scale factors have
/// @param blockType 0 long, 1 before short ones, 2 short, 3 behind short ones
/// @param isMixed whether the lowest lines of short blocks are a long one
/// @param books of the pairs, region by region
/// @param windowGains of short blocks, in steps of 12 dB down
/// @param secondRegion,thirdRegion lines where they start
/// @param raisesHigh whether a table of the standard's is added to the scale factors; other versions say it in their code
/// @param scaleStep quarters of 6 dB for a step of a scale factor
/// @param fourBook of the four lines each behind the pairs
record Granule(int bits, int pairLines, int gain, int scaleCode, int blockType, boolean isMixed, int[] books, int[] windowGains, int secondRegion,
        int thirdRegion, boolean raisesHigh, int scaleStep, int fourBook) {
    static Granule read(BitReader in, MpegHeader header) throws FormatException {
        int bits = in.bits(12), pairLines = 2 * in.bits(9), gain = in.bits(8), scaleCode = in.bits(header.version() == 1 ? 4 : 9), blockType = 0, second, third;
        boolean isMixed = false;
        int[] books = new int[3], windowGains = new int[3];
        if (in.flag()) {
            blockType = in.bits(2);
            isMixed = in.flag();
            books[0] = in.bits(5);
            books[1] = in.bits(5);
            for (int window = 0; window < 3; window++)
                windowGains[window] = in.bits(3);
            second = blockType == 2 ? header.rateHz() == 8_000 ? 72 : 36 : BandLayout.regionOfLongBlocks(header);
            third = BandLayout.LINES;
            if (blockType == 0) throw new FormatException("a long block among those that are not", "", "");
        } else {
            for (int region = 0; region < 3; region++)
                books[region] = in.bits(5);
            int first = in.bits(4) + 1, next = first + in.bits(3) + 1;
            second = BandLayout.longEdge(header, first);
            third = BandLayout.longEdge(header, next);
        }
        boolean raisesHigh = header.version() == 1 && in.flag();
        int scaleStep = in.flag() ? 4 : 2;
        if (pairLines > BandLayout.LINES) throw new FormatException("a granule of " + pairLines + " lines", "", "");
        return new Granule(bits, pairLines, gain, scaleCode, blockType, isMixed, books, windowGains, second, third, raisesHigh, scaleStep, in.bits(1));
    }

    boolean isShort() { return blockType == 2; }

    int layout() { return !isShort() ? BandLayout.LONG : isMixed ? BandLayout.MIXED : BandLayout.SHORT; }
}
