package ablecrate.dsp;

import java.util.Map;

/// The coefficients of one ratio, shared by streams. Immutable, safe for threads.
///
/// One set for each of the `outputStep` positions between input frames. Ratios with more positions than [#MAX_EXACT_PHASES] interpolate
/// between the [#TABLE_PHASES] of a table by a cubic, whose error with 512 of them lies below −200 dB (9/384 · (2π · 0.475 / 512)⁴).
/// Tables are shared by ratios that are near each other: a folder of loops has as many ratios as loops.
final class PolyphaseDesign {
    private static final int MAX_EXACT_PHASES = 160, TABLE_PHASES = 512;
    /// Ratios going down share a table within 1/64: of the band that the lower rate could hold up to 1.6 % more goes.
    private static final int TABLES_PER_OCTAVE = 64;

    final long inputStep, outputStep;
    final int reach, taps, phases;
    final boolean isExact;
    /// `[phase * taps + tap]`; in a table one row before and two after the phases.
    final double[] coefficients;

    /// @param tables those of other ratios, and room for this one's
    PolyphaseDesign(long outputStep, long inputStep, Map<Integer, Table> tables) {
        this.outputStep = outputStep;
        this.inputStep = inputStep;
        isExact = outputStep <= MAX_EXACT_PHASES;
        double outputPerInput = (double) outputStep / inputStep;
        Table table = isExact
                ? new Table(new KaiserSinc(outputPerInput), (int) outputStep, 0, 0)
                : tables.computeIfAbsent(gridBelow(outputPerInput), g -> new Table(new KaiserSinc((double) g / TABLES_PER_OCTAVE / 1024), TABLE_PHASES, 1, 2));
        reach = table.reach;
        taps = 2 * reach;
        phases = isExact ? (int) outputStep : TABLE_PHASES;
        coefficients = table.coefficients;
    }

    /// The nearest ratio below that has a table, in 1/64 of 1/1024; all ratios going up are alike.
    private static int gridBelow(double outputPerInput) {
        int unit = 1024;
        double ratio = Math.min(1, outputPerInput);
        while (ratio * 2 <= 1 && unit > 1) {
            ratio *= 2;
            unit /= 2;
        }
        return (int) Math.floor(ratio * TABLES_PER_OCTAVE + 1e-9) * unit;
    }

    /// Rows of coefficients for positions between input frames.
    static final class Table {
        private final int reach;
        private final double[] coefficients;

        Table(KaiserSinc kernel, int phases, int before, int after) {
            reach = kernel.reach();
            int rows = before + phases + after, taps = 2 * reach;
            coefficients = new double[rows * taps];
            for (int r = 0; r < rows; r++) {
                double fraction = (double) (r - before) / phases;
                for (int tap = 0; tap < taps; tap++)
                    coefficients[r * taps + tap] = kernel.at(tap - (reach - 1) - fraction);
            }
        }
    }
}
