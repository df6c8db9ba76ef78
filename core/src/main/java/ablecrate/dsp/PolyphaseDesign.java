package ablecrate.dsp;

/// The coefficients of one ratio, shared by streams. Immutable, safe for threads.
///
/// One set for each of the `outputStep` positions between input frames. Ratios with more positions than [#MAX_EXACT_PHASES] interpolate
/// between [#TABLE_PHASES] stored ones by a cubic, whose error with 512 of them lies below −200 dB (9/384 · (2π · 0.475 / 512)⁴).
final class PolyphaseDesign {
    private static final int MAX_EXACT_PHASES = 1024, TABLE_PHASES = 512;

    final long inputStep, outputStep;
    final int reach, taps, phases;
    final boolean isExact;
    /// `[phase * taps + tap]`; in a table for interpolation one row before and two after the phases.
    final double[] coefficients;

    PolyphaseDesign(long outputStep, long inputStep) {
        this.outputStep = outputStep;
        this.inputStep = inputStep;
        KaiserSinc kernel = new KaiserSinc((double) outputStep / inputStep);
        reach = kernel.reach();
        taps = 2 * reach;
        isExact = outputStep <= MAX_EXACT_PHASES;
        phases = isExact ? (int) outputStep : TABLE_PHASES;
        int before = isExact ? 0 : 1, rows = isExact ? phases : phases + 3;
        coefficients = new double[rows * taps];
        for (int r = 0; r < rows; r++) {
            double fraction = (double) (r - before) / phases;
            for (int tap = 0; tap < taps; tap++)
                coefficients[r * taps + tap] = kernel.at(tap - (reach - 1) - fraction);
        }
    }
}
