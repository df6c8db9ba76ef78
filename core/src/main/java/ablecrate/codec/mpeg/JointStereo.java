package ablecrate.codec.mpeg;

/// Makes left and right of what two channels of a granule of layer III share.
///
/// Source: ISO/IEC 11172-3:1993, section 2.4.3.4.9; ISO/IEC 13818-3:1998, section 2.4.3.2.
final class JointStereo {
    private static final double HALF_POWER = Math.sqrt(0.5);
    /// A place in the middle.
    private static final int MIDDLE = 3;

    private JointStereo() {}

    /// @param second whose scale factors are places where intensity is coded
    static void decode(MpegHeader header, Granule second, BandLayout layout, ScaleFactors places, Spectrum left, Spectrum right) {
        boolean[] silent = header.isIntensity() ? silentAbove(layout, right) : new boolean[layout.bands()];
        for (int band = 0; band < layout.bands(); band++)
            if (!(silent[band] && placed(header, second, layout, place(header, layout, places, band, silent), left, right, band)) && header.isMidSide())
                sides(layout, band, left.lines, right.lines);
    }

    /// Bands above the last one in which the right channel has anything, in short blocks window by window.
    private static boolean[] silentAbove(BandLayout layout, Spectrum right) {
        boolean[] out = new boolean[layout.bands()], silent = {true, true, true};
        boolean all = true;
        for (int band = layout.bands() - 1; band >= 0; band--) {
            boolean isSilent = true;
            for (int i = 0, line = layout.start()[band]; i < layout.width()[band] && isSilent; i++, line += layout.stride(band))
                isSilent = right.lines[line] == 0;
            if (band < layout.longBands()) {
                all &= isSilent && silent[0] && silent[1] && silent[2];
                out[band] = all;
            } else {
                silent[layout.window(band)] &= isSilent;
                out[band] = silent[layout.window(band)];
            }
        }
        return out;
    }

    private static int place(MpegHeader header, BandLayout layout, ScaleFactors places, int band, boolean[] silent) {
        boolean isFirst = header.version() == 1;
        int step = band < layout.longBands() ? 1 : 3;
        // Of the highest band nothing is said: it lies where the one below it does (common practice).
        if (band < layout.bands() - step) return places.place(band, isFirst);
        return silent[band - step] ? places.place(band - step, isFirst) : isFirst ? MIDDLE : 0;
    }

    /// @return whether the band has a place
    private static boolean placed(MpegHeader header, Granule second, BandLayout layout, int place, Spectrum left, Spectrum right, int band) {
        if (place == ScaleFactors.NO_PLACE) return false;
        double toLeft, toRight;
        if (header.version() == 1) {
            double ratio = Math.tan(place * Math.PI / 12);
            toLeft = place == 6 ? 1 : ratio / (1 + ratio);
            toRight = place == 6 ? 0 : 1 / (1 + ratio);
        } else {
            double down = Math.pow((second.scaleCode() & 1) == 1 ? HALF_POWER : Math.sqrt(HALF_POWER), place + 1 >> 1);
            toLeft = place % 2 == 1 ? down : 1;
            toRight = place % 2 == 1 ? 1 : down;
        }
        for (int i = 0, line = layout.start()[band]; i < layout.width()[band]; i++, line += layout.stride(band)) {
            double value = left.lines[line];
            left.lines[line] = value * toLeft;
            right.lines[line] = value * toRight;
        }
        return true;
    }

    private static void sides(BandLayout layout, int band, double[] middle, double[] side) {
        for (int i = 0, line = layout.start()[band]; i < layout.width()[band]; i++, line += layout.stride(band)) {
            double m = middle[line], s = side[line];
            middle[line] = (m + s) * HALF_POWER;
            side[line] = (m - s) * HALF_POWER;
        }
    }
}
