package ablecrate.dsp;

import static ablecrate.Sounds.readAll;
import static ablecrate.Sounds.signal;
import static ablecrate.Sounds.source;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Sounds;
import ablecrate.audio.FrameRange;
import ablecrate.audio.FrameSource;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;

class LoopPartsTest {
    private static final double[] COUNTING = signal(100, n -> n);

    @Test void aLoopGoesOnFromItsStart() throws Exception {
        double[] on = readAll(new ContinuedLoop(source(44100, COUNTING), new FrameRange(10, 14), false, 10))[0];
        assertThat(on).startsWith(0, 1, 2).hasSize(24);
        assertThat(Arrays.copyOfRange(on, 10, 24)).containsExactly(10, 11, 12, 13, 10, 11, 12, 13, 10, 11, 12, 13, 10, 11);
    }

    @Test void anAlternatingLoopGoesBackAndForth() throws Exception {
        double[] on = readAll(new ContinuedLoop(source(44100, COUNTING), new FrameRange(10, 13), true, 8))[0];
        assertThat(Arrays.copyOfRange(on, 10, 21)).containsExactly(10, 11, 12, 11, 10, 11, 12, 11, 10, 11, 12);
    }

    @ParameterizedTest @ValueSource(booleans = {false, true}) void whatIsKeptOfALongLoopIsEnough(boolean alternates) throws Exception {
        double[] on = readAll(new ContinuedLoop(source(44100, COUNTING), new FrameRange(5, 95), alternates, 6))[0];
        assertThat(Arrays.copyOfRange(on, 95, 101)).containsExactly(alternates ? new double[]{93, 92, 91, 90, 89, 88} : new double[]{5, 6, 7, 8, 9, 10});
    }

    @ParameterizedTest @ValueSource(doubles = {-0.5, -0.04, 0.3}) void aPartOfAFrameLaterIsTheSameSound(double delay) throws Exception {
        for (double frequency : new double[]{0.01, 0.25, 0.47}) {
            double[] y = readAll(new FractionalDelay(source(44_100, signal(3000, n -> Math.sin(2 * Math.PI * frequency * n))), delay))[0];
            assertThat(y).hasSize(3000);
            for (int n = FractionalDelay.REACH; n < 3000 - FractionalDelay.REACH; n++)
                assertThat(y[n]).isCloseTo(Math.sin(2 * Math.PI * frequency * (n - delay)), within(1e-6));
        }
    }

    @Test void beforeItsStartALoopWasAtItsEnd() throws Exception {
        assertThat(ContinuedLoop.before(source(44100, COUNTING), new FrameRange(10, 14), false, 6)[0]).containsExactly(12, 13, 10, 11, 12, 13);
        assertThat(ContinuedLoop.before(source(44100, COUNTING), new FrameRange(10, 13), true, 5)[0]).containsExactly(11, 10, 11, 12, 11);
    }

    @Test void aLoopGoesOnBeforeWhatFollows() throws Exception {
        double[] sound = Arrays.copyOf(COUNTING, 20);
        assertThat(extended(sound, 10, 13, 0, 0)).as("as it is").containsExactly(sound);
        assertThat(extended(sound, 10, 12, 4, 0)).as("two turns more").startsWith(sound[0], 1).endsWith(10, 11, 10, 11, 10, 11, 12, 13, 14, 15, 16, 17, 18, 19);
        assertThat(extended(sound, 10, 14, 6, 0)).as("a turn and a half: of what follows, two frames are played by the loop")
                .endsWith(10, 11, 12, 13, 10, 11, 12, 13, 10, 11, 16, 17, 18, 19);
        assertThat(extended(sound, 10, 17, 0, 4)).as("behind the last frame").endsWith(16, 17, 18, 19, 13, 14, 15, 16);
        assertThat(extended(sound, 17, 20, 0, 8)).as("the sound ends with its loop").endsWith(17, 18, 19, 17, 18, 19, 17, 18, 19, 17, 18);
    }

    @Test void aLoopGoesOnBackAndForth() throws Exception {
        double[] sound = Arrays.copyOf(COUNTING, 16);
        assertThat(extended(sound, 10, 13, true, 4, 0, 0)).as("back, and to its last frame again").endsWith(10, 11, 12, 11, 10, 11, 12, 13, 14, 15);
        assertThat(extended(sound, 12, 16, true, 2, 0, 3)).as("the sound ends with its loop").endsWith(12, 13, 14, 15, 14, 13, 12, 13, 14);
    }

    /// Read in pieces of any length.
    private static double[] extended(double[] sound, int start, int end, long onward, long behind) throws Exception {
        long length = end - start;
        return extended(sound, start, end, false, onward, Math.min(sound.length - end, onward % length), behind);
    }

