package ablecrate.codec.alac;

import ablecrate.codec.BitReader;
import java.io.IOException;

/// Decodes packets of ALAC, exactly. One per stream; not for two threads.
///
/// A packet is a row of elements, each one channel or a pair: its predictor's coefficients, then residuals in an adaptive Golomb code,
/// or, where that would be longer, plain samples. The coefficients adapt by the sign of each residual.
///
/// Source: Apple Lossless Audio Codec, reference decoder `ALACDecoder`, `ag_dec`, `dp_dec` (2011, Apache licence), from memory; checked against
/// files that libavcodec and libsndfile wrote.
public final class AlacDecoder {
    private static final int SINGLE = 0, PAIR = 1, LFE = 3, DATA = 4, FILL = 6, END = 7;
    private static final int MEAN_BITS = 9, MEAN_ONE = 1 << MEAN_BITS, LONGEST_PREFIX = 9, LARGEST_RUN = 0xFFFF;

    private final AlacConfig config;
    private final int[] residuals;
    private final int[][] mixed;
    private final int[] low;

    public AlacDecoder(AlacConfig config) {
        this.config = config;
        residuals = new int[config.frameLength()];
        mixed = new int[2][config.frameLength()];
        low = new int[2 * config.frameLength()];
    }

    /// @param planes `[channel][frame]`, [AlacConfig#frameLength] frames long; 1.0 is 0 dBFS
    /// @return how many frames the packet holds
    /// @throws IOException if it is damaged; the planes then hold nothing of use
    public int decode(byte[] packet, double[][] planes) throws IOException {
        BitReader in = new BitReader(packet);
        int channel = 0, frames = config.frameLength();
        while (channel < planes.length) {
            int tag = in.bits(3);
            switch (tag) {
                case SINGLE, LFE -> {
                    frames = element(in, 1, planes, channel);
                    channel++;
                }
                case PAIR -> {
                    if (channel + 2 > planes.length) throw new IOException("more channels in an ALAC packet than the file has");
                    frames = element(in, 2, planes, channel);
                    channel += 2;
                }
                case DATA -> {
                    in.skip(4);
                    boolean aligned = in.flag();
                    int count = in.bits(8);
                    if (count == 255) count += in.bits(8);
                    if (aligned) in.skip(-in.position() & 7);
                    in.skip(8L * count);
                }
                case FILL -> {
                    int count = in.bits(4);
                    if (count == 15) count += in.bits(8) - 1;
                    in.skip(8L * count);
                }
                case END -> throw new IOException("an ALAC packet ends after " + channel + " of " + planes.length + " channels");
                default -> throw new IOException("an ALAC packet holds an element of kind " + tag + ", which does not exist");
            }
            if (in.isPastEnd()) throw new IOException("an ALAC packet ends too soon");
        }
        return frames;
    }

    private int element(BitReader in, int channels, double[][] planes, int firstPlane) throws IOException {
        in.skip(4 + 12);
        boolean isPartial = in.flag();
        int lowBytes = in.bits(2);
        boolean isPlain = in.flag();
        int frames = isPartial ? in.bits(32) : config.frameLength();
        if (frames < 1 || frames > config.frameLength()) throw new IOException("an ALAC packet claims " + frames + " frames");
        int lowBits = 8 * lowBytes, bits = config.bitDepth() - lowBits + (channels == 2 ? 1 : 0), mixBits = 0, mixWeight = 0;
        if (isPlain) {
            lowBits = 0;
            for (int i = 0; i < frames; i++)
                for (int c = 0; c < channels; c++)
                    mixed[c][i] = in.signed(config.bitDepth());
        } else {
            mixBits = in.bits(8);
            mixWeight = in.signed(8);
            int[] modes = new int[channels], shifts = new int[channels], factors = new int[channels];
            short[][] coefficients = new short[channels][];
            for (int c = 0; c < channels; c++) {
                modes[c] = in.bits(4);
                shifts[c] = in.bits(4);
                factors[c] = in.bits(3);
                coefficients[c] = new short[in.bits(5)];
                for (int k = 0; k < coefficients[c].length; k++)
                    coefficients[c][k] = (short) in.bits(16);
            }
            if (lowBits > 0)
                for (int i = 0; i < frames * channels; i++)
                    low[i] = in.bits(lowBits);
            for (int c = 0; c < channels; c++) {
                residuals(in, frames, config.pb() * factors[c] / 4, bits);
                if (modes[c] != 0) sum(residuals, residuals, frames, bits);
                predict(residuals, mixed[c], frames, coefficients[c], bits, shifts[c]);
            }
        }
        double step = Math.scalb(1.0, 1 - config.bitDepth());
        for (int i = 0; i < frames; i++) {
            int first = mixed[0][i], second = channels == 2 ? mixed[1][i] : 0;
            if (channels == 2 && mixWeight != 0) {
                int u = first, v = second;
                first = u + v - (mixWeight * v >> mixBits);
                second = first - v;
            }
            if (lowBits > 0) {
                first = first << lowBits | low[channels * i];
                second = channels == 2 ? second << lowBits | low[2 * i + 1] : 0;
            }
            planes[firstPlane][i] = first * step;
            if (channels == 2) planes[firstPlane + 1][i] = second * step;
        }
        return frames;
    }

