package ablecrate.audio;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.Random;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;

/// The checksum tells apart whatever may happen to samples between rendering and reading back.
class SampleSumTest {
    private static final int FRAMES = 5000;

    /// `[channel][frame]`, on the steps of the depth.
    private static double[][] sound(Depth depth) {
        Random random = new Random(depth.bits());
        double scale = Math.scalb(1.0, depth.bits() - 1);
        return IntStream.range(0, 2)
                .mapToObj(_ -> random.doubles(FRAMES, -1, 1).map(x -> depth.isFloat() ? (float) x : Math.floor(x * scale) / scale).toArray())
                .toArray(double[][]::new);
    }

    private static SampleSum.Value sum(double[][] planes, Depth depth) {
        SampleSum sum = new SampleSum(planes.length, depth);
        sum.add(planes, planes[0].length);
        return sum.value();
    }

    @ParameterizedTest @EnumSource(Depth.class) void everyChangeIsSeen(Depth depth) {
        SampleSum.Value right = sum(sound(depth), depth);
        assertThat(sum(sound(depth), depth)).isEqualTo(right);
        Random random = new Random(1);
        double step = depth.isFloat() ? 0x1p-23 : Math.scalb(1.0, 1 - depth.bits());
        for (int i = 0; i < 200; i++) {
            int channel = random.nextInt(2), frame = random.nextInt(FRAMES - 1);
            double[][] changed = sound(depth), exchanged = sound(depth), silenced = sound(depth);
            changed[channel][frame] += changed[channel][frame] > 0 ? -step : step;
            exchanged[channel][frame] = exchanged[channel][frame + 1];
            exchanged[channel][frame + 1] = sound(depth)[channel][frame];
            silenced[channel][frame] = 0;
            assertThat(sum(changed, depth)).isNotEqualTo(right);
            if (sound(depth)[channel][frame] != exchanged[channel][frame]) assertThat(sum(exchanged, depth)).isNotEqualTo(right);
            if (sound(depth)[channel][frame] != 0) assertThat(sum(silenced, depth)).isNotEqualTo(right);
        }
    }

    @ParameterizedTest @EnumSource(Depth.class) void channelsAndPlacesCount(Depth depth) {
        double[][] sound = sound(depth), moved = sound(depth), shorter = new double[2][];
        for (int channel = 0; channel < 2; channel++) {
            System.arraycopy(sound[channel], 0, moved[channel], 1, FRAMES - 1);
            moved[channel][0] = sound[channel][FRAMES - 1];
            shorter[channel] = Arrays.copyOf(sound[channel], FRAMES - 1);
        }
        assertThat(sum(new double[][]{sound[1], sound[0]}, depth)).isNotEqualTo(sum(sound, depth));
        assertThat(sum(moved, depth)).isNotEqualTo(sum(sound, depth));
        assertThat(sum(shorter, depth)).isNotEqualTo(sum(sound, depth));
    }

    /// Writing and reading go in blocks of their own lengths.
    @ParameterizedTest @ValueSource(ints = {1, 7, 256, 4999}) void blocksDoNotCount(int block) {
        double[][] sound = sound(Depth.INT_24);
        SampleSum sum = new SampleSum(2, Depth.INT_24);
        for (int at = 0; at < FRAMES; at += block) {
            int from = at, to = Math.min(FRAMES, at + block);
            sum.add(new double[][]{Arrays.copyOfRange(sound[0], from, to), Arrays.copyOfRange(sound[1], from, to)}, to - from);
        }
        assertThat(sum.value()).isEqualTo(sum(sound, Depth.INT_24));
    }

    @Test void whatIsNotRoundedYetGetsTheSumOfWhatIsWritten() {
        double[][] sound = sound(Depth.INT_16), between = sound(Depth.INT_16);
        for (double[] plane : between)
            for (int i = 0; i < FRAMES; i++)
                plane[i] += i % 2 == 0 ? 0.3 / 32768 : -0.3 / 32768;
        SampleSum sum = new SampleSum(2, Depth.INT_16);
        assertThat(sum.addIfWithin(between, FRAMES)).isTrue();
        assertThat(sum.value()).isEqualTo(sum(sound, Depth.INT_16));
    }

    @ParameterizedTest @ValueSource(doubles = {1, -1.00002, 3, -300, 1e9}) void whatLiesBeyondFullScaleIsNotAdded(double beyond) {
        double[][] sound = sound(Depth.INT_16);
        sound[1][77] = beyond;
        SampleSum sum = new SampleSum(2, Depth.INT_16);
        assertThat(sum.addIfWithin(sound, FRAMES)).isFalse();
        assertThat(sum.value().frames()).isZero();
        sound[1][77] = -1;
        assertThat(sum.addIfWithin(sound, FRAMES)).isTrue();
    }

    @ParameterizedTest @EnumSource(value = Depth.class, names = {"INT_32", "FLOAT_32", "FLOAT_64"}) void whatHasToBeRoundedFirstIsNotAdded(Depth depth) {
        assertThat(new SampleSum(2, depth).addIfWithin(sound(depth), FRAMES)).isFalse();
    }
}
