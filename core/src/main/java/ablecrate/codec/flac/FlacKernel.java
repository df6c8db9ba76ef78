package ablecrate.codec.flac;

import ablecrate.codec.BitReader;
import java.util.Arrays;

/// Turns whole frames into samples. One per stream; not for two threads.
///
/// A frame holds a subframe for each channel, and its CRC-16. A subframe:
///
/// | bits | field |
/// |-----:|-------|
/// | 1 | 0 |
/// | 6 | kind: 0 constant, 1 as they are, 8…12 a fixed predictor of order 0…4, 32…63 a linear predictor of order 1…32 |
/// | 1… | 1 and the number of low bits that are always zero, less one, in unary; or 0 |
/// | | one sample; all samples; or as many as the order, then for linear predictors 4 bits of precision less one, 5 of shift, the coefficients, then what is left over |
///
/// What is left over is in Rice's code, in 2ⁿ parts, each with a parameter of 4 or 5 bits; where all of these are set, 5 bits of length follow, and the numbers as they are.
/// Source: RFC 9639, section 9.2.
final class FlacKernel {
    private static final int USUAL_ORDER = 8;
    static final int CONSTANT = 0, VERBATIM = 1, FIXED = 8, MOST_FIXED = 4, LINEAR = 32;
    /// Of the fixed predictors, order by order.
    static final int[][] FIXED_COEFFICIENTS = {{}, {1}, {2, -1}, {3, -3, 1}, {4, -6, 4, -1}};

    /// `[channel][frame]`; a side channel needs a bit more than a sample has.
    private final long[][] samples;

    FlacKernel(StreamInfo info) {
        samples = new long[info.channels()][info.maxBlock()];
    }

    /// @param bytes of the frame
    /// @param count of its frames that are wanted, no more than the largest block has
    /// @param planes `[channel][frame]`; receive the samples, or silence where the frame lies about itself
    void decode(byte[] bytes, FlacFrame frame, int count, double[][] planes) {
        if (count < frame.count() || !isDecoded(bytes, frame)) {
            for (double[] plane : planes)
                Arrays.fill(plane, 0, count, 0);
            return;
        }
        double step = Math.scalb(1.0, 1 - frame.bits());
        for (int channel = 0; channel < planes.length; channel++) {
            long[] from = samples[channel];
            double[] plane = planes[channel];
            for (int i = 0; i < count; i++)
                plane[i] = from[i] * step;
        }
    }

    private boolean isDecoded(byte[] bytes, FlacFrame frame) {
        BitReader in = new BitReader(bytes);
        in.skip(8L * frame.headerBytes());
        for (int channel = 0; channel < samples.length; channel++) {
            boolean isSide = frame.sides() == FlacFrame.SIDE_AND_RIGHT ? channel == 0 : frame.sides() >= FlacFrame.LEFT_AND_SIDE && channel == 1;
            if (!isRead(in, samples[channel], frame.count(), frame.bits() + (isSide ? 1 : 0))) return false;
        }
        if (frame.sides() >= FlacFrame.LEFT_AND_SIDE) joinSides(frame.sides(), samples[0], samples[1], frame.count());
        return !in.isPastEnd();
    }

    /// @return whether the subframe makes sense
    private static boolean isRead(BitReader in, long[] into, int count, int sampleBits) {
        if (in.flag()) return false;
        int kind = in.bits(6), wasted = in.flag() ? in.unary() + 1 : 0, bits = sampleBits - wasted;
        if (bits < 1) return false;
        if (kind == CONSTANT) {
            Arrays.fill(into, 0, count, in.signedLong(bits));
        } else if (kind == VERBATIM) {
            for (int i = 0; i < count; i++)
                into[i] = in.signedLong(bits);
        } else if (kind >= LINEAR || kind >= FIXED && kind <= FIXED + MOST_FIXED) {
            if (!isPredicted(in, into, count, bits, kind)) return false;
        } else {
            return false;
        }
        for (int i = 0; wasted > 0 && i < count; i++)
            into[i] <<= wasted;
        return true;
    }

