package ablecrate.detect;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Sounds;
import ablecrate.audio.FrameRange;
import ablecrate.audio.MemorySource;
import ablecrate.instrument.LoopMode;
import java.util.List;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;

/// Made sounds whose good loops are known: what is found has to be one, and what is none has to be told.
class LoopFinderTest {
    private static final int RATE = 44_100;

    /// A reed of eight partials with an attack, a tremolo of 5 Hz, and breath.
    private static double[] reed(double hz, double seconds, int seed) {
        Random random = new Random(seed);
        return Sounds.signal((int) (seconds * RATE), n -> {
            double t = (double) n / RATE, sum = 0;
            for (int partial = 1; partial <= 8; partial++)
                sum += Math.sin(2 * Math.PI * hz * partial * t) / partial;
            return 0.3 * Math.min(1, t / 0.08) * (1 + 0.15 * Math.sin(2 * Math.PI * 5 * t)) * sum + 0.002 * random.nextGaussian();
        });
    }

    private static List<FoundLoop> find(double[]... planes) {
        return LoopFinder.find(planes, RATE, LoopWish.usual(RATE), 5, () -> false);
    }

    @Test void aHeldSoundIsLoopedWithASeamThatPassesAndOverWholePeriods() {
        double[] reed = reed(220, 3, 1);
        List<FoundLoop> found = find(reed);
        assertThat(found).hasSizeGreaterThan(2);
        FoundLoop best = found.getFirst();
        assertThat(best.quality().passes()).isTrue();
        assertThat(best.frames().length()).isGreaterThan(RATE / 4);
        assertThat(best.frames().start()).as("behind the attack").isGreaterThan((long) (0.05 * RATE));
        assertThat(best.quality().centsOff()).isCloseTo(0, within(0.5));
        double periods = best.frames().length() * 220.0 / RATE;
        assertThat(periods).isCloseTo(Math.rint(periods), within(0.02));
    }

    /// A loop that a sound has is judged by the same measure as those that are found; what lies beyond the first minute is not judged.
    @Test void aGivenLoopIsJudgedAsAFoundOne() throws Exception {
        double[] reed = reed(220, 3, 1);
        FoundLoop best = find(reed).getFirst();
        LoopQuality same = LoopFinder.judge(new MemorySource(RATE, new double[][]{reed}), best.frames(), LoopMode.FORWARD, best.crossfadeFrames())
                .orElseThrow();
        assertThat(same).isEqualTo(best.quality());
        FrameRange arbitrary = new FrameRange(best.frames().start() + 77, best.frames().end());
        assertThat(LoopFinder.judge(new MemorySource(RATE, new double[][]{reed}), arbitrary, LoopMode.FORWARD, 0).orElseThrow().passes()).as("off the period")
                .isFalse();
        assertThat(LoopFinder.judge(new MemorySource(RATE, new double[][]{reed}), new FrameRange(10, 200), LoopMode.FORWARD, 50_000))
                .as("a fade has no more than there is")
                .isPresent();
        double[] long70 = new double[70 * RATE];
        assertThat(LoopFinder.judge(new MemorySource(RATE, new double[][]{long70}), new FrameRange(65L * RATE, 66L * RATE), LoopMode.FORWARD, 0)).isEmpty();
        assertThat(LoopFinder.judge(new MemorySource(RATE, new double[][]{new double[100]}), new FrameRange(0, 50), LoopMode.FORWARD, 0)).as("too short")
                .isEmpty();
    }

    /// Both sides sound at once: one loop is good on both, though each side alone has others.
    @Test void bothSidesOfAStereoSoundAreJudged() {
        double[] left = reed(220, 3, 1), right = reed(165, 3, 2);
        FoundLoop best = find(left, right).getFirst();
        assertThat(best.quality().passes()).isTrue();
        assertThat(new LoopJudge(new double[][]{right}, RATE).judge(best.frames(), best.crossfadeFrames(), 0).bump()).isLessThanOrEqualTo(1.01);
    }

