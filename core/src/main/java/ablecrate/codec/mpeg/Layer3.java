package ablecrate.codec.mpeg;

import ablecrate.codec.BitReader;
import ablecrate.codec.FormatException;
import java.util.Arrays;

/// Layer III: lines of granules, Huffman coded, of which a frame may have a part in the frames before it.
///
/// Source: ISO/IEC 11172-3:1993, sections 2.4.1.7, 2.4.2.7 and 2.4.3.4; ISO/IEC 13818-3:1998 for lower rates; MPEG-2.5 is common practice.
final class Layer3 implements FrameDecoder {
    private static final int CRC_BYTES = 2, MOST_BACK = 511;

    private final ScaleFactors[] factors = {new ScaleFactors(), new ScaleFactors()};
    private final Spectrum[] spectra = {new Spectrum(), new Spectrum()};
    private final HybridFilters[] filters = {new HybridFilters(), new HybridFilters()};
    private final SubbandSynthesis[] synthesis = {new SubbandSynthesis(), new SubbandSynthesis()};
    private final double[][] bands = new double[HybridFilters.LINES][SubbandSynthesis.BANDS];
    private byte[] kept = {};
    private MpegHeader known;
    private BandLayout[] layouts;

    @Override public void decode(MpegHeader header, byte[] frame, double[][] block) throws FormatException {
        int sideAt = sideAt(header), mainAt = mainAt(header, frame);
        BitReader side = new BitReader(Arrays.copyOfRange(frame, sideAt, sideAt + header.sideBytes()));
        int back = side.bits(header.version() == 1 ? 9 : 8);
        byte[] main = null;
        if (back <= kept.length) {
            main = Arrays.copyOf(Arrays.copyOfRange(kept, kept.length - back, kept.length), back + frame.length - mainAt);
            System.arraycopy(frame, mainAt, main, back, frame.length - mainAt);
        }
        keep(frame, mainAt);
        if (known == null || known.rateHz() != header.rateHz()) layouts = BandLayout.of(header);
        known = header;
        boolean isWhole = false;
        try {
            // Behind a cut the first frames lack what stood before it.
            if (main != null) granules(header, side, new BitReader(main), block);
            isWhole = main != null;
        } finally {
            if (!isWhole) silence();
        }
    }

    @Override public void pass(MpegHeader header, byte[] frame) {
        keep(frame, mainAt(header, frame));
        silence();
    }

    private static int sideAt(MpegHeader header) { return MpegHeader.BYTES + (header.hasCrc() ? CRC_BYTES : 0); }

    private static int mainAt(MpegHeader header, byte[] frame) { return Math.min(frame.length, sideAt(header) + header.sideBytes()); }

    private void silence() {
        for (int channel = 0; channel < filters.length; channel++) {
            filters[channel].silence();
            synthesis[channel].silence();
        }
    }

    private void keep(byte[] frame, int from) {
        int more = frame.length - from, left = Math.clamp(MOST_BACK - more, 0, kept.length);
        byte[] all = Arrays.copyOf(Arrays.copyOfRange(kept, kept.length - left, kept.length), left + more);
        System.arraycopy(frame, from, all, left, more);
        kept = all;
    }

    private void granules(MpegHeader header, BitReader side, BitReader main, double[][] block) throws FormatException {
        int channels = header.channels(), count = header.version() == 1 ? 2 : 1;
        side.skip(header.version() == 1 ? channels == 1 ? 5 : 3 : channels);
        boolean[][] shared = new boolean[channels][4];
        if (header.version() == 1)
            for (boolean[] ofChannel : shared)
                for (int group = 0; group < 4; group++)
                    ofChannel[group] = side.flag();
        for (int number = 0; number < count; number++) {
            Granule[] granule = new Granule[channels];
            for (int channel = 0; channel < channels; channel++)
                granule[channel] = Granule.read(side, header);
            for (int channel = 0; channel < channels; channel++)
                read(header, granule[channel], channel, main, number == 0 ? new boolean[4] : shared[channel]);
            if (channels == 2 && header.isJoint())
                JointStereo.decode(header, granule[1], layouts[granule[1].layout()], factors[1], spectra[0], spectra[1]);
            for (int channel = 0; channel < channels; channel++) {
                filters[channel].add(granule[channel], spectra[channel].lines, bands);
                for (int frame = 0; frame < HybridFilters.LINES && channel < block.length; frame++)
                    synthesis[channel].add(bands[frame], block[channel], (number * HybridFilters.LINES + frame) * SubbandSynthesis.BANDS);
            }
        }
        if (channels < block.length) System.arraycopy(block[0], 0, block[1], 0, block[0].length);
    }

    private void read(MpegHeader header, Granule granule, int channel, BitReader main, boolean[] shared) throws FormatException {
        long end = main.position() + granule.bits();
        BandLayout layout = layouts[granule.layout()];
        if (header.version() == 1)
            factors[channel].read(main, granule, layout, shared);
        else
            factors[channel].readLow(main, granule, layout, channel == 1 && header.isIntensity());
        spectra[channel].read(main, granule, end);
        spectra[channel].scale(granule, layout, factors[channel]);
        main.skip(end - main.position());
        if (main.isPastEnd()) throw new FormatException("a granule goes on behind its frame", "", "");
    }
}