    private static boolean isPredicted(BitReader in, long[] into, int count, int bits, int kind) {
        int order = kind >= LINEAR ? kind - LINEAR + 1 : kind - FIXED, shift = 0;
        if (order > count) return false;
        for (int i = 0; i < order; i++)
            into[i] = in.signedLong(bits);
        int[] coefficients = FIXED_COEFFICIENTS[Math.min(order, MOST_FIXED)];
        if (kind >= LINEAR) {
            int precision = in.bits(4) + 1;
            shift = in.signed(5);
            if (precision == 16 || shift < 0) return false;
            coefficients = new int[order];
            for (int i = 0; i < order; i++)
                coefficients[i] = in.signed(precision);
        }
        if (!isResidualRead(in, into, order, count)) return false;
        restore(into, coefficients, shift, count);
        return true;
    }

    private static boolean isResidualRead(BitReader in, long[] into, int order, int count) {
        int method = in.bits(2), parts = 1 << in.bits(4), length = count / parts, parameterBits = 4 + method, escape = (1 << parameterBits) - 1;
        if (method > 1 || length * parts != count || length < order) return false;
        for (int part = 0; part < parts && !in.isPastEnd(); part++) {
            int from = part == 0 ? order : part * length, to = (part + 1) * length, parameter = in.bits(parameterBits);
            if (parameter == escape) {
                int plain = in.bits(5);
                for (int i = from; i < to; i++)
                    into[i] = plain == 0 ? 0 : in.signed(plain);
            } else {
                in.foldedRice(parameter, into, from, to);
            }
        }
        return !in.isPastEnd();
    }

    /// Adds what is predicted to what was left over.
    private static void restore(long[] x, int[] coefficients, int shift, int count) {
        int order = coefficients.length;
        if (order <= USUAL_ORDER) {
            restoreUsual(x, Arrays.copyOf(coefficients, USUAL_ORDER), order, shift, count);
            return;
        }
        for (int i = order; i < count; i++) {
            long sum = 0;
            for (int j = 0; j < order; j++)
                sum += coefficients[j] * x[i - 1 - j];
            x[i] += sum >> shift;
        }
    }

    /// The same for an order that most files keep to: what was before stays in registers.
    /// @param c coefficients, 0 beyond the order
    private static void restoreUsual(long[] x, int[] c, int order, int shift, int count) {
        long c0 = c[0], c1 = c[1], c2 = c[2], c3 = c[3], c4 = c[4], c5 = c[5], c6 = c[6], c7 = c[7];
        long[] before = new long[USUAL_ORDER];
        for (int j = 0; j < order; j++)
            before[j] = x[order - 1 - j];
        long x0 = before[0], x1 = before[1], x2 = before[2], x3 = before[3], x4 = before[4], x5 = before[5], x6 = before[6], x7 = before[7];
        for (int i = order; i < count; i++) {
            // The youngest comes last, as it is known last.
            long sum = c7 * x7 + c6 * x6 + (c5 * x5 + c4 * x4) + (c3 * x3 + c2 * x2 + c1 * x1) + c0 * x0;
            x7 = x6;
            x6 = x5;
            x5 = x4;
            x4 = x3;
            x3 = x2;
            x2 = x1;
            x1 = x0;
            x0 = x[i] += sum >> shift;
        }
    }

    private static void joinSides(int sides, long[] first, long[] second, int count) {
        for (int i = 0; i < count; i++) {
            long a = first[i], b = second[i];
            switch (sides) {
                case FlacFrame.LEFT_AND_SIDE -> second[i] = a - b;
                case FlacFrame.SIDE_AND_RIGHT -> first[i] = a + b;
                default -> {
                    // The sum's lowest bit is the difference's.
                    long sum = a << 1 | b & 1;
                    first[i] = sum + b >> 1;
                    second[i] = sum - b >> 1;
                }
            }
        }
    }
}
