package ablecrate.verify;

import java.util.Arrays;

/// Tells whether a sound that was compressed with loss is still the one that was rendered: as loud, and starting where it did.
///
/// Codecs change the waveform least where it is low, so both are compared below some 3.5 kHz: the power of each channel, and the place where the loudest stretch
/// of the sound correlates best. One per stream; not for two threads.
public final class Likeness {
    private static final int STRETCH = 16_384, REACH = 2_400, COARSE = 4;
    private static final double CUTOFF_HZ = 3_500, OF_NYQUIST = 0.35, LOUDER = 4;
    /// Of a sound's power, what lies below the cutoff and is none of it any more: −30 dB.
    private static final double REST = 1e-3;

    private final LowPass[] filters;
    private final double[] powers, whole;
    private final double[] block = new double[STRETCH];
    private double[] kept = {};
    private final long from;
    private final int length;
    private double keptPower;
    private long position, keptAt = -1;

    /// What is kept of a stream. Immutable.
    public static final class Trace {
        private final long frames, at;
        private final double[] powers, whole, stretch;

        /// @param powers of each channel below the cutoff, summed
        /// @param whole of each channel, summed
        /// @param at frame that the stretch starts at
        /// @param stretch of all channels together
        private Trace(long frames, double[] powers, double[] whole, long at, double[] stretch) {
            this.frames = frames;
            this.at = at;
            this.powers = powers;
            this.whole = whole;
            this.stretch = stretch;
        }

        /// How much louder another is, in the channel that differs most; 0 where there is next to nothing below the cutoff, as codecs keep no such rests.
        double levelDifferenceDb(Trace other) {
            double most = 0;
            for (int channel = 0; channel < powers.length; channel++) {
                double floor = 1e-12 * Math.max(1, frames) + REST * whole[channel];
                double db = 10 * Math.log10((other.powers[channel] + floor) / (powers[channel] + floor));
                if (Math.abs(db) > Math.abs(most)) most = db;
            }
            return most;
        }
    }

    private Likeness(int rateHz, int channels, long from, int length) {
        this.from = from;
        this.length = length;
        filters = new LowPass[channels];
        Arrays.setAll(filters, _ -> new LowPass(Math.min(CUTOFF_HZ, OF_NYQUIST * rateHz / 2) / rateHz));
        powers = new double[channels];
        whole = new double[channels];
        if (from >= 0) kept = new double[length];
    }

    /// Of a stream that is rendered: keeps its loudest stretch.
    public static Likeness ofRendered(int rateHz, int channels) { return new Likeness(rateHz, channels, -1, STRETCH); }

    /// Of a stream that was decoded: keeps what lies around the place of another's stretch.
    static Likeness ofDecoded(int rateHz, int channels, Trace rendered) {
        return new Likeness(rateHz, channels, Math.max(0, rendered.at - REACH), STRETCH + 2 * REACH);
    }

    public void add(double[][] planes, int count) {
        for (int i = 0; i < count; i++, position++) {
            double sum = 0;
            for (int channel = 0; channel < filters.length; channel++) {
                double low = filters[channel].next(planes[channel][i]);
                powers[channel] += low * low;
                whole[channel] += planes[channel][i] * planes[channel][i];
                // Unequal parts, so that sides which cancel leave something.
                sum += low / (1 + 0.4 * channel);
            }
            if (from >= 0) {
                if (position >= from && position < from + length) kept[(int) (position - from)] = sum;
            } else {
                int at = (int) (position % STRETCH);
                block[at] = sum;
                if (at == STRETCH - 1) endBlock(STRETCH);
            }
        }
    }

    private void endBlock(int count) {
        double power = 0;
        for (int i = 0; i < count; i++)
            power += block[i] * block[i];
        if (keptAt >= 0 && power <= LOUDER * keptPower) return;
        kept = Arrays.copyOf(block, count);
        keptPower = power;
        keptAt = position - position % STRETCH;
        if (count == STRETCH) keptAt = position + 1 - STRETCH;
    }

    public Trace finish() {
        int rest = (int) (position % STRETCH);
        if (from < 0 && rest > 0) endBlock(rest);
        return new Trace(position, powers, whole, from >= 0 ? from : Math.max(0, keptAt), kept);
    }

    /// How many frames later a decoded sound is than it was rendered.
    /// @param correlation at that place, 1 where both are the same but for their level; at most 0 where nothing is alike
    /// @param here the correlation where it should be
    record Shift(long frames, double correlation, double here) {}

    static Shift shift(Trace rendered, Trace decoded) {
        int zero = (int) (rendered.at - decoded.at);
        double here = correlation(rendered.stretch, decoded.stretch, zero, 1);
        double best = Double.NEGATIVE_INFINITY;
        int at = zero;
        for (int lag = 0, last = Math.min(zero + REACH, decoded.stretch.length - rendered.stretch.length); lag <= last; lag += COARSE) {
            double c = correlation(rendered.stretch, decoded.stretch, lag, COARSE);
            if (c > best) {
                best = c;
                at = lag;
            }
        }
        best = here;
        int fine = zero;
        for (int lag = Math.max(0, at - COARSE); lag <= at + COARSE; lag++) {
            double c = correlation(rendered.stretch, decoded.stretch, lag, 1);
            if (c > best) {
                best = c;
                fine = lag;
            }
        }
        return new Shift(fine - zero, best, here);
    }

    private static double correlation(double[] a, double[] b, int lag, int step) {
        double cross = 0, aa = 0, bb = 0;
        for (int i = 0; i < a.length && lag + i < b.length; i += step) {
            cross += a[i] * b[lag + i];
            aa += a[i] * a[i];
            bb += b[lag + i] * b[lag + i];
        }
        return aa == 0 || bb == 0 ? 0 : cross / Math.sqrt(aa * bb);
    }

    /// Two Butterworth sections of the second order, one after the other.
    private static final class LowPass {
        private final double b0, a1, a2;
        private double x1, x2, y1, y2, z1, z2;

        /// @param cutoff of the rate
        LowPass(double cutoff) {
            // The bilinear transform of 1/(s² + √2·s + 1).
            double k = Math.tan(Math.PI * cutoff), norm = 1 / (1 + Math.sqrt(2) * k + k * k);
            b0 = k * k * norm;
            a1 = 2 * (k * k - 1) * norm;
            a2 = (1 - Math.sqrt(2) * k + k * k) * norm;
        }

        double next(double x) {
            double y = b0 * (x + 2 * x1 + x2) - a1 * y1 - a2 * y2, z = b0 * (y + 2 * y1 + y2) - a1 * z1 - a2 * z2;
            x2 = x1;
            x1 = x;
            y2 = y1;
            y1 = y;
            z2 = z1;
            z1 = z;
            return z;
        }
    }
}
