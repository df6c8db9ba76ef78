package ablecrate.codec.aac;

import java.util.Arrays;

/// Makes a channel's wave of its spectra: transforms that overlap by half, under windows whose slopes may be short. One per channel; not for two threads.
///
/// Source: ISO/IEC 14496-3:2009, section 4.6.11.
final class FilterBank {
    static final int LINES = 1024, SHORT_LINES = 128, SHORT_WINDOWS = 8;
    /// Where the first of eight short windows begins, and the flat parts of windows with one short slope.
    private static final int FLAT = (LINES - SHORT_LINES) / 2;
    private static final double[][] LONG_SLOPES = {sine(LINES), kaiser(LINES, 4)}, SHORT_SLOPES = {sine(SHORT_LINES), kaiser(SHORT_LINES, 6)};

    private final Imdct whole = new Imdct(LINES), part = new Imdct(SHORT_LINES);
    private final double[] wave = new double[2 * LINES], piece = new double[2 * SHORT_LINES];
    /// The second half of the window before, its slope applied.
    private final double[] tail = new double[LINES];
    private int lastShape;

    /// How a packet's spectrum is windowed; in the order of the stream's numbers.
    enum Sequence {
        LONG, START, EIGHT_SHORT, STOP;

        static Sequence of(int number) { return values()[number]; }
    }

    /// @param spectrum 1024 lines, or 8 × 128
    /// @param shape 0 for slopes of a sine, 1 for Kaiser's
    /// @param to receives 1024 frames, times `gain`
    void add(double[] spectrum, Sequence sequence, int shape, double gain, double[] to) {
        if (sequence == Sequence.EIGHT_SHORT)
            eight(spectrum, shape);
        else {
            whole.transform(spectrum, 0, wave);
            if (sequence == Sequence.STOP) {
                Arrays.fill(wave, 0, FLAT, 0);
                rise(wave, FLAT, SHORT_SLOPES[lastShape]);
            } else
                rise(wave, 0, LONG_SLOPES[lastShape]);
            if (sequence == Sequence.START) {
                fall(wave, LINES + FLAT, SHORT_SLOPES[shape]);
                Arrays.fill(wave, 2 * LINES - FLAT, 2 * LINES, 0);
            } else
                fall(wave, LINES, LONG_SLOPES[shape]);
        }
        // 2 / N of the transform, see the source.
        double scale = gain / LINES;
        for (int i = 0; i < LINES; i++)
            to[i] = (tail[i] + wave[i]) * scale;
        System.arraycopy(wave, LINES, tail, 0, LINES);
        lastShape = shape;
    }

    private void eight(double[] spectrum, int shape) {
        Arrays.fill(wave, 0);
        // Their transform is shorter, and so is what it is divided by.
        double louder = (double) LINES / SHORT_LINES;
        for (int window = 0; window < SHORT_WINDOWS; window++) {
            part.transform(spectrum, window * SHORT_LINES, piece);
            rise(piece, 0, SHORT_SLOPES[window == 0 ? lastShape : shape]);
            fall(piece, SHORT_LINES, SHORT_SLOPES[shape]);
            int at = FLAT + window * SHORT_LINES;
            for (int i = 0; i < 2 * SHORT_LINES; i++)
                wave[at + i] += piece[i] * louder;
        }
    }

    private static void rise(double[] wave, int at, double[] slope) {
        for (int i = 0; i < slope.length; i++)
            wave[at + i] *= slope[i];
    }

    private static void fall(double[] wave, int at, double[] slope) {
        for (int i = 0; i < slope.length; i++)
            wave[at + i] *= slope[slope.length - 1 - i];
    }

    private static double[] sine(int length) {
        double[] slope = new double[length];
        for (int i = 0; i < length; i++)
            slope[i] = Math.sin(Math.PI * (i + 0.5) / (2 * length));
        return slope;
    }

    private static double[] kaiser(int length, double alpha) {
        double[] slope = new double[length];
        double sum = 0;
        for (int i = 0; i <= length; i++) {
            double x = 2.0 * i / length - 1;
            sum += bessel(Math.PI * alpha * Math.sqrt(Math.max(0, 1 - x * x)));
            if (i < length) slope[i] = sum;
        }
        for (int i = 0; i < length; i++)
            slope[i] = Math.sqrt(slope[i] / sum);
        return slope;
    }

    /// I₀, by its series.
    private static double bessel(double x) {
        double sum = 1, term = 1;
        for (int k = 1; term > 1e-18 * sum; k++) {
            term *= x / (2 * k) * (x / (2 * k));
            sum += term;
        }
        return sum;
    }

    /// Forgets what came before.
    void reset() {
        Arrays.fill(tail, 0);
        lastShape = 0;
    }
}
