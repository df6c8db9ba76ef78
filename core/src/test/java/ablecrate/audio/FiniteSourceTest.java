package ablecrate.audio;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.Sounds;
import org.junit.jupiter.api.Test;

class FiniteSourceTest {
    /// What cannot be played is held over also where reading begins in its midst.
    @Test void anyFrameIsWhatReadingUpToItGives() throws Exception {
        double[] left = {Double.NaN, 0.1, 0.2, Double.NaN, Double.POSITIVE_INFINITY, Double.NaN, 0.5}, right = {1, 2, Double.NaN, 4, 5, Double.NaN, 7};
        double[][] whole = Sounds.readAll(new FiniteSource(new MemorySource(44_100, new double[][]{left, right}), _ -> {}));
        assertThat(whole[0]).containsExactly(0, 0.1, 0.2, 0.2, 0.2, 0.2, 0.5);
        assertThat(whole[1]).containsExactly(1, 2, 2, 4, 5, 5, 7);
        FiniteSource source = new FiniteSource(new MemorySource(44_100, new double[][]{left, right}), _ -> {});
        for (int frame : new int[]{5, 0, 3, 2, 6, 4, 1}) {
            double[][] read = new double[2][2];
            source.seek(frame);
            int got = source.readFully(read, 0, 2);
            for (int i = 0; i < got; i++)
                for (int channel = 0; channel < 2; channel++)
                    assertThat(read[channel][i]).as("frame " + (frame + i)).isEqualTo(whole[channel][frame + i]);
        }
    }
}
