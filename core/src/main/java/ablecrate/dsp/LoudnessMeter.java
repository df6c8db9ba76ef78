package ablecrate.dsp;

import java.util.Arrays;
import java.util.OptionalDouble;

/// Loudness of a stream: integrated, greatest momentary, greatest short-term, range. Memory independent of length; not for two threads.
///
/// Energies are summed in steps of 10 ms, of which windows of 400 ms and 3 s are made, so that the greatest reading of a short sound
/// is found wherever it lies. Gated blocks overlap by 75 % as the recommendation has it. Gating needs all blocks again once the
/// threshold is known: they are kept as a histogram in steps of 0.01 LU with exact energies, not as a list.
///
/// Channels: mono, left/right, or the orders of WAV (left, right, centre, low frequencies, then two surrounds; with seven, a rear centre and two sides; with
/// eight, two rears and two sides). Surrounds and sides, which lie 60 to 120 degrees from the front, count 1.41, rears 1, the low frequency channel nothing.
///
/// Sources: ITU-R BS.1770-5, annex 1; EBU Tech 3341 (momentary, short-term); EBU Tech 3342 (range).
public final class LoudnessMeter {
    private static final int STEPS_PER_SECOND = 100, MOMENTARY = 40, SHORT_TERM = 300, BETWEEN_BLOCKS = 10;
    private static final double ABSOLUTE_GATE = -70, RELATIVE_GATE = -10, RANGE_GATE = -20, OFFSET = -0.691;
    private static final double SURROUND = 1.41;

    private final int rateHz;
    private final double[] weights;
    private final KWeighting[] filters;
    private final double[] steps = new double[SHORT_TERM];
    private final int[] stepFrames = new int[SHORT_TERM];
    private final LoudnessHistogram blocks = new LoudnessHistogram(ABSOLUTE_GATE), shortTerms = new LoudnessHistogram(ABSOLUTE_GATE);
    private double step, whole, momentaryMax = Double.NEGATIVE_INFINITY, shortTermMax = Double.NEGATIVE_INFINITY;
    private long frames, stepsDone;

    public LoudnessMeter(int rateHz, int channels) {
        this.rateHz = rateHz;
        weights = weights(channels);
        filters = new KWeighting[channels];
        for (int channel = 0; channel < channels; channel++)
            filters[channel] = new KWeighting(rateHz);
    }

    private static double[] weights(int channels) {
        double[] weights = new double[channels];
        Arrays.fill(weights, 1);
        if (channels == 4) weights[2] = weights[3] = SURROUND;
        if (channels == 5) weights[3] = weights[4] = SURROUND;
        if (channels >= 6) {
            weights[3] = 0;
            // BS.1770-5, annex 1, table 4: by the angle. A pair of surrounds of 5.1 stands at ±110°, rears of 7.1 at ±135° to ±150°.
            int rears = channels == 6 ? 0 : channels == 7 ? 1 : 2;
            for (int channel = 4 + rears; channel < Math.min(channels, 8); channel++)
                weights[channel] = SURROUND;
        }
        return weights;
    }

    /// The next frames of the stream.
    public void add(double[][] planes, int from, int count) {
        for (int at = from, end = from + count; at < end;) {
            int n = (int) Math.min(end - at, stepEnd(stepsDone) - frames);
            for (int channel = 0; channel < filters.length; channel++)
                if (weights[channel] != 0) step += weights[channel] * filters[channel].energy(planes[channel], at, n);
            at += n;
            frames += n;
            if (frames == stepEnd(stepsDone)) endStep();
        }
    }

    private long stepEnd(long index) { return (index + 1) * rateHz / STEPS_PER_SECOND; }

    private void endStep() {
        int slot = (int) (stepsDone % SHORT_TERM);
        steps[slot] = step;
        stepFrames[slot] = (int) (stepEnd(stepsDone) - (stepsDone == 0 ? 0 : stepEnd(stepsDone - 1)));
        whole += step;
        step = 0;
        stepsDone++;
        boolean isBlock = stepsDone % BETWEEN_BLOCKS == 0;
        if (stepsDone >= MOMENTARY) {
            double power = meanOfLast(MOMENTARY);
            momentaryMax = Math.max(momentaryMax, lufs(power));
            if (isBlock) blocks.add(lufs(power), power);
        }
        if (stepsDone >= SHORT_TERM) {
            double power = meanOfLast(SHORT_TERM);
            shortTermMax = Math.max(shortTermMax, lufs(power));
            if (isBlock) shortTerms.add(lufs(power), power);
        }
    }

    private double meanOfLast(int count) {
        double sum = 0;
        long length = 0;
        for (long i = stepsDone - count; i < stepsDone; i++) {
            sum += steps[(int) (i % SHORT_TERM)];
            length += stepFrames[(int) (i % SHORT_TERM)];
        }
        return sum / length;
    }

    private static double lufs(double power) { return OFFSET + 10 * Math.log10(power); }

    private static OptionalDouble known(double lufs) { return Double.isInfinite(lufs) ? OptionalDouble.empty() : OptionalDouble.of(lufs); }

    /// Gated loudness of all so far; empty for less than 400 ms and where nothing passes the gate.
    public OptionalDouble integratedLufs() {
        double gate = lufs(blocks.meanAbove(ABSOLUTE_GATE)) + RELATIVE_GATE;
        return known(lufs(blocks.meanAbove(gate)));
    }

    /// Whether the sound is shorter than one window of 400 ms and was measured padded with silence.
    public boolean isMomentaryPadded() { return stepsDone < MOMENTARY; }

    /// The greatest loudness of 400 ms. A shorter sound is padded with silence to one window (common practice). Empty for silence.
    public OptionalDouble momentaryMaxLufs() {
        return known(isMomentaryPadded() ? lufs((whole + step) / (0.4 * rateHz)) : momentaryMax);
    }

    /// The greatest loudness of 3 s; empty for less, and for silence.
    public OptionalDouble shortTermMaxLufs() { return known(shortTermMax); }

    /// The distance of the 10th and the 95th percentile of short-term loudness, gated; empty for less than 3 s.
    public OptionalDouble rangeLu() {
        double gate = lufs(shortTerms.meanAbove(ABSOLUTE_GATE)) + RANGE_GATE;
        return shortTerms.spreadAbove(gate, 0.10, 0.95);
    }
}
