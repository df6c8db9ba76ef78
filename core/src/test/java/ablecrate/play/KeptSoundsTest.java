package ablecrate.play;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

/// Room for two sounds of a thousand frames.
class KeptSoundsTest {
    private static final int FRAMES = 1000;

    private final List<Integer> read = new ArrayList<>();
    private final KeptSounds kept = new KeptSounds(2L * FRAMES * Double.BYTES + 100);

    private Voices.Sounds numbered(int... lengths) {
        return kept.of(n -> n < lengths.length ? Optional.of(() -> {
            synchronized (read) {
                read.add(n);
            }
            double[] plane = new double[lengths[n]];
            plane[0] = n;
            return new LoadedSound(new double[][]{plane}, 48_000);
        }) : Optional.empty());
    }

    @Test void whatWasWantedLongestAgoIsReadAgain() {
        Voices.Sounds sounds = numbered(FRAMES, FRAMES, FRAMES);
        for (int n : new int[]{0, 1, 0, 2, 0, 1})
            assertThat(sounds.sound(n).orElseThrow().planes()[0][0]).isEqualTo(n);
        assertThat(read).as("0 was wanted again before 2 came, so that 1 went").containsExactly(0, 1, 2, 1);
        assertThat(sounds.sound(3)).as("there is none").isEmpty();
    }

    @Test void aSoundThatThereIsNoRoomForIsHadAllTheSame() {
        Voices.Sounds sounds = numbered(3 * FRAMES, FRAMES);
        for (int n : new int[]{1, 0, 1})
            assertThat(sounds.sound(n).orElseThrow().frames()).isEqualTo(n == 0 ? 3 * FRAMES : FRAMES);
        assertThat(read).as("it takes no room from others").containsExactly(1, 0);
    }

    @Test void numbersAreTheirOwnersAndFaultsAreTold() {
        assertThat(numbered(FRAMES).sound(0).orElseThrow()).isNotSameAs(numbered(FRAMES).sound(0).orElseThrow());
        Voices.Sounds broken = kept.of(_ -> Optional.of(() -> {
            throw new IOException("cut off");
        }));
        assertThatThrownBy(() -> broken.sound(0)).isInstanceOf(UncheckedIOException.class).hasMessageContaining("cut off");
    }

    @Test void manyThreadsAreGivenWhatTheyWant() {
        Voices.Sounds sounds = numbered(FRAMES, FRAMES, FRAMES, FRAMES, FRAMES);
        assertThat(IntStream.range(0, 5000).parallel().map(i -> (int) sounds.sound(i % 5).orElseThrow().planes()[0][0] - i % 5).distinct().toArray())
                .containsExactly(0);
    }
}