    private static double[] extended(double[] sound, int start, int end, boolean alternates, long onward, long skipped, long behind) throws Exception {
        double[] first = readAll(new ExtendedLoop(source(44100, sound), new FrameRange(start, end), alternates, onward, skipped, behind))[0];
        double[][] pieces = new double[1][first.length];
        try (ExtendedLoop extended = new ExtendedLoop(source(44100, sound), new FrameRange(start, end), alternates, onward, skipped, behind)) {
            assertThat(extended.frames()).isEqualTo(first.length);
            for (int at = 0; at < first.length;)
                at += extended.read(pieces, at, Math.min(3, first.length - at));
        }
        assertThat(pieces[0]).containsExactly(first);
        return first;
    }

    @Test void aLoopOutsideOfTheSoundIsRefused() {
        assertThatThrownBy(() -> new ContinuedLoop(source(44100, COUNTING), new FrameRange(90, 101), false, 1)).hasMessageContaining("100 frames");
    }

    @Test void stretchesAndSequencesAreWhatTheySay() throws Exception {
        FrameSource joined = new Sequence(List.of(new FrameSlice(source(44100, COUNTING), 3, 6), new FrameSlice(source(44100, COUNTING), 50, 52)));
        assertThat(joined.frames()).isEqualTo(5);
        assertThat(readAll(joined)[0]).containsExactly(3, 4, 5, 50, 51);
        assertThatThrownBy(() -> new FrameSlice(source(44100, COUNTING), 5, 101)).isInstanceOf(IllegalArgumentException.class);
    }

    /// At the seam a crossfaded loop is what leads to its start.
    @Test void aCrossfadeEndsInWhatComesBeforeTheStart() throws Exception {
        double[] x = signal(4000, n -> Math.sin(0.031 * n) + 0.3 * Math.sin(0.17 * n + 1));
        double[] y = readAll(new LoopCrossfade(source(44100, x), new FrameRange(1000, 3000), 500))[0];
        assertThat(Arrays.copyOf(y, 2500)).isEqualTo(Arrays.copyOf(x, 2500));
        assertThat(y[2999]).isCloseTo(x[999], within(0.01));
        assertThat(Arrays.copyOfRange(y, 3000, 4000)).isEqualTo(Arrays.copyOfRange(x, 3000, 4000));
    }

    /// By hand: half of 6.0206 dB, a factor of √2, is reached in the middle of the loop, and 2 at its end and behind; before it nothing changes.
    @Test void aLoopIsRaisedInEvenStepsOfDecibels() throws Exception {
        double[] ones = signal(4000, _ -> 1), y = readAll(new LoopLevel(source(44100, ones), new FrameRange(1000, 3000), 20 * Math.log10(2)))[0];
        assertThat(Arrays.copyOf(y, 1000)).containsOnly(1);
        assertThat(y[2000]).isCloseTo(Math.sqrt(2), within(1e-9));
        assertThat(y[2999]).isCloseTo(2 * Math.pow(2, -1 / 2000.0), within(1e-9));
        assertThat(Arrays.copyOfRange(y, 3000, 4000)).usingComparatorWithPrecision(1e-9).containsOnly(2);
    }

    /// What falls by 6 dB within its loop is, raised and blended, at the seam what leads to its start, as loud.
    @Test void aRaisedLoopIsBlendedIntoWhatIsAsLoud() throws Exception {
        FrameRange loop = new FrameRange(1000, 3000);
        double rise = 20 * Math.log10(2);
        double[] x = signal(4000, n -> Math.pow(2, -n / 2000.0) * Math.sin(2 * Math.PI * n / 100));
        double[] y = readAll(new LoopCrossfade(new LoopLevel(source(44100, x), loop, rise), loop, 500, rise))[0];
        assertThat(Sounds.db(Sounds.rms(y, 2500, 3000) / Sounds.rms(y, 1000, 1500))).isCloseTo(0, within(0.01));
        for (int n = 1000; n < 3000; n++)
            assertThat(y[n]).isCloseTo(Math.sqrt(0.5) * Math.sin(2 * Math.PI * n / 100), within(1e-9));
    }

    /// Alike stretches are blended linearly, uncorrelated ones at equal power: neither gets louder or softer.
    @ParameterizedTest @ValueSource(booleans = {true, false}) void aCrossfadeKeepsTheLevel(boolean alike) throws Exception {
        Random random = new Random(2);
        double[] x = alike ? signal(9000, n -> Math.sin(2 * Math.PI * n / 50)) : signal(9000, _ -> random.nextGaussian());
        double[] y = readAll(new LoopCrossfade(source(44100, x), new FrameRange(4000, 8000), 3000))[0];
        assertThat(Sounds.db(Sounds.rms(y, 5000, 8000) / Sounds.rms(x, 5000, 8000))).isCloseTo(0, within(0.3));
        assertThat(Sounds.db(Sounds.rms(y, 6000, 7000) / Sounds.rms(x, 6000, 7000))).isCloseTo(0, within(0.4));
    }

