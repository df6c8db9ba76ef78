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
            case TWO -> steps.add(new FftStep.SumAndDifference(first, first + gap));
            case FOUR -> steps.add(new FftStep.Four(first, first + gap, first + 2 * gap, first + 3 * gap));
            default -> {
                odd(first, gap, angle, steps);
                return;
            }
        }
        for (int j = 1; j < size && angle != 0; j++)
            steps.add(new FftStep.Turn(first + j * gap, Factor.of(j * angle)));
    }

    /// Inputs `j` and `size - j` come in as their sum and their difference, which outputs `k` and `size - k` share.
    private void odd(int first, int gap, double angle, List<FftStep> steps) {
        int pairs = size / 2, end = first + size * gap;
        for (int j = 1; j <= pairs; j++)
            steps.add(new FftStep.SumAndDifference(first + j * gap, end - j * gap));
        for (boolean ofIm : new boolean[]{false, true}) {
            steps.add(switch (this) {
                case THREE -> new FftStep.Cosines1(ofIm, first, first + gap, cos(1));
                case FIVE -> new FftStep.Cosines2(ofIm, first, first + gap, first + 2 * gap, cos(1), cos(2));
                default -> new FftStep.Cosines3(ofIm, first, first + gap, first + 2 * gap, first + 3 * gap, cos(1), cos(2), cos(3));
            });
            steps.add(switch (this) {
                case THREE -> new FftStep.Sines1(ofIm, end - gap, sin(1));
                case FIVE -> new FftStep.Sines2(ofIm, end - gap, end - 2 * gap, sin(1), sin(2));
                default -> new FftStep.Sines3(ofIm, end - gap, end - 2 * gap, end - 3 * gap, sin(1), sin(2), sin(3));
            });
        }
        for (int k = 1; k <= pairs; k++) {
            int a = first + k * gap, b = end - k * gap;
            steps.add(angle == 0 ? new FftStep.Join(a, b) : new FftStep.JoinAndTurn(a, b, Factor.of(k * angle), Factor.of((size - k) * angle)));
        }
    }

    private double cos(int j) { return Math.cos(2 * Math.PI * j / size); }

    private double sin(int j) { return Math.sin(2 * Math.PI * j / size); }
}
