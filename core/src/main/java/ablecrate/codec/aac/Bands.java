package ablecrate.codec.aac;

import java.util.Arrays;

/// How the lines of a spectrum are parted into bands that share a scale factor, which depends on the rate.
///
/// Source: ISO/IEC 14496-3:2009, tables 4.82, 4.129 to 4.147 (bands for 1024 and 128 lines) and 4.155 (those that temporal noise shaping may reach);
/// numbers of tables from memory.
/// @param longEdges,shortEdges of 1024 and of 128 lines, the end of the last band included
/// @param longShaped,shortShaped how many bands noise shaping may reach
record Bands(int[] longEdges, int[] shortEdges, int longShaped, int shortShaped) {
    private static final int[] LONG_96 = edges("4x14 8x5 12x5 16x2 24 28 36 44 64x11"), LONG_64 = edges("4x14 8x4 12x3 16x3 20 24x2 28 36 40x18"),
            LONG_48 = edges("4x10 8x7 12x4 16x2 20x2 24x2 28x2 32x19 96"), LONG_32 = edges("4x10 8x7 12x4 16x2 20x2 24x2 28x2 32x22"),
            LONG_24 = edges("4x11 8x10 12x4 16x3 20x2 24x2 28x2 32 36x2 40 44 48 52x2 64x5"),
            LONG_16 = edges("8x11 12x9 16x4 20x3 24x2 28x2 32 36 40x2 44 48 52 56 60 64x3"),
            LONG_8 = edges("12x13 16x7 20x4 24x3 28x2 32 36x2 40 44 48 52 56 60 64 80");
    private static final int[] SHORT_64 = edges("4x6 8x3 16 28 36"), SHORT_32 = edges("4x5 8x3 12x3 16x3"), SHORT_24 = edges("4x7 8x3 12x2 16x2 20"),
            SHORT_16 = edges("4x8 8x2 12x2 16 20x2"), SHORT_8 = edges("4x7 8x4 12 16 20x2");

    /// For a rate that is none of the usual ones: those of the nearest.
    static Bands of(int rateHz) {
        if (rateHz >= 75_132) return new Bands(LONG_96, SHORT_64, 31, 9);
        if (rateHz >= 55_426) return new Bands(LONG_64, SHORT_64, 34, 10);
        if (rateHz >= 46_009) return new Bands(LONG_48, SHORT_32, 40, 14);
        if (rateHz >= 37_566) return new Bands(LONG_48, SHORT_32, 42, 14);
        if (rateHz >= 27_713) return new Bands(LONG_32, SHORT_32, 51, 14);
        if (rateHz >= 18_783) return new Bands(LONG_24, SHORT_24, 46, 14);
        if (rateHz >= 9391) return new Bands(LONG_16, SHORT_16, 42, 14);
        return new Bands(LONG_8, SHORT_8, 39, 14);
    }

    int[] edges(boolean isShort) { return isShort ? shortEdges : longEdges; }

    int shaped(boolean isShort) { return isShort ? shortShaped : longShaped; }

    /// Widths, repeated: `4x3 8` for 0, 4, 8, 12, 20.
    private static int[] edges(String widths) {
        int[] edges = new int[64];
        int count = 0;
        for (String run : widths.split(" ")) {
            String[] parts = run.split("x");
            for (int i = 0; i < (parts.length == 2 ? Integer.parseInt(parts[1]) : 1); i++, count++)
                edges[count + 1] = edges[count] + Integer.parseInt(parts[0]);
        }
        return Arrays.copyOf(edges, count + 1);
    }
}
