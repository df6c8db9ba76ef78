package ablecrate.desktop.hearing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.audio.MemorySource;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.TimeUnit;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// What reaches the device, and when a playing is over.
class PlayerTest {
    /// Takes all at once and keeps it.
    private static final class Heard implements AudioOut {
        private final int rateHz;
        private final List<double[]> left = new ArrayList<>(), right = new ArrayList<>();
        private boolean drained, closed;
        private long frames;

        Heard(int rateHz) { this.rateHz = rateHz; }

        @Override public int rateHz() { return rateHz; }

        @Override public int channels() { return 2; }

        @Override public void write(double[][] planes, int count) {
            left.add(Arrays.copyOf(planes[0], count));
            right.add(Arrays.copyOf(planes[1], count));
            frames += count;
        }

        @Override public long heardFrames() { return frames; }

        @Override public void drain() { drained = true; }

        @Override public void close() { closed = true; }

        double[] all(List<double[]> side) { return side.stream().flatMapToDouble(Arrays::stream).toArray(); }
    }

    private final BlockingQueue<Optional<Exception>> ended = new ArrayBlockingQueue<>(1);

    private Player play(double[][] sound, int rateHz, Heard device) throws Exception {
        Player player = new Player(() -> new MemorySource(rateHz, sound), _ -> device, e -> ended.add(Optional.ofNullable(e)));
        player.start();
        assertThat(ended.poll(10, TimeUnit.SECONDS)).as("it ends by itself").isEqualTo(Optional.empty());
        assertThat(player.isOver()).isTrue();
        return player;
    }

    private static double[] constant(double value, int frames) {
        double[] x = new double[frames];
        Arrays.fill(x, value);
        return x;
    }

    /// Mono on both sides; of more channels the odd ones left, the even ones right, none louder together than alone.
    @ParameterizedTest @CsvSource({"1,0.5,0.5", "2,0.5,0.25", "4,0.375,0.1875"}) void twoEarsGetAllChannels(int channels, double left, double right)
            throws Exception {
        double[][] sound = new double[channels][];
        for (int c = 0; c < channels; c++)
            sound[c] = constant((c % 2 == 0 ? 0.5 : 0.25) / (1 + c / 2), 5000);
        Heard device = new Heard(48_000);
        Player player = play(sound, 48_000, device);
        assertThat(device.all(device.left)).containsExactly(constant(left, 5000), within(1e-12));
        assertThat(device.all(device.right)).containsExactly(constant(right, 5000), within(1e-12));
        assertThat(player.leftDb()).isCloseTo(20 * Math.log10(left), within(1e-9));
        assertThat(player.heardSourceFrames()).isEqualTo(5000);
        assertThat(device.drained && device.closed).isTrue();
    }

    @Test void aDeviceOfAnotherRateHearsTheSameSound() throws Exception {
        double[] sine = new double[44_100];
        Arrays.setAll(sine, n -> 0.5 * Math.sin(2 * Math.PI * 441 * n / 44_100));
        Heard device = new Heard(48_000);
        Player player = play(new double[][]{sine}, 44_100, device);
        double[] heard = device.all(device.left);
        assertThat(heard).hasSize(48_000);
        for (int n = 5000; n < 40_000; n++)
            assertThat(heard[n]).isCloseTo(0.5 * Math.sin(2 * Math.PI * 441 * n / 48_000), within(1e-6));
        assertThat(player.heardSourceFrames()).as("told in frames of the source").isCloseTo(44_100, within(1.0));
    }

    @Test void aMeterFallsSlowly() throws Exception {
        double[] sound = constant(0, 1024 * 6);
        Arrays.fill(sound, 0, 1024, 0.5);
        Player player = play(new double[][]{sound}, 48_000, new Heard(48_000));
        assertThat(player.leftDb()).isCloseTo(20 * Math.log10(0.5) - 5 * 1.5, within(1e-9));
    }

    @Test void aFaultEndsItAndIsHandedOn() throws Exception {
        Heard device = new Heard(48_000);
        Player player = new Player(() -> {
            throw new IOException("the disk is gone");
        }, _ -> device, e -> ended.add(Optional.ofNullable(e)));
        player.start();
        assertThat(ended.poll(10, TimeUnit.SECONDS).orElseThrow()).hasMessage("the disk is gone");
        assertThat(player.heardSourceFrames()).isZero();
    }

    @Test void aPlayingThatIsStoppedEndsWithoutAFault() throws Exception {
        Player player = new Player(() -> new MemorySource(48_000, new double[1][48_000 * 60]), rate -> new SilentOut(rate, 2),
                e -> ended.add(Optional.ofNullable(e)));
        player.start();
        Thread.sleep(50);
        assertThat(player.isOver()).isFalse();
        player.stop();
        assertThat(ended.poll(10, TimeUnit.SECONDS)).isEqualTo(Optional.empty());
        assertThat(player.heardSourceFrames()).as("it did not run through in a rush").isLessThan(48_000 * 10);
    }
}
