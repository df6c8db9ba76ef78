package ablecrate.detect;

import ablecrate.dsp.PowerSpectrum;
import java.util.Arrays;

/// Levels in bands of a third of an octave, as far as a window tells them apart. One per thread.
final class ThirdOctaves {
    private static final double LOWEST_HZ = 40, RANGE_DB = 45, FLOOR = 1e-5;

    private final PowerSpectrum spectrum;
    /// Band of each bin; −1 for none.
    private final int[] bands;
    private final int count;
    private final double[] power, second, before, after;

    /// @param length of the window, a power of two
    ThirdOctaves(int length, int rateHz) {
        spectrum = new PowerSpectrum(length);
        bands = new int[spectrum.bins()];
        int last = -1, next = -1;
        for (int bin = 0; bin < bands.length; bin++) {
            double hz = (double) bin * rateHz / length;
            int band = hz < LOWEST_HZ ? -1 : (int) Math.floor(3 * Math.log(hz / LOWEST_HZ) / Math.log(2));
            // Bands that no bin lies in are none.
            if (band > last) {
                next++;
                last = band;
            }
            bands[bin] = band < 0 ? -1 : next;
        }
        count = next + 1;
        power = new double[spectrum.bins()];
        second = new double[spectrum.bins()];
        before = new double[count];
        after = new double[count];
    }

    int length() { return spectrum.length(); }

    int count() { return count; }

    /// Powers of one window.
    /// @param into one value a band; overwritten
    void powers(double[] plane, int from, double[] into) {
        Arrays.fill(power, 0);
        spectrum.add(plane, from, 1, power);
        addUp(power, into);
    }

    private void addUp(double[] power, double[] into) {
        Arrays.fill(into, 0);
        double scale = 1 / spectrum.fullScale();
        for (int bin = 0; bin < bands.length; bin++)
            if (bands[bin] >= 0) into[bands[bin]] += power[bin] * scale;
    }

    /// How far levels differ between two windows, in dB; what is louder counts more, what is 45 dB below the loudest nothing.
    double change(double[] plane, int first, int then) { return change(plane, first, then, 0); }

    /// The same with the first window made louder or softer.
    double change(double[] plane, int first, int then, double firstDb) {
        Arrays.fill(power, 0);
        Arrays.fill(second, 0);
        spectrum.add(plane, first, plane, then, power, second);
        addUp(power, before);
        addUp(second, after);
        double factor = Math.pow(10, firstDb / 10);
        for (int band = 0; band < count; band++)
            before[band] *= factor;
        return change(before, after);
    }

    static double change(double[] a, double[] b) {
        double most = 1e-20;
        for (int band = 0; band < a.length; band++)
            most = Math.max(most, Math.max(a[band], b[band]));
        double floor = most * FLOOR, bottom = 10 * Math.log10(most) - RANGE_DB, sum = 0, weights = 0;
        for (int band = 0; band < a.length; band++) {
            double x = 10 * Math.log10(a[band] + floor), y = 10 * Math.log10(b[band] + floor), weight = Math.max(0, Math.max(x, y) - bottom);
            sum += weight * Math.abs(x - y);
            weights += weight;
        }
        return weights == 0 ? 0 : sum / weights;
    }
}
