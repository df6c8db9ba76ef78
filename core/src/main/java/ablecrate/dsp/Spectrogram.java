package ablecrate.dsp;

import ablecrate.audio.FrameRange;
import ablecrate.audio.SeekableSource;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.function.BooleanSupplier;

/// Levels over time and frequency, as a picture.
/// @param range frames that it shows
/// @param rateHz of the sound
/// @param db `[column][row]`, in dB of a sine at full scale, row 0 the lowest; the loudest that was seen, no less than [#SILENT_DB]
public record Spectrogram(FrameRange range, int rateHz, float[][] db) {
    public static final double LOWEST_HZ = 30;
    public static final float SILENT_DB = -120;
    private static final int LONG = 4096, SHORT = 1024, LOOKS = 4, HELD_FRAMES = 1 << 21;

    public int columns() { return db.length; }

    public int rows() { return db[0].length; }

    /// Middle of a row; rows are as far apart as keys of a keyboard, in equal ratios.
    public double hz(double row) { return LOWEST_HZ * Math.pow(rateHz / 2.0 / LOWEST_HZ, (row + 0.5) / rows()); }

    /// The row of a frequency; a fraction, below 0 beneath the lowest.
    public double row(double hz) { return rows() * Math.log(hz / LOWEST_HZ) / Math.log(rateHz / 2.0 / LOWEST_HZ) - 0.5; }

    /// Looks into a sound; where a column spans much of it, at a few places of each.
    /// @param weights `[picture][channel]`: one picture is made of each weighted sum of the channels
    /// @param stopped asked now and then; the rest is silent then
    public static List<Spectrogram> of(SeekableSource source, double[][] weights, FrameRange range, int columns, int rows, BooleanSupplier stopped)
            throws IOException {
        double step = (double) range.length() / columns;
        PowerSpectrum spectrum = new PowerSpectrum(step < SHORT / 4.0 ? SHORT : LONG);
        int looks = (int) Math.clamp(Math.ceil(step / spectrum.length()), 1, LOOKS);
        List<Spectrogram> pictures = new ArrayList<>();
        for (int i = 0; i < weights.length; i++) {
            float[][] db = new float[columns][rows];
            for (float[] column : db)
                Arrays.fill(column, SILENT_DB);
            pictures.add(new Spectrogram(range, source.rateHz(), db));
        }
        Stretch stretch = new Stretch(source, weights, range, spectrum.length());
        double[] power = new double[spectrum.bins()];
        double[][] loudest = new double[weights.length][spectrum.bins()];
        for (int column = 0; column < columns && !stopped.getAsBoolean(); column++) {
            for (double[] of : loudest)
                Arrays.fill(of, 0);
            for (int look = 0; look < looks; look++) {
                long from = range.start() + (long) ((column + (look + 0.5) / looks) * step) - spectrum.length() / 2;
                double[][] planes = stretch.at(from);
                for (int i = 0; i < planes.length; i++) {
                    Arrays.fill(power, 0);
                    spectrum.add(planes[i], stretch.indexOf(from), 1.0 / spectrum.fullScale(), power);
                    for (int bin = 0; bin < power.length; bin++)
                        loudest[i][bin] = Math.max(loudest[i][bin], power[bin]);
                }
            }
            for (int i = 0; i < weights.length; i++)
                pictures.get(i).fill(column, loudest[i]);
        }
        return pictures;
    }

    private void fill(int column, double[] power) {
        double binHz = rateHz / 2.0 / (power.length - 1);
        for (int row = 0; row < rows(); row++) {
            double low = hz(row - 0.5) / binHz, high = hz(row + 0.5) / binHz, found = 0;
            if (high - low < 1) {
                // Between two bins where rows are finer than they are.
                double middle = Math.min(hz(row) / binHz, power.length - 1);
                int bin = (int) Math.min(middle, power.length - 2);
                found = power[bin] + (power[bin + 1] - power[bin]) * (middle - bin);
            } else
                for (int bin = (int) Math.ceil(low); bin <= Math.min(high, power.length - 1); bin++)
                    found = Math.max(found, power[bin]);
            db[column][row] = (float) Math.max(SILENT_DB, 10 * Math.log10(found + 1e-20));
        }
    }

    /// Frames of a source where they are asked for: all of a short range at once, of a long one a window at a time.
    private static final class Stretch {
        private final SeekableSource source;
        private final double[][] weights;
        private final int window;
        private final boolean isHeld;
        private double[][] planes;
        private long start;

        Stretch(SeekableSource source, double[][] weights, FrameRange range, int window) throws IOException {
            this.source = source;
            this.weights = weights;
            this.window = window;
            isHeld = range.length() + 2L * window <= HELD_FRAMES;
            if (isHeld) read(Math.max(0, range.start() - window), (int) (range.length() + 2L * window));
        }

        private void read(long from, int count) throws IOException {
            start = from;
            planes = new double[weights.length][(int) Math.max(0, Math.min(count, source.frames() - from))];
            source.seek(from);
            new ChannelMixer(source, weights).readFully(planes, 0, planes[0].length);
        }

        double[][] at(long from) throws IOException {
            if (!isHeld) read(Math.max(0, from), window);
            return planes;
        }

        int indexOf(long from) { return (int) (from - start); }
    }
}
