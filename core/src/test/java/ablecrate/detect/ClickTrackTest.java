package ablecrate.detect;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Sounds;
import java.io.IOException;
import java.util.List;
import java.util.Random;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

class ClickTrackTest {
    private static final int RATE = 22_050, FRAMES = 20 * RATE;

    /// Sounds that fall by 1/e in so many seconds, at these times.
    private static double[] hits(List<Double> seconds, double fall, double... levels) {
        double[] out = new double[FRAMES];
        for (int h = 0; h < seconds.size(); h++)
            for (int i = 0, at = (int) Math.round(seconds.get(h) * RATE); at + i < FRAMES && i < 10 * fall * RATE; i++)
                out[at + i] += levels[h % levels.length] * Math.exp(-i / (fall * RATE)) * Math.sin(2 * Math.PI * 1500 * i / RATE);
        return out;
    }

    private static List<Double> beats(double bpm, int from, int to) { return IntStream.range(from, to).mapToObj(i -> i * 60 / bpm).toList(); }

    private static java.util.Optional<ClickTrack> of(double[]... planes) throws IOException { return ClickTrack.of(Sounds.source(RATE, planes)); }

    @Test void clicksOnTheBeatAreOne() throws IOException {
        assertThat(of(hits(beats(96, 0, 31), 0.006, 0.8, 0.4, 0.4, 0.4)).orElseThrow().bpm()).as("with accents").isCloseTo(96, within(0.1));
        assertThat(of(hits(beats(120, 8, 12), 0.006, 0.5))).as("a bar's count-in").hasValueSatisfying(c -> assertThat(c.clicks()).isEqualTo(4));
        double[] rests = hits(IntStream.range(0, 40).filter(i -> i % 8 != 7).mapToObj(i -> i * 0.5).toList(), 0.006, 0.5), noise = new double[FRAMES];
        Random random = new Random(3);
        for (int i = 0; i < FRAMES; i++)
            noise[i] = 0.001 * random.nextGaussian();
        assertThat(of(rests, noise).orElseThrow().bpm()).as("rests, and hiss on the other side").isCloseTo(120, within(0.2));
    }

    @Test void whatRingsSwingsOrVariesIsNone() throws IOException {
        assertThat(of(hits(beats(96, 0, 31), 0.08, 0.8))).as("drums ring").isEmpty();
        assertThat(of(hits(IntStream.range(0, 40).mapToObj(i -> i * 0.25 + (i % 2) * 0.08).toList(), 0.006, 0.5))).as("swing").isEmpty();
        assertThat(of(hits(beats(200, 0, 60), 0.006, 0.8, 0.05, 0.3, 0.02))).as("ghost notes").isEmpty();
        assertThat(of(hits(List.of(0.1, 0.9, 2.4, 3.0, 5.5, 8.0), 0.006, 0.5))).as("here and there").isEmpty();
        assertThat(of(Sounds.sine(440, 0.5, RATE, FRAMES))).isEmpty();
        assertThat(of(new double[FRAMES])).as("silence").isEmpty();
    }
}
