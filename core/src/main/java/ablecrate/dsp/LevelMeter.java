package ablecrate.dsp;

import java.util.stream.IntStream;

/// Every measure of a stream in one pass. Memory independent of length; not for two threads.
public final class LevelMeter {
    private final LoudnessMeter loudness;
    private final PeakMeter[] peaks;
    private final double[] sums, squares;
    private long frames;

    public LevelMeter(int rateHz, int channels) {
        loudness = new LoudnessMeter(rateHz, channels);
        peaks = IntStream.range(0, channels).mapToObj(_ -> new PeakMeter()).toArray(PeakMeter[]::new);
        sums = new double[channels];
        squares = new double[channels];
    }

    public void add(double[][] planes, int from, int count) {
        loudness.add(planes, from, count);
        for (int channel = 0; channel < peaks.length; channel++) {
            peaks[channel].add(planes[channel], from, count);
            double sum = 0, square = 0;
            for (int i = from; i < from + count; i++) {
                double x = planes[channel][i];
                sum += x;
                square += x * x;
            }
            sums[channel] += sum;
            squares[channel] += square;
        }
        frames += count;
    }

    /// Mean of each channel, full scale is 1.
    public double[] dcOffsets() { return IntStream.range(0, sums.length).mapToDouble(c -> frames == 0 ? 0 : sums[c] / frames).toArray(); }

    /// What was measured from the first frame to the last; nothing can be added after.
    public Levels finish() {
        double sample = 0, between = 0, square = 0, dc = 0;
        for (int channel = 0; channel < peaks.length; channel++) {
            peaks[channel].finish();
            sample = Math.max(sample, peaks[channel].samplePeak());
            between = Math.max(between, peaks[channel].truePeak());
            square += squares[channel];
            double offset = dcOffsets()[channel];
            if (Math.abs(offset) > Math.abs(dc)) dc = offset;
        }
        double rms = frames == 0 ? 0 : Math.sqrt(square / frames / peaks.length);
        return new Levels(Decibels.known(sample), Decibels.known(between), loudness.integratedLufs(), loudness.momentaryMaxLufs(), loudness.shortTermMaxLufs(),
                loudness.rangeLu(), Decibels.known(rms), dc, loudness.isMomentaryPadded());
    }
}
