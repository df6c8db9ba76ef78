package ablecrate.dsp;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.OptionalDouble;

/// The mean spectrum of a stream: Hann windows, half overlapping, their powers averaged over time and channels (P. D. Welch 1967). One per stream.
public final class SpectrumMeter {
    private static final int LENGTH = 8192, BANDS_PER_OCTAVE = 24;
    private static final double LOWEST_HZ = 20, LOWEST_DB = -200;
    /// A step of so much within so many Hz, with nothing like it above, is where an encoder stops.
    private static final double CUT_DB = 20, CUT_SPAN_HZ = 1000, LOWEST_CUT_HZ = 6000, CUT_LOUDEST_ABOVE_DB = -75;

    private final int rateHz;
    private final PowerSpectrum spectrum = new PowerSpectrum(LENGTH);
    private final double[] power = new double[spectrum.bins()];
    private final double[][] held;
    private int filled;
    private long windows;

    /// Levels against a sine at full scale, in bands of a 24th of an octave, or as narrow as the transform allows.
    /// @param hz middle of each band, rising
    /// @param db the loudest bin of each
    /// @param cutoffHz where the spectrum breaks off steeply below the highest frequency; empty if it does not
    public record Spectrum(List<Double> hz, List<Double> db, OptionalDouble cutoffHz) {
        public Spectrum {
            hz = List.copyOf(hz);
            db = List.copyOf(db);
        }
    }

    public SpectrumMeter(int rateHz, int channels) {
        this.rateHz = rateHz;
        held = new double[channels][LENGTH];
    }

    /// @param planes `[channel][frame]`
    public void add(double[][] planes, int frames) {
        for (int done = 0; done < frames;) {
            int count = Math.min(frames - done, LENGTH - filled);
            for (int channel = 0; channel < held.length; channel++)
                System.arraycopy(planes[channel], done, held[channel], filled, count);
            filled += count;
            done += count;
            if (filled < LENGTH) continue;
            transform();
            for (double[] plane : held)
                System.arraycopy(plane, LENGTH / 2, plane, 0, LENGTH / 2);
            filled = LENGTH / 2;
        }
    }

    private void transform() {
        windows++;
        for (double[] plane : held)
            spectrum.add(plane, 0, 1.0 / held.length, power);
    }

    public Spectrum finish() {
        if (windows == 0) {
            for (double[] plane : held)
                Arrays.fill(plane, filled, LENGTH, 0);
            transform();
        }
        double[] db = new double[power.length];
        for (int k = 0; k < db.length; k++)
            db[k] = Math.max(LOWEST_DB, 10 * Math.log10(power[k] / windows / spectrum.fullScale() + 1e-30));
        List<Double> hz = new ArrayList<>(), levels = new ArrayList<>();
        double binHz = (double) rateHz / LENGTH, factor = Math.pow(2, 1.0 / BANDS_PER_OCTAVE);
        for (double from = LOWEST_HZ; from < rateHz / 2.0;) {
            int first = (int) Math.ceil(from / binHz), last = (int) Math.min(power.length - 1, Math.max(first, Math.ceil(from * factor / binHz) - 1));
            if (first >= power.length) break;
            double loudest = LOWEST_DB;
            for (int k = first; k <= last; k++)
                loudest = Math.max(loudest, db[k]);
            hz.add((first + last) / 2.0 * binHz);
            levels.add(loudest);
            from = Math.max(from * factor, (last + 1) * binHz);
        }
        return new Spectrum(hz, levels, cutoff(db, binHz));
    }

    private static OptionalDouble cutoff(double[] db, double binHz) {
        int span = (int) Math.round(CUT_SPAN_HZ / binHz), first = (int) (LOWEST_CUT_HZ / binHz);
        double steepest = CUT_DB;
        OptionalDouble found = OptionalDouble.empty();
        for (int k = Math.max(first, span); k + span < db.length; k++) {
            double step = mean(db, k - span, k) - mean(db, k, k + span);
            boolean isLast = step > steepest && mean(db, k, db.length) < CUT_LOUDEST_ABOVE_DB;
            if (isLast) {
                steepest = step;
                found = OptionalDouble.of(k * binHz);
            }
        }
        return found;
    }

    private static double mean(double[] db, int from, int to) {
        double sum = 0;
        for (int k = from; k < to; k++)
            sum += db[k];
        return sum / (to - from);
    }
}
