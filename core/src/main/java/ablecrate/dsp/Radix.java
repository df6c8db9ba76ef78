package ablecrate.dsp;

import ablecrate.dsp.FftStep.Factor;
import java.util.List;

/// The butterflies that a transform is made of, as steps over rows.
///
/// Source: C. Van Loan, *Computational Frameworks for the Fast Fourier Transform*, 1992, chapter 2.
enum Radix {
    SEVEN(7), FIVE(5), THREE(3), FOUR(4), TWO(2);

    final int size;

    Radix(int size) { this.size = size; }

    /// Adds the steps of one butterfly. Input and output `j` lie in row `first + j * gap`.
    /// @param angle of the factor that output 1 is multiplied by; output `j` has `j` times that
    void plan(int first, int gap, double angle, List<FftStep> steps) {
        switch (this) {
            case TWO -> {
                steps.add(new FftStep.SumAndDifference(first, first + gap));
                if (angle != 0) steps.add(new FftStep.Turn(first + gap, Factor.of(angle)));
            }
            case FOUR -> steps.add(
                    new FftStep.Four(first, first + gap, first + 2 * gap, first + 3 * gap, Factor.of(angle), Factor.of(2 * angle), Factor.of(3 * angle)));
            default -> odd(first, gap, angle, steps);
        }
    }

    private void odd(int first, int gap, double angle, List<FftStep> steps) {
        for (boolean ofIm : new boolean[]{false, true})
            steps.add(switch (this) {
                case THREE -> new FftStep.Three(ofIm, first, gap);
                case FIVE -> new FftStep.Five(ofIm, first, gap);
                default -> new FftStep.Seven(ofIm, first, gap);
            });
        for (int k = 1; k <= size / 2; k++)
            steps.add(new FftStep.Join(first + k * gap, first + (size - k) * gap, Factor.of(k * angle), Factor.of((size - k) * angle)));
    }
}
