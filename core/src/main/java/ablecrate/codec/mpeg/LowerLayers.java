package ablecrate.codec.mpeg;

import ablecrate.codec.BitReader;
import ablecrate.codec.FormatException;

/// Layers I and II: samples of subbands, each with a scale factor.
///
/// Source: ISO/IEC 11172-3:1993, sections 2.4.1.5, 2.4.1.6, 2.4.3.2 and 2.4.3.3, tables B.1 to B.4; ISO/IEC 13818-3:1998, table B.1.
final class LowerLayers implements FrameDecoder {
    private static final int BANDS = SubbandSynthesis.BANDS, PARTS = 3, CRC_BITS = 16, NO_FACTOR = 63;

    private final SubbandSynthesis[] synthesis = {new SubbandSynthesis(), new SubbandSynthesis()};
    /// `[channel][subband]`; of the samples, how many steps they have; 0 for none.
    private final int[][] steps = new int[2][BANDS];
    /// `[channel][subband][part of the frame]`
    private final double[][][] factors = new double[2][BANDS][PARTS];
    /// `[channel][frame][subband]`
    private final double[][][] samples = new double[2][PARTS][BANDS];
    /// `[frame][subband]`: as read, without scale factor.
    private final double[][] plain = new double[PARTS][BANDS];
    private final int[] three = new int[PARTS];

    @Override public void decode(MpegHeader header, byte[] frame, double[][] block) throws FormatException {
        try {
            read(header, frame, block);
        } catch (FormatException e) {
            pass(header, frame);
            throw e;
        }
    }

    private void read(MpegHeader header, byte[] frame, double[][] block) throws FormatException {
        BitReader in = new BitReader(frame);
        in.skip(8L * MpegHeader.BYTES + (header.hasCrc() ? CRC_BITS : 0));
        boolean isFirst = header.layer() == 1;
        int channels = header.channels(), bands = isFirst ? BANDS : BitAllocation.bands(header),
                bound = header.isJoint() ? Math.min(bands, header.sharedBand()) : bands;
        for (int band = 0; band < BANDS; band++)
            for (int channel = 0; channel < channels; channel++)
                steps[channel][band] = band >= bands
                        ? 0
                        : channel == 1 && band >= bound ? steps[0][band] : isFirst ? BitAllocation.ofLayer1(in) : BitAllocation.ofLayer2(in, header, band);
        factors(in, channels, bands, isFirst);
        int perRead = isFirst ? 1 : PARTS, reads = 12;
        for (int read = 0, at = 0; read < reads; read++) {
            for (int band = 0; band < bands; band++)
                for (int channel = 0; channel < channels; channel++)
                    read(in, channel, band, channel == 1 && band >= bound, perRead, isFirst ? 0 : read / 4);
            for (int i = 0; i < perRead; i++, at += BANDS)
                for (int channel = 0; channel < Math.min(channels, block.length); channel++)
                    synthesis[channel].add(samples[channel][i], block[channel], at);
        }
        if (in.isPastEnd()) throw new FormatException("samples go on behind their frame", "", "");
        if (channels < block.length) System.arraycopy(block[0], 0, block[1], 0, block[0].length);
    }

    @Override public void pass(MpegHeader header, byte[] frame) {
        for (SubbandSynthesis each : synthesis)
            each.silence();
    }

    private void factors(BitReader in, int channels, int bands, boolean isFirst) {
        int[][] shared = new int[bands][channels];
        for (int band = 0; band < bands && !isFirst; band++)
            for (int channel = 0; channel < channels; channel++)
                if (steps[channel][band] > 0) shared[band][channel] = in.bits(2);
        for (int band = 0; band < bands; band++)
            for (int channel = 0; channel < channels; channel++) {
                if (steps[channel][band] == 0) continue;
                double[] parts = factors[channel][band];
                int how = isFirst ? 2 : shared[band][channel];
                parts[0] = factor(in);
                parts[1] = how == 0 || how == 3 ? factor(in) : parts[0];
                parts[2] = how == 0 || how == 1 ? factor(in) : parts[1];
            }
    }

    /// The last one is not in the table; it stands for silence (common practice).
    private static double factor(BitReader in) {
        int number = in.bits(6);
        return number == NO_FACTOR ? 0 : 2 * Math.pow(2, -number / 3.0);
    }

    /// @param isShared whether its samples are those of the other channel
    private void read(BitReader in, int channel, int band, boolean isShared, int count, int part) {
        int many = steps[channel][band];
        if (many > 0 && !isShared) {
            values(in, many, count);
            for (int i = 0; i < count; i++)
                plain[i][band] = (2.0 * three[i] + 1 - many) / many;
        }
        for (int i = 0; i < count; i++)
            samples[channel][i][band] = many == 0 ? 0 : plain[i][band] * factors[channel][band][part];
    }

    private void values(BitReader in, int many, int count) {
        if (!BitAllocation.isGrouped(many) || count == 1) {
            int bits = Integer.SIZE - Integer.numberOfLeadingZeros(many);
            for (int i = 0; i < count; i++)
                three[i] = in.bits(bits);
            return;
        }
        int group = in.bits(many == 3 ? 5 : many == 5 ? 7 : 10);
        for (int i = 0; i < PARTS; i++, group /= many)
            three[i] = group % many;
    }
}
