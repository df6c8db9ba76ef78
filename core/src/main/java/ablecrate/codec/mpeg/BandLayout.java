package ablecrate.codec.mpeg;

/// How the lines of a granule of layer III are shared among scale factor bands: where each starts, how many lines it has, and how far they lie apart.
/// Bands of short blocks stand window by window; their lines lie between those of the other windows, as the transform takes them.
///
/// Source: ISO/IEC 11172-3:1993, table B.8; ISO/IEC 13818-3:1998, table B.2, with 332 at 24 kHz, where another decoder has 330; those of 8 kHz are common practice.
/// @param longBands how many of them belong to long blocks
record BandLayout(int[] start, int[] width, int longBands) {
    static final int LINES = 576;
    static final int LONG = 0, SHORT = 1, MIXED = 2;

    /// By version (1, 2, 2.5 but for 8 kHz, which is the last one) and rate: 44.1, 48, 32 kHz or what lower ones are halves of.
    private static final int[][] LONG_EDGES = {
        {0, 4, 8, 12, 16, 20, 24, 30, 36, 44, 52, 62, 74, 90, 110, 134, 162, 196, 238, 288, 342, 418, 576},
        {0, 4, 8, 12, 16, 20, 24, 30, 36, 42, 50, 60, 72, 88, 106, 128, 156, 190, 230, 276, 330, 384, 576},
        {0, 4, 8, 12, 16, 20, 24, 30, 36, 44, 54, 66, 82, 102, 126, 156, 194, 240, 296, 364, 448, 550, 576},
        {0, 6, 12, 18, 24, 30, 36, 44, 54, 66, 80, 96, 116, 140, 168, 200, 238, 284, 336, 396, 464, 522, 576},
        {0, 6, 12, 18, 24, 30, 36, 44, 54, 66, 80, 96, 114, 136, 162, 194, 232, 278, 332, 394, 464, 540, 576},
        {0, 12, 24, 36, 48, 60, 72, 88, 108, 132, 160, 192, 232, 280, 336, 400, 476, 566, 568, 570, 572, 574, 576}};
    private static final int[][] SHORT_EDGES = {
        {0, 4, 8, 12, 16, 22, 30, 40, 52, 66, 84, 106, 136, 192}, {0, 4, 8, 12, 16, 22, 28, 38, 50, 64, 80, 100, 126, 192},
        {0, 4, 8, 12, 16, 22, 30, 42, 58, 78, 104, 138, 180, 192}, {0, 4, 8, 12, 18, 24, 32, 42, 56, 74, 100, 132, 174, 192},
        {0, 4, 8, 12, 18, 26, 36, 48, 62, 80, 104, 136, 180, 192}, {0, 8, 16, 24, 36, 52, 72, 96, 124, 160, 162, 164, 166, 192},
        {0, 4, 8, 12, 18, 26, 36, 48, 62, 80, 104, 134, 174, 192}};

    private static int[] longEdges(MpegHeader header) {
        return LONG_EDGES[header.rateHz() == 8_000 ? 5 : header.version() == 1 ? rate(header) : header.rateHz() == 24_000 ? 4 : 3];
    }

    private static int[] shortEdges(MpegHeader header) {
        return SHORT_EDGES[header.rateHz() == 8_000
                ? 5
                : header.version() == 1 ? rate(header) : header.rateHz() == 24_000 ? 4 : header.rateHz() == 22_050 ? 3 : 6];
    }

    private static int rate(MpegHeader header) { return header.rateHz() == 44_100 ? 0 : header.rateHz() == 48_000 ? 1 : 2; }

    /// First line of the ninth long band, which regions of the code are counted from.
    static int regionOfLongBlocks(MpegHeader header) { return longEdges(header)[8]; }

    /// Edge of a long band.
    static int longEdge(MpegHeader header, int band) { return longEdges(header)[Math.min(band, longEdges(header).length - 1)]; }

    /// @return of long, short and mixed blocks
    static BandLayout[] of(MpegHeader header) {
        return new BandLayout[]{of(header, longEdges(header).length - 1, SHORT_EDGES[0].length), of(header, 0, 0),
            of(header, header.version() == 1 ? 8 : 6, 3)};
    }

    /// @param longs so many long bands
    /// @param firstShort behind which short ones follow from this one on
    private static BandLayout of(MpegHeader header, int longs, int firstShort) {
        int[] longEdges = longEdges(header), shortEdges = shortEdges(header);
        int count = longs + 3 * Math.max(0, shortEdges.length - 1 - firstShort);
        int[] start = new int[count], width = new int[count];
        for (int band = 0; band < longs; band++) {
            start[band] = longEdges[band];
            width[band] = longEdges[band + 1] - longEdges[band];
        }
        for (int band = longs; band < count; band++) {
            int edge = firstShort + (band - longs) / 3;
            start[band] = 3 * shortEdges[edge] + (band - longs) % 3;
            width[band] = shortEdges[edge + 1] - shortEdges[edge];
        }
        return new BandLayout(start, width, longs);
    }

    int bands() { return start.length; }

    /// How far its lines lie apart.
    int stride(int band) { return band < longBands ? 1 : 3; }

    /// Of a short block.
    int window(int band) { return (band - longBands) % 3; }
}
