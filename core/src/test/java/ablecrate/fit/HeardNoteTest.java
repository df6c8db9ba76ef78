package ablecrate.fit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// What the measure of difference is to say of things that are known. The figures are those of the trial by which it was chosen, on other instruments.
class HeardNoteTest {
    private static final double[] TONE = MadeInstrument.tone(57, -6, 1000, 2.05, 0.1);

    private static HeardNote heard(double[] left, double[] right) { return NoteAnalyser.ofThread().heard(new double[][]{left, right}, HeardNote.BLOCKS); }

    private static HeardNote heard(double[] both) { return heard(both, both); }

    private static double[] times(double[] x, double gain) { return Arrays.stream(x).map(v -> v * gain).toArray(); }

    @Test void theSameSoundIsNotDifferent() {
        assertThat(heard(TONE).harm(heard(TONE))).isZero();
        assertThat(heard(TONE).harm(heard(times(TONE, -1)))).as("polarity").isLessThan(1e-9);
    }

    @ParameterizedTest @CsvSource({"1, 0.99", "-3, 2.97", "6, 5.91"}) void aDifferenceOfLevelIsAsLargeAsItIs(double db, double known) {
        double found = heard(TONE).harm(heard(times(TONE, Math.pow(10, db / 20))));
        assertThat(found).isCloseTo(known, within(0.1 * known));
        assertThat(heard(TONE).alignedHarm(heard(times(TONE, Math.pow(10, db / 20))))).as("with levels aligned").isLessThan(0.05);
    }

    @Test void sidesAreHeardApart() {
        double[] silent = new double[TONE.length], other = MadeInstrument.tone(57, -6, 3000, 2.05, 0.1);
        assertThat(heard(TONE, silent).harm(heard(silent, TONE))).as("the other side").isGreaterThan(10);
        assertThat(heard(TONE, other).harm(heard(other, TONE))).as("sides exchanged").isGreaterThan(1);
        assertThat(heard(TONE, other).harm(heard(TONE, other))).isZero();
    }

    /// A mono sound that is panned is looked at once for both sides, with the same result as if both were looked at.
    @Test void pannedSidesAreHeardAsTheyAre() {
        double[] soft = times(TONE, 0.3), almost = soft.clone();
        almost[1000] += 1e-7;
        assertThat(heard(TONE, soft).harm(heard(TONE, almost))).isLessThan(1e-4);
        assertThat(heard(soft, TONE).harm(heard(almost, TONE))).isLessThan(1e-4);
        assertThat(heard(soft, TONE).harm(heard(TONE, soft))).as("sides exchanged").isGreaterThan(5);
        assertThat(heard(TONE, times(TONE, -0.3)).harm(heard(TONE, soft))).as("polarity").isLessThan(1e-9);
    }

    /// A change is heard less the louder what sounds beside it, and hardly where they share no band.
    @Test void whatSoundsBesideCoversAChange() {
        HeardNote own = heard(TONE), quiet = heard(times(TONE, 0.01)), far = heard(MadeInstrument.tone(100, -6, 5000, 2.05, 0.1));
        double alone = own.heldHarm(own, -6, HeardNote.NOTHING), under = quiet.with(own).heldHarm(quiet, -6, own),
                beside = own.with(far).heldHarm(own, -6, far);
        assertThat(alone).isCloseTo(5.9, within(0.2));
        assertThat(under).as("40 dB below the same tone").isLessThan(0.02);
        assertThat(beside).as("beside a tone far above it").isBetween(0.2 * alone, alone);
        assertThat(own.with(far).heldHarm(own, 0, far)).isZero();
        assertThat(own.with(far).heldHarm(HeardNote.NOTHING, 0, far)).as("gone").isGreaterThan(beside);
    }

    /// Another seed is the same noise; half of its band gone is not.
    @Test void noiseIsNoWaveform() {
        double[] noise = noise(1), other = noise(2), dull = noise(2);
        for (int n = dull.length - 1; n > 0; n--)
            dull[n] = (dull[n] + dull[n - 1]) / 2;
        assertThat(heard(noise).harm(heard(other))).isLessThan(1.2);
        assertThat(heard(noise).harm(heard(dull))).isGreaterThan(1.5 * heard(noise).harm(heard(other)));
    }

    private static double[] noise(int seed) {
        Random random = new Random(seed);
        return Arrays.stream(new double[TONE.length]).map(_ -> random.nextGaussian() / 10).toArray();
    }

    /// A note that is foretold from one rendering sounds as the rendered one does.
    @ParameterizedTest @CsvSource({"0", "3", "-4", "7"}) void movedNotesAreForetold(int keys) {
        double[] held = MadeInstrument.tone(57, -6, 1000, NoteAnalyser.REFERENCE_SECONDS + 0.05, 0.1);
        NoteAnalyser analyser = NoteAnalyser.ofThread();
        double ratio = Math.pow(2, keys / 12.0);
        double[] played = new double[TONE.length];
        double[] source = MadeInstrument.tone(57, -6, 1000, 2.05 * Math.max(1, ratio) + 0.1, 0.1);
        for (int n = 0; n < played.length; n++) {
            int at = (int) (n * ratio);
            double t = n * ratio - at;
            played[n] = source[at] * (1 - t) + source[at + 1] * t;
        }
        HeardNote foretold = analyser.moved(analyser.reference(new double[][]{held, held}), keys, 0);
        assertThat(heard(played).alignedHarm(foretold)).as("%d keys", keys).isLessThan(1);
    }
}