    /// A fade hides a click and no change of tone: arbitrary ends do not pass. Most of a hundred tried.
    @Test void aFadeDoesNotMakeAnArbitraryLoopGood() {
        double[] swept = Sounds.signal(3 * RATE, n -> {
            double t = (double) n / RATE;
            return 0.4 * Math.sin(2 * Math.PI * (220 * t)) + 0.3 * Math.sin(2 * Math.PI * (400 * t + 150 * t * t));
        });
        LoopJudge judge = new LoopJudge(new double[][]{swept}, RATE);
        Random random = new Random(5);
        int passed = 0;
        for (int i = 0; i < 40; i++) {
            int start = 8000 + random.nextInt(40_000), length = 15_000 + random.nextInt(50_000);
            if (judge.judge(new FrameRange(start, start + length), 2205, 0).passes()) passed++;
        }
        assertThat(passed).isLessThanOrEqualTo(10);
    }

    @Test void aStepAtTheSeamIsAClick() {
        double[] sine = Sounds.sine(441, 0.5, RATE, 2 * RATE);
        LoopJudge judge = new LoopJudge(new double[][]{sine}, RATE);
        assertThat(judge.judge(new FrameRange(20_000, 20_000 + 300 * 100), 0, 0).clickDb()).isLessThan(1);
        assertThat(judge.judge(new FrameRange(20_000, 20_000 + 300 * 100 + 25), 0, 0).clickDb()).isGreaterThan(20);
        assertThat(judge.period()).hasValueCloseTo(100.0, within(0.01));
    }

    @Test void whatHasNothingToLoopIsNoFault() {
        assertThat(find(new double[RATE])).allSatisfy(f -> assertThat(f.frames().end()).isLessThanOrEqualTo(RATE));
        assertThat(find(new double[1])).isEmpty();
        assertThat(find(new double[500])).isEmpty();
        Random random = new Random(3);
        assertThat(find(Sounds.signal(2 * RATE, _ -> 0.2 * random.nextGaussian()))).as("noise loops over itself").isNotEmpty();
        assertThat(LoopFinder.find(new double[][]{reed(220, 3, 1)}, RATE, LoopWish.usual(RATE), 5, () -> true)).as("stopped").isEmpty();
    }

    /// 20 dB a second: a quarter of a second falls by 5 dB. The same sound, raised, is as loud at both ends.
    @Test void aDecayIsMadeUpForWhereThatIsWanted() {
        double[] struck = Sounds.signal(2 * RATE, n -> {
            double t = (double) n / RATE, sum = 0;
            for (int partial = 1; partial <= 4; partial++)
                sum += Math.pow(10, -(18 + 2 * partial) * t / 20) * Math.sin(2 * Math.PI * 523.25 * partial * t) / partial;
            return 0.3 * Math.min(1, t / 0.004) * sum;
        });
        FoundLoop plain = find(struck).getFirst(),
                raised = LoopFinder.find(new double[][]{struck}, RATE, LoopWish.usual(RATE).levelled(true), 5, () -> false).getFirst();
        assertThat(plain.riseDb()).as("nobody asked for it").isZero();
        double seconds = (double) raised.frames().length() / RATE;
        assertThat(seconds).isGreaterThan(0.24).isGreaterThan(1.5 * plain.frames().length() / RATE);
        assertThat(raised.riseDb()).isCloseTo(20 * seconds, within(1.0)).isLessThanOrEqualTo(12);
        assertThat(raised.quality().passes()).isTrue();
        assertThat(raised.quality().cost()).isLessThan(0.9 * plain.quality().cost());
        assertThat(Math.abs(raised.quality().levelDb())).isLessThan(0.3);
        assertThat(plain.fallDbPerSecond()).as("the first partial rules").isCloseTo(20, within(1.0));
        FoundLoop held = LoopFinder.find(new double[][]{reed(220, 3, 1)}, RATE, LoopWish.usual(RATE).levelled(true), 5, () -> false).getFirst();
        assertThat(held.riseDb()).as("what does not decay").isLessThan(1);
        double[] letGo = reed(220, 3, 1);
        for (int n = 2 * RATE; n < letGo.length; n++)
            letGo[n] *= Math.pow(10, -3.0 * (n - 2 * RATE) / RATE);
        assertThat(find(letGo).getFirst().fallDbPerSecond()).as("a held sound that is let go at its end").isZero();
    }

