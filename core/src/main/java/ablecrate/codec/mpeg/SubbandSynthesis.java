package ablecrate.codec.mpeg;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/// Puts the 32 subbands of one channel together again.
///
/// Source: ISO/IEC 11172-3:1993, section 2.4.3.2 and figure 3-A.2 (the flow chart), table 3-B.3 (the window), which `window.txt` holds.
final class SubbandSynthesis {
    static final int BANDS = 32;
    private static final int VECTORS = 16, HALF = BANDS / 2;
    /// `[subband][place]`: of a vector of 64 those 32 places that the others mirror, 0 to 15 and 33 to 48.
    private static final double[][] TURNS = turns();
    /// `[age of the vector][frame]`
    private static final double[][] WINDOW = window();

    /// Both halves of the vectors: the newest at `newest`, the one before it behind that. Loops reach all their arrays at the same index, for the compiler.
    private final double[][] low = new double[VECTORS][BANDS], high = new double[VECTORS][BANDS];
    private final double[] own = new double[BANDS], sum = new double[BANDS];
    private int newest;

    private static double[][] turns() {
        double[][] turns = new double[BANDS][BANDS];
        for (int band = 0; band < BANDS; band++)
            for (int i = 0; i < BANDS; i++)
                turns[band][i] = Math.cos((16 + (i < HALF ? i : i + HALF + 1)) * (2 * band + 1) * Math.PI / (2 * BANDS));
        return turns;
    }

    private static double[][] window() {
        int[] half;
        try (InputStream in = SubbandSynthesis.class.getResourceAsStream("window.txt")) {
            half = new String(in.readAllBytes(), StandardCharsets.US_ASCII).lines().filter(l -> !l.startsWith("#")).flatMap(l -> Arrays.stream(l.split(" ")))
                    .mapToInt(Integer::parseInt).toArray();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        double[][] window = new double[VECTORS][BANDS];
        for (int i = 0; i < VECTORS * BANDS; i++) {
            // Its second half mirrors the first, with its sign changed but at whole vectors.
            int value = i < half.length ? half[i] : (i % (2 * BANDS) == 0 ? 1 : -1) * half[VECTORS * BANDS - i];
            window[i / BANDS][i % BANDS] = value / 65_536.0;
        }
        return window;
    }

    /// Forgets what sounded.
    void silence() {
        for (int i = 0; i < VECTORS; i++) {
            Arrays.fill(low[i], 0);
            Arrays.fill(high[i], 0);
        }
    }

    /// @param bands one value each
    /// @param out takes 32 frames from `at` on
    void add(double[] bands, double[] out, int at) {
        newest = newest - 1 & VECTORS - 1;
        turn(bands, low[newest], high[newest]);
        Arrays.fill(sum, 0);
        // Of every other vector the second half counts.
        for (int age = 0; age < VECTORS; age += 2)
            windowed(low[newest + age & VECTORS - 1], WINDOW[age], high[newest + age + 1 & VECTORS - 1], WINDOW[age + 1], sum);
        System.arraycopy(sum, 0, out, at, BANDS);
    }

    private void turn(double[] bands, double[] first, double[] second) {
        Arrays.fill(own, 0);
        for (int band = 0; band < BANDS; band += 4)
            scaled(TURNS[band], bands[band], TURNS[band + 1], bands[band + 1], TURNS[band + 2], bands[band + 2], TURNS[band + 3], bands[band + 3], own);
        first[HALF] = 0;
        second[0] = -own[0];
        first[0] = own[0];
        second[HALF] = own[BANDS - 1];
        for (int i = 1; i < HALF; i++) {
            first[i] = own[i];
            first[BANDS - i] = -own[i];
            second[i] = own[HALF + i - 1];
            second[BANDS - i] = own[HALF + i - 1];
        }
    }

    private static void scaled(double[] a, double byA, double[] b, double byB, double[] c, double byC, double[] d, double byD, double[] into) {
        for (int i = 0; i < BANDS; i++)
            into[i] += a[i] * byA + b[i] * byB + c[i] * byC + d[i] * byD;
    }

    private static void windowed(double[] vector, double[] window, double[] older, double[] windowOfOlder, double[] into) {
        for (int i = 0; i < BANDS; i++)
            into[i] += vector[i] * window[i] + older[i] * windowOfOlder[i];
    }
}
