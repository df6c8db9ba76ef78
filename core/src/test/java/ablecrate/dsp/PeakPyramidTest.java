package ablecrate.dsp;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.Sounds;
import ablecrate.audio.FrameRange;
import java.util.Random;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/// The picture of a sound never leaves a peak out, at no zoom.
class PeakPyramidTest {
    private static PeakPyramid of(double[]... planes) throws Exception { return PeakPyramid.of(Sounds.source(48_000, planes), () -> false); }

    @ParameterizedTest @ValueSource(ints = {1, 63, 64, 65, 4095, 4096, 4097, 30_011, 300_000}) void everyStretchHoldsItsPeaksAndFewOthers(int frames)
            throws Exception {
        Random random = new Random(frames);
        double[][] x = {random.doubles(frames, -1, 1).toArray(), random.doubles(frames, -0.1, 0.3).toArray()};
        PeakPyramid pyramid = of(x);
        assertThat(pyramid.frames()).isEqualTo(frames);
        for (int n = 0; n < 200; n++) {
            int start = random.nextInt(frames), end = start + 1 + random.nextInt(frames - start), channel = n % 2;
            PeakPyramid.Peaks peaks = pyramid.peaks(channel, new FrameRange(start, end));
            double low = IntStream.range(start, end).mapToDouble(i -> x[channel][i]).min().orElseThrow(),
                    high = IntStream.range(start, end).mapToDouble(i -> x[channel][i]).max().orElseThrow();
            assertThat(peaks.low()).isLessThanOrEqualTo((float) low);
            assertThat(peaks.high()).isGreaterThanOrEqualTo((float) high);
            // Widened by a stretch at most, which is 64 frames or an eighth of what is asked for.
            int wider = Math.max(64, (end - start) / 8 * 4), from = Math.max(0, start - wider), to = Math.min(frames, end + wider);
            assertThat(peaks.low()).isGreaterThanOrEqualTo((float) IntStream.range(from, to).mapToDouble(i -> x[channel][i]).min().orElseThrow());
            assertThat(peaks.high()).isLessThanOrEqualTo((float) IntStream.range(from, to).mapToDouble(i -> x[channel][i]).max().orElseThrow());
        }
        assertThat(pyramid.peak())
                .isEqualTo((float) IntStream.range(0, frames).mapToDouble(i -> Math.max(Math.abs(x[0][i]), Math.abs(x[1][i]))).max().orElseThrow());
    }

    @Test void oneSampleOfAnHourIsSeenAtEveryZoom() throws Exception {
        double[] x = new double[3_600_000];
        x[2_345_678] = -0.7;
        PeakPyramid pyramid = of(x);
        for (long length = 1; length < x.length; length *= 3)
            assertThat(pyramid.peaks(0, new FrameRange(2_345_678 - length / 2, 2_345_679 + length / 2)).low()).isEqualTo(-0.7f);
        float[] sketch = pyramid.sketch(100);
        assertThat(sketch[2 * 65]).as("in the column it belongs to").isEqualTo(-0.7f);
        assertThat(IntStream.range(0, 100).filter(c -> sketch[2 * c] < 0).count()).isBetween(1L, 2L);
    }

    @Test void asSketchIsOfAllChannelsAndAtLeastTheMiddleLine() throws Exception {
        float[] sketch = of(new double[]{0.5, 0.5, 0.5, 0.5}, new double[]{-0.25, -0.25, -0.25, -0.25}).sketch(2);
        assertThat(sketch).containsExactly(-0.25f, 0.5f, -0.25f, 0.5f);
        assertThat(of(new double[]{0.5}).sketch(3)).as("more columns than frames").startsWith(0, 0.5f);
        assertThat(of(new double[]{0.5}).peaks(0, new FrameRange(1, 5))).as("behind the end").isEqualTo(new PeakPyramid.Peaks(0, 0));
        assertThat(of(new double[]{0.5}).peaks(0, new FrameRange(0, 0))).isEqualTo(new PeakPyramid.Peaks(0, 0));
    }

    @Test void readingCanBeStopped() throws Exception {
        double[] x = Sounds.sine(100, 0.9, 48_000, 100_000);
        AtomicInteger asked = new AtomicInteger();
        PeakPyramid half = PeakPyramid.of(Sounds.source(48_000, x), () -> asked.incrementAndGet() > 5);
        assertThat(half.peaks(0, new FrameRange(0, 4000)).high()).isGreaterThan(0.8f);
        assertThat(half.peaks(0, new FrameRange(90_000, 99_000)).high()).as("the rest is flat").isZero();
    }
}
