package ablecrate.dsp;

import ablecrate.audio.FrameRange;
import ablecrate.audio.FrameSource;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.function.BooleanSupplier;

/// The picture of a sound at every zoom: lowest and highest sample of each stretch of 64 frames, of 256, 1 024…
/// A query costs a few steps whatever the stretch; an hour at 48 kHz takes 29 MB.
public final class PeakPyramid {
    static final int BASE_FRAMES = 64;
    private static final int FACTOR = 4;

    private final long frames;
    private final int channels;
    /// `[level][channel * 2]` lowest, `[… + 1]` highest, one value a stretch.
    private final List<float[][]> levels = new ArrayList<>();

    private PeakPyramid(long frames, int channels) {
        this.frames = frames;
        this.channels = channels;
    }

    public long frames() { return frames; }

    public int channels() { return channels; }

    /// Reads a source to its end.
    /// @param stopped asked now and then; true ends the reading, the rest of the picture is flat
    public static PeakPyramid of(FrameSource source, BooleanSupplier stopped) throws IOException {
        PeakPyramid pyramid = new PeakPyramid(source.frames(), source.channels());
        int stretches = Math.toIntExact(Math.ceilDiv(source.frames(), BASE_FRAMES));
        float[][] base = new float[2 * source.channels()][stretches];
        double[][] block = new double[source.channels()][BASE_FRAMES * 64];
        int at = 0, got;
        while (at < stretches && !stopped.getAsBoolean() && (got = source.readFully(block, 0, block[0].length)) > 0) {
            int here = Math.ceilDiv(got, BASE_FRAMES);
            for (int channel = 0; channel < block.length; channel++)
                for (int s = 0; s < here; s++) {
                    double low = Double.POSITIVE_INFINITY, high = Double.NEGATIVE_INFINITY;
                    for (int i = s * BASE_FRAMES, end = Math.min(i + BASE_FRAMES, got); i < end; i++) {
                        low = Math.min(low, block[channel][i]);
                        high = Math.max(high, block[channel][i]);
                    }
                    base[2 * channel][at + s] = (float) low;
                    base[2 * channel + 1][at + s] = (float) high;
                }
            at += here;
        }
        pyramid.levels.add(base);
        while (pyramid.levels.getLast()[0].length > FACTOR)
            pyramid.levels.add(coarser(pyramid.levels.getLast()));
        return pyramid;
    }

    private static float[][] coarser(float[][] fine) {
        int length = Math.ceilDiv(fine[0].length, FACTOR);
        float[][] coarse = new float[fine.length][length];
        for (int row = 0; row < fine.length; row++)
            for (int s = 0; s < length; s++) {
                float value = fine[row][s * FACTOR];
                for (int i = s * FACTOR + 1, end = Math.min((s + 1) * FACTOR, fine[row].length); i < end; i++)
                    value = row % 2 == 0 ? Math.min(value, fine[row][i]) : Math.max(value, fine[row][i]);
                coarse[row][s] = value;
            }
        return coarse;
    }

    /// Lowest and highest sample of one channel in a stretch; borders are widened to whole stretches of the level used.
    public Peaks peaks(int channel, FrameRange range) {
        if (range.length() == 0 || range.start() >= frames) return Peaks.SILENT;
        int level = 0;
        long stretch = BASE_FRAMES;
        while (level + 1 < levels.size() && range.length() >= stretch * FACTOR * 2) {
            level++;
            stretch *= FACTOR;
        }
        float[] lows = levels.get(level)[2 * channel], highs = levels.get(level)[2 * channel + 1];
        int from = (int) (range.start() / stretch), to = (int) Math.min(lows.length, Math.ceilDiv(range.end(), stretch));
        float low = Float.POSITIVE_INFINITY, high = Float.NEGATIVE_INFINITY;
        for (int i = from; i < to; i++) {
            low = Math.min(low, lows[i]);
            high = Math.max(high, highs[i]);
        }
        return new Peaks(low, high);
    }

    /// The greatest absolute sample of all channels.
    public double peak() {
        double peak = 0;
        for (float[] row : levels.getLast())
            for (float value : row)
                peak = Math.max(peak, Math.abs(value));
        return peak;
    }

    /// The picture in a fixed number of columns, all channels together: `[2 * column]` lowest, `[… + 1]` highest.
    public float[] sketch(int columns) {
        float[] sketch = new float[2 * columns];
        for (int column = 0; column < columns; column++) {
            long from = frames * column / columns, to = Math.max(from + 1, frames * (column + 1) / columns);
            float low = 0, high = 0;
            for (int channel = 0; channel < channels; channel++) {
                Peaks p = peaks(channel, new FrameRange(from, to));
                low = Math.min(low, p.low());
                high = Math.max(high, p.high());
            }
            sketch[2 * column] = low;
            sketch[2 * column + 1] = high;
        }
        return sketch;
    }

    /// Lowest and highest sample, 1.0 is 0 dBFS.
    public record Peaks(float low, float high) {
        static final Peaks SILENT = new Peaks(0, 0);
    }

}
