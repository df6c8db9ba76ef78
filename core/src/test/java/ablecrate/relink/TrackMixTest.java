package ablecrate.relink;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.codec.SoundFile;
import ablecrate.session.SessionDocument.Clip;
import ablecrate.session.SessionDocument.Track;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// A track as it sounds, from a file whose every frame is 0.5.
class TrackMixTest {
    @TempDir Path folder;
    private Map<String, SoundFile> files;

    @BeforeEach void make() throws Exception {
        double[] level = new double[1000];
        Arrays.fill(level, 0.5);
        Path file = Sounds.wav(folder.resolve("a.wav"), 48_000, Depth.FLOAT_64, level);
        files = Map.of("a.wav", SessionCheck.gathered(List.of(file)).values().iterator().next().sound().orElseThrow());
    }

    private static Clip clip(long start, long length, double gainDb, double pan, long in, boolean muted) {
        return new Clip("a.wav", start, 0, 100, length, gainDb, pan, in, 0, muted);
    }

    private double[][] mix(Track track) throws Exception { return Sounds.readAll(new TrackMix(track, files, 48_000, 2000)); }

    @Test void clipsAddUpEvenWhereTheyAreAlike() throws Exception {
        double[][] mix = mix(new Track("T", 0, 0, false, List.of(clip(100, 500, 0, 0, 0, false), clip(100, 500, 0, 0, 0, false))));
        assertThat(mix).hasNumberOfRows(1);
        assertThat(mix[0]).hasSize(2000);
        assertThat(mix[0][99]).isZero();
        assertThat(mix[0][100]).isEqualTo(1);
        assertThat(mix[0][599]).isEqualTo(1);
        assertThat(mix[0][600]).isZero();
    }

    /// Gains add up; a pan takes level off the other side alone; half-way through a fade is half the amplitude; what is muted is silent.
    @Test void gainsPansFadesAndMutesHold() throws Exception {
        double[][] mix = mix(new Track("T", -3, 20, false, List.of(clip(0, 400, -3.0206, 30, 100, false), clip(0, 400, 0, 0, 0, true))));
        assertThat(mix).hasNumberOfRows(2);
        assertThat(mix[1][200]).isCloseTo(0.25, within(1e-5));
        assertThat(mix[0][200]).isCloseTo(0.125, within(1e-5));
        assertThat(mix[1][50]).isCloseTo(0.125, within(1e-5));
        assertThat(mix(new Track("T", 0, 0, true, List.of(clip(0, 400, 0, 0, 0, false))))[0]).containsOnly(0);
    }
}
