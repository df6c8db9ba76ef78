package ablecrate.dsp;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.Sounds;
import ablecrate.audio.MemorySource;
import java.util.Arrays;
import org.junit.jupiter.api.Test;

class ExtendedTest {
    /// The sound as it is, then silence, also in blocks that had something else in them.
    @Test void silenceFollowsTheSound() throws Exception {
        double[][] sound = {Sounds.sine(100, 0.5, 1000, 70), Sounds.sine(200, 0.25, 1000, 70)};
        Extended longer = new Extended(new MemorySource(1000, sound), 100);
        assertThat(longer.frames()).isEqualTo(100);
        double[][] block = new double[2][64], all = new double[2][100];
        int at = 0;
        for (int got;; at += got) {
            for (double[] plane : block)
                Arrays.fill(plane, 9);
            got = longer.read(block, 3, 40);
            if (got == 0) break;
            for (int channel = 0; channel < 2; channel++)
                System.arraycopy(block[channel], 3, all[channel], at, got);
        }
        assertThat(at).isEqualTo(100);
        for (int channel = 0; channel < 2; channel++) {
            assertThat(Arrays.copyOf(all[channel], 70)).containsExactly(sound[channel]);
            assertThat(Arrays.copyOfRange(all[channel], 70, 100)).containsOnly(0);
        }
    }
}