    /// Where a sine stands still it turns without a corner; where it is steepest the corner is twice its slope, 2 × 2π/64, or −17 dB against its RMS.
    @Test void aTurnIsAsSharpAsItsCorner() {
        double[][] crest = {signal(257, n -> Math.cos(2 * Math.PI * n / 64))}, steep = {signal(257, n -> Math.sin(2 * Math.PI * n / 64))};
        assertThat(Seam.turnDb(crest)).isLessThan(-60);
        assertThat(Seam.turnDb(steep)).isCloseTo(Sounds.db(2 * 2 * Math.PI / 64 / Math.sqrt(0.5)), within(0.3));
        assertThat(Seam.stepDb(steep, Seam.backward(steep))).as("as a seam, where the last frame is played twice, it is another").isLessThan(-15);
    }

    @Test void aCrossfadeNeedsRoomBeforeTheLoop() {
        assertThatThrownBy(() -> new LoopCrossfade(source(44100, COUNTING), new FrameRange(10, 50), 11)).hasMessageContaining("crossfade of 11 frames");
    }

    /// A step of one tenth of the level is −17 dB or so against the RMS of a sine; a loop of whole cycles has none.
    @Test void aSeamIsAsLargeAsItsStep() {
        double[][] before = {signal(256, n -> Math.sin(2 * Math.PI * n / 64))}, same = {signal(256, n -> Math.sin(2 * Math.PI * n / 64))},
                shifted = {signal(256, n -> 0.1 + Math.sin(2 * Math.PI * n / 64))};
        assertThat(Seam.stepDb(before, same)).isLessThan(-60);
        assertThat(Seam.stepDb(before, shifted)).isBetween(-20.0, -14.0);
        assertThat(Seam.stepDb(new double[1][256], new double[1][256])).isEqualTo(Seam.NONE_DB);
    }

    @ParameterizedTest @EnumSource(FadeShape.class) void fadesGoFromSilenceToFullLevelAndBack(FadeShape shape) throws Exception {
        double[] y = readAll(new Fades(source(48000, signal(1000, _ -> 1)), 0, 1000, 200, shape, 300, shape))[0];
        assertThat(y[0]).isZero();
        assertThat(y[999]).isCloseTo(0, within(1e-12));
        assertThat(y[200]).isEqualTo(1);
        assertThat(y[700]).isCloseTo(1, within(0.02));
        for (int i = 1; i < 200; i++)
            assertThat(y[i]).isGreaterThanOrEqualTo(y[i - 1]);
        for (int i = 701; i < 1000; i++)
            assertThat(y[i]).isLessThanOrEqualTo(y[i - 1]);
    }

    /// Half-way: −6 dB linear, −3 dB at equal power; a fast start is above, a slow one below.
    @Test void shapesAreWhatTheyAreCalled() {
        assertThat(FadeShape.LINEAR.fadeIn(0.5)).isEqualTo(0.5);
        assertThat(FadeShape.EQUAL_POWER.fadeIn(0.5)).isCloseTo(Math.sqrt(0.5), within(1e-12));
        assertThat(FadeShape.EQUAL_POWER.fadeOut(0.5)).isCloseTo(Math.sqrt(0.5), within(1e-12));
        assertThat(FadeShape.S.fadeIn(0.5)).isCloseTo(0.5, within(1e-12));
        assertThat(FadeShape.FAST_START.fadeIn(0.25)).isGreaterThan(0.5);
        assertThat(FadeShape.SLOW_START.fadeIn(0.75)).isLessThan(0.5);
        assertThat(FadeShape.FAST_START.fadeOut(0.25)).as("falls fast").isLessThan(0.5);
    }

    /// Heard from the middle, a fade is where it would be from the start.
    @Test void aFadeCanBeEnteredAnywhere() throws Exception {
        double[] whole = readAll(new Fades(source(48000, signal(500, _ -> 1)), 0, 500, 100, FadeShape.S, 200, FadeShape.LINEAR))[0];
        for (int from : new int[]{0, 50, 250, 400})
            assertThat(readAll(new Fades(source(48000, signal(500 - from, _ -> 1)), from, 500, 100, FadeShape.S, 200, FadeShape.LINEAR))[0])
                    .isEqualTo(Arrays.copyOfRange(whole, from, 500));
    }

    @Test void gainAndOffsetAreExact() throws Exception {
        assertThat(readAll(new Gain(source(48000, new double[]{0.5, -0.25}), 20 * Math.log10(2)))[0]).containsExactly(new double[]{1, -0.5}, within(1e-12));
        assertThat(readAll(new OffsetRemover(source(48000, new double[]{0.5, 0.1}, new double[]{0, 1}), new double[]{0.1, -1}))).isDeepEqualTo(
                new double[][]{{0.4, 0.0}, {1, 2}});
    }

    @Test void theMiddleOfTwoSidesNeverClips() throws Exception {
        double[][] mixed = readAll(new ChannelMixer(source(48000, new double[]{1, 1, -1}, new double[]{1, -1, 0}), new double[][]{{0.5, 0.5}}));
        assertThat(mixed[0]).containsExactly(1, 0, -0.5);
    }
}
