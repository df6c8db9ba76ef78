package ablecrate.dsp;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Sounds;
import org.junit.jupiter.api.Test;

/// What a hand does to a loop's ends: crossings that they go to, and what is told of the seam.
class ZeroCrossingsTest {
    /// A sine of 100 frames passes upwards at 0, 100, 200 …; the first frame that is not below zero counts.
    @Test void theNearestIsTaken() {
        double[][] planes = {Sounds.signal(1000, n -> Math.sin(2 * Math.PI * (n - 0.5) / 100))};
        assertThat(ZeroCrossings.nearest(planes, 320)).hasValue(301);
        assertThat(ZeroCrossings.nearest(planes, 360)).hasValue(401);
        assertThat(ZeroCrossings.nearest(planes, 401)).hasValue(401);
        assertThat(ZeroCrossings.nearest(planes, 999)).hasValue(901);
        assertThat(ZeroCrossings.nearest(new double[][]{new double[50]}, 20)).isEmpty();
    }

    /// A jump from the crest to a frame that follows zero: the whole amplitude, +3.01 dB of a sine's RMS; after a loop of whole periods nothing is left.
    @Test void theGapAtASeamIsItsStepAndSlope() {
        double[] wave = Sounds.signal(1200, n -> Math.sin(2 * Math.PI * n / 100));
        double[][] tail = {java.util.Arrays.copyOfRange(wave, 626, 1026)}, crossing = {java.util.Arrays.copyOfRange(wave, 201, 601)},
                whole = {java.util.Arrays.copyOfRange(wave, 226, 626)};
        Seam.Gap gap = Seam.gap(tail, crossing);
        assertThat(gap.stepDb()).isCloseTo(3.01, within(0.05));
        // A crest has no slope, a crossing that of 2π/100 of the amplitude.
        assertThat(gap.slopeDb()).isCloseTo(20 * Math.log10(2 * Math.PI / 100 * Math.sqrt(2)), within(0.3));
        assertThat(Seam.gap(tail, whole).stepDb()).isEqualTo(Seam.NONE_DB);
    }
}