    private static double[] partials(double hz, double phase) {
        return Sounds.signal(2 * RATE, n -> {
            double sum = 0;
            for (int partial = 1; partial <= 6; partial++)
                sum += Math.cos(2 * Math.PI * hz * partial * n / RATE + phase) / partial;
            return 0.3 * Math.min(1, n / 2000.0) * (1 + 0.1 * Math.sin(n / 3000.0)) * sum;
        });
    }

    /// Partials that all peak at once are the same backwards from there, each half period of 100 frames; those that all cross zero at once are not.
    @Test void aLoopThatAlternatesTurnsWhereTheSoundMirrorsItself() {
        LoopWish alternating = LoopWish.usual(RATE).in(Set.of(LoopMode.ALTERNATING));
        List<FoundLoop> found = LoopFinder.find(new double[][]{partials(441, 0)}, RATE, alternating, 5, () -> false);
        assertThat(found).hasSizeGreaterThan(2).allSatisfy(f -> {
            assertThat(f.mode()).isEqualTo(LoopMode.ALTERNATING);
            assertThat(f.frames().start() % 50).isZero();
            assertThat((f.frames().end() - 1) % 50).as("the last frame is where it turns").isZero();
            assertThat(f.frames().length()).isGreaterThan(RATE / 4);
        });
        FoundLoop best = found.getFirst();
        assertThat(best.quality().passes()).isTrue();
        assertThat(best.stepDb()).isLessThan(-40);
        LoopJudge judge = new LoopJudge(new double[][]{partials(441, Math.PI / 2)}, RATE);
        assertThat(new TurnJudge(judge).judge(best.frames()).passes()).as("turned where all of them cross zero").isFalse();
        assertThat(judge.judge(new FrameRange(best.frames().start(), best.frames().start() + 20_000), 0, 0).bump()).as("forward it loops well")
                .isLessThan(new TurnJudge(judge).judge(best.frames()).bump() / 2);
    }

    /// One that alternates is the second choice.
    @Test void ofBothWaysForwardComesFirst() {
        LoopWish either = LoopWish.usual(RATE).in(Set.of(LoopMode.FORWARD, LoopMode.ALTERNATING));
        assertThat(LoopFinder.find(new double[][]{reed(220, 3, 1)}, RATE, either, 5, () -> false)).extracting(FoundLoop::mode).containsOnly(LoopMode.FORWARD);
        // It rises by an octave and falls again: nothing is like what was, but for the turn of the rise.
        double[] swept = Sounds.signal(2 * RATE,
                n -> 0.4 * Math.cos(2 * Math.PI * (300 * (n - RATE) / (double) RATE + 150 * Math.pow((n - RATE) / (double) RATE, 2))));
        assertThat(LoopFinder.find(new double[][]{swept}, RATE, either, 5, () -> false).getFirst().mode()).isEqualTo(LoopMode.ALTERNATING);
    }

    @Test void lengthsAreKept() {
        List<FoundLoop> found = LoopFinder.find(new double[][]{reed(220, 3, 1)}, RATE, LoopWish.usual(RATE).upTo(9000).from(4000), 5, () -> false);
        assertThat(found).isNotEmpty().allSatisfy(f -> assertThat(f.frames().length()).isBetween(3990L, 9010L));
    }
}