    /// Residuals in a Golomb code whose parameter follows their mean; runs of zeros are coded as their length.
    private void residuals(BitReader in, int frames, int pb, int bits) throws IOException {
        int mean = config.mb(), kLimit = config.kb(), mask = (1 << kLimit) - 1, afterRun = 0;
        for (int i = 0; i < frames;) {
            if (in.isPastEnd()) throw new IOException("an ALAC packet ends too soon");
            int k = Math.min(31 - Integer.numberOfLeadingZeros((mean >> MEAN_BITS) + 3), kLimit);
            int n = golomb(in, (1 << k) - 1, k, bits), folded = n + afterRun;
            residuals[i++] = (folded & 1) == 0 ? folded + 1 >>> 1 : -(folded + 1 >>> 1);
            mean = pb * folded + mean - (pb * mean >> MEAN_BITS);
            if (Integer.compareUnsigned(n, LARGEST_RUN) > 0) mean = LARGEST_RUN;
            afterRun = 0;
            if (mean << 2 >= MEAN_ONE || i >= frames) continue;
            k = Integer.numberOfLeadingZeros(mean) - 24 + (mean + 16 >> 6);
            int run = golomb(in, (1 << k) - 1 & mask, k, 16);
            if (run < 0 || run > frames - i) throw new IOException("a run of " + run + " zeros in an ALAC packet of " + frames + " frames");
            for (int end = i + run; i < end; i++)
                residuals[i] = 0;
            afterRun = run >= LARGEST_RUN ? 0 : 1;
            mean = 0;
        }
    }

    private static int golomb(BitReader in, int m, int k, int plainBits) {
        int ones = 0;
        while (ones < LONGEST_PREFIX && in.flag())
            ones++;
        if (ones == LONGEST_PREFIX) return in.bits(plainBits);
        if (k == 1) return ones;
        int value = in.bits(k);
        if (value >= 2) return ones * m + value - 1;
        in.skip(-1);
        return ones * m;
    }

    /// Each value the sum of itself and the one before.
    private static void sum(int[] in, int[] out, int frames, int bits) {
        int unused = 32 - bits;
        out[0] = in[0];
        for (int i = 1; i < frames; i++)
            out[i] = in[i] + out[i - 1] << unused >> unused;
    }

    private static void predict(int[] in, int[] out, int frames, short[] coefficients, int bits, int shift) {
        int order = coefficients.length, unused = 32 - bits, half = shift == 0 ? 0 : 1 << shift - 1;
        if (order == 0) {
            System.arraycopy(in, 0, out, 0, frames);
            return;
        }
        if (order == 31) {
            sum(in, out, frames, bits);
            return;
        }
        sum(in, out, Math.min(frames, order + 1), bits);
        for (int i = order + 1; i < frames; i++) {
            int base = out[i - order - 1], sum = 0, residual = in[i];
            for (int k = 0; k < order; k++)
                sum += coefficients[k] * (out[i - 1 - k] - base);
            out[i] = residual + base + (sum + half >> shift) << unused >> unused;
            int sign = Integer.signum(residual);
            for (int k = order - 1; k >= 0 && sign * residual > 0; k--) {
                int difference = base - out[i - 1 - k], direction = Integer.signum(difference);
                coefficients[k] -= (short) (sign * direction);
                residual -= (order - k) * (sign * direction * difference >> shift);
            }
        }
    }
}
