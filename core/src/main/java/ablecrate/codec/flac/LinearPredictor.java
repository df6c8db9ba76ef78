package ablecrate.codec.flac;

import java.util.Arrays;
import java.util.Optional;

/// A predictor whose coefficients are whole numbers, to be divided by a power of two.
/// @param coefficients of the sample before, the one before that …
/// @param precision bits of a coefficient, with its sign
record LinearPredictor(int[] coefficients, int precision, int shift) {
    private static final int MOST_SHIFT = 15;
    /// Of the block, at each end, that the window raises and lowers: a quarter (a cosine-tapered window, J. Tukey, 1967; the share is common practice).
    private static final double TAPER = 0.25;
    /// A part of the power that stands for what rounding adds.
    private static final double FLOOR = 1e-10;

    /// What the best predictors of each order would leave, and how.
    /// @param coefficients `[order - 1][coefficient]`
    /// @param power `[order]` mean square that is left over
    record Orders(double[][] coefficients, double[] power) {
        /// The entropy of what is left at this order, whose values fall off on both sides as Rice's code supposes: log2(2e · the mean size).
        double bitsPerSample(int order) { return power[order] <= 0 ? 0 : Math.max(0, 0.5 * Math.log(2 * Math.E * Math.E * power[order]) / Math.log(2)); }

        int best(int count, int bitsPerCoefficient) {
            int best = 0;
            for (int order = 1; order < power.length; order++)
                if (bitsPerSample(order) * count + order * bitsPerCoefficient < bitsPerSample(best) * count + best * bitsPerCoefficient) best = order;
            return best;
        }
    }

    /// By autocorrelation and Levinson and Durbin's recursion (J. Makhoul, *Linear prediction: A tutorial review*, Proc. IEEE 63, 1975).
    static Orders orders(int[] x, int count, int mostOrder) {
        double[] windowed = windowed(x, count), r = autocorrelation(windowed, count, mostOrder);
        double[][] coefficients = new double[mostOrder][];
        double[] power = new double[mostOrder + 1], a = new double[mostOrder];
        double error = r[0] * (1 + FLOOR);
        // The window takes some of the power.
        double scale = 1 / (count * (1 - TAPER * 2 * 0.625));
        power[0] = error * scale;
        for (int order = 1; order <= mostOrder; order++) {
            double k = r[order];
            for (int j = 0; j < order - 1; j++)
                k -= a[j] * r[order - 1 - j];
            k = error > 0 ? k / error : 0;
            double[] next = a.clone();
            next[order - 1] = k;
            for (int j = 0; j < order - 1; j++)
                next[j] = a[j] - k * a[order - 2 - j];
            a = next;
            error *= 1 - k * k;
            coefficients[order - 1] = Arrays.copyOf(a, order);
            power[order] = error * scale;
        }
        return new Orders(coefficients, power);
    }

    private static double[] windowed(int[] x, int count) {
        double[] out = new double[count];
        int taper = (int) (count * TAPER);
        for (int i = 0; i < count; i++)
            out[i] = x[i];
        for (int i = 0; i < taper; i++) {
            double w = 0.5 - 0.5 * Math.cos(Math.PI * (i + 0.5) / taper);
            out[i] *= w;
            out[count - 1 - i] *= w;
        }
        return out;
    }

    /// Three lags in one pass, as their sums do not wait for each other.
    private static double[] autocorrelation(double[] x, int count, int mostLag) {
        double[] out = new double[mostLag + 3];
        for (int lag = 0; lag <= mostLag; lag += 3) {
            double first = 0, second = 0, third = 0;
            for (int i = lag + 2; i < count; i++) {
                double now = x[i];
                first += now * x[i - lag];
                second += now * x[i - lag - 1];
                third += now * x[i - lag - 2];
            }
            for (int i = lag; i < Math.min(lag + 2, count); i++) {
                first += x[i] * x[i - lag];
                if (i > lag) second += x[i] * x[i - lag - 1];
            }
            out[lag] = first;
            out[lag + 1] = second;
            out[lag + 2] = third;
        }
        return out;
    }

    /// Rounded, what rounding takes from one coefficient given to the next.
    /// @return empty where the coefficients are too large for a shift
    static Optional<LinearPredictor> rounded(double[] coefficients, int precision) {
        double largest = 0;
        for (double c : coefficients)
            largest = Math.max(largest, Math.abs(c));
        if (largest == 0) return Optional.empty();
        int shift = Math.min(MOST_SHIFT, precision - 2 - Math.getExponent(largest));
        if (shift < 0) return Optional.empty();
        int limit = (1 << precision - 1) - 1;
        int[] out = new int[coefficients.length];
        double owed = 0;
        for (int i = 0; i < out.length; i++) {
            double exact = Math.scalb(coefficients[i], shift) + owed;
            out[i] = (int) Math.clamp(Math.rint(exact), -limit - 1, limit);
            owed = exact - out[i];
        }
        return Optional.of(new LinearPredictor(out, precision, shift));
    }

    int order() { return coefficients.length; }

    /// What is left of samples that are predicted.
    /// @param residual receives it from the order on
    /// @return false where it is too much for a number of 32 bits
    boolean isLeft(int[] x, int count, int[] residual) {
        int order = order();
        long outside = 0;
        for (int i = order; i < count; i++) {
            long sum = 0;
            for (int j = 0; j < order; j++)
                sum += (long) coefficients[j] * x[i - 1 - j];
            long left = x[i] - (sum >> shift);
            residual[i] = (int) left;
            outside |= left ^ left >> 63;
        }
        return outside < 1L << 30;
    }
}
