package ablecrate.detect;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Sounds;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/// Bursts of noise and plucked tones at places that are known, to the frame.
class OnsetDetectorTest {
    private static final int RATE = 44_100;

    private static double[] bursts(int frames, List<Integer> places, double gain) {
        double[] out = new double[frames];
        Random random = new Random(4);
        for (int at : places)
            for (int n = 0; n < 8000 && at + n < frames; n++)
                out[at + n] += gain * Math.exp(-n / 1500.0) * random.nextGaussian();
        return out;
    }

    private static OnsetDetector.Heard heard(double[]... planes) throws Exception {
        return OnsetDetector.detect(Sounds.source(RATE, planes), 1, () -> false);
    }

    private static List<Integer> every(int step, int first, int end) {
        List<Integer> out = new ArrayList<>();
        for (int at = first; at < end; at += step)
            out.add(at);
        return out;
    }

    /// Longer than what is looked at in one piece: none is lost, or told twice, where pieces meet.
    @Test void everyAttackIsFoundOnceAndOnItsFrame() throws Exception {
        List<Integer> places = every(11_027, 5000, 45 * RATE);
        List<OnsetDetector.Onset> onsets = heard(bursts(46 * RATE, places, 0.3)).onsets();
        assertThat(onsets).hasSameSizeAs(places);
        for (int i = 0; i < places.size(); i++)
            assertThat(onsets.get(i).frame()).isCloseTo(places.get(i), within(9L));
    }

    /// Over a tone that goes on, in stereo where each side has its own.
    @Test void whatGoesOnBeginsNothing() throws Exception {
        List<Integer> left = List.of(20_000, 70_000), right = List.of(45_000);
        double[] tone = Sounds.sine(110, 0.3, RATE, 100_000);
        double[] a = bursts(100_000, left, 0.2), b = bursts(100_000, right, 0.2);
        for (int n = 0; n < tone.length; n++)
            a[n] += tone[n];
        List<Long> frames = heard(a, b).onsets().stream().map(OnsetDetector.Onset::frame).filter(f -> f > 2000).toList();
        assertThat(frames).hasSize(3);
        assertThat(frames.get(0)).isCloseTo(20_000, within(22L));
        assertThat(frames.get(1)).isCloseTo(45_000, within(22L));
        assertThat(frames.get(2)).isCloseTo(70_000, within(22L));
    }

    /// 30 ms apart both are found, 12 ms apart the first.
    @Test void hitsThatAreNearAreOneAndFromThirtyMillisecondsOnTwo() throws Exception {
        int flam = (int) (0.030 * RATE), near = (int) (0.012 * RATE);
        List<Integer> places = List.of(30_000, 30_000 + flam, 90_000, 90_000 + near);
        double[] x = new double[150_000];
        Random random = new Random(9);
        for (int at : places)
            for (int n = 0; n < 3000; n++)
                x[at + n] += 0.3 * Math.exp(-n / 300.0) * random.nextGaussian();
        List<OnsetDetector.Onset> onsets = heard(x).onsets();
        assertThat(onsets).extracting(OnsetDetector.Onset::frame).hasSize(3).satisfies(f -> {
            assertThat(f.get(1)).isCloseTo(30_000 + flam, within(220L));
            assertThat(f.get(2)).isCloseTo(90_000, within(22L));
        });
    }

    @Test void silenceAndAFrameAreNoFault() throws Exception {
        assertThat(heard(new double[RATE]).onsets()).isEmpty();
        assertThat(heard(new double[1]).onsets()).isEmpty();
        assertThat(heard(new double[0]).onsets()).isEmpty();
        assertThat(TempoDetector.detect(heard(new double[RATE]), RATE, RATE)).isEmpty();
    }

    @Test void aNameTellsATempo() {
        assertThat(NamedTempo.of("windmill 96 bpm.wav")).contains(96.0);
        assertThat(NamedTempo.of("120.5BPM_hats")).contains(120.5);
        assertThat(NamedTempo.of("hats_174-bpm")).contains(174.0);
        assertThat(NamedTempo.of("take 120")).isEmpty();
        assertThat(NamedTempo.of("1096bpm")).isEmpty();
        assertThat(NamedTempo.of("96 bpmx")).isEmpty();
    }

    /// Four bars of eighths with an accent on each beat.
    @ParameterizedTest @ValueSource(doubles = {72, 96, 120.5, 174}) void theTempoOfALoopIsFound(double bpm) throws Exception {
        double eighth = 30.0 * RATE / bpm;
        double[] x = new double[(int) Math.rint(32 * eighth)];
        for (int i = 0; i < 32; i++) {
            double[] hit = bursts(8000, List.of(0), i % 2 == 0 ? 0.4 : 0.1);
            for (int n = 0; n < hit.length && i * eighth + n < x.length; n++)
                x[(int) (i * eighth) + n] += hit[n];
        }
        Optional<TempoDetector.Tempo> tempo = TempoDetector.detect(heard(x), x.length, RATE);
        assertThat(tempo).isPresent();
        double octaves = Math.log(tempo.get().bpm() / bpm) / Math.log(2);
        assertThat(octaves).isCloseTo(Math.rint(octaves), within(0.003));
        assertThat(tempo.get().confidence()).isBetween(0.0, 1.0);
    }
}
