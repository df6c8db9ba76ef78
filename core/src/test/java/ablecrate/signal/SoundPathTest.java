package ablecrate.signal;

import static ablecrate.Sounds.readAll;
import static ablecrate.Sounds.signal;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.codec.Capabilities;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormats;
import ablecrate.dsp.FadeShape;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.SoundMetadata;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.OptionalDouble;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/// The way of a sound's audio, and what is measured on it.
class SoundPathTest {
    @TempDir Path folder;

    private final SoundPath path = new SoundPath();
    private final Measurements book = new Measurements(path);

    private SoundFile file(SoundMetadata metadata, double[]... planes) throws Exception {
        return SoundFormats.byId("wav").orElseThrow().read(Sounds.write(folder.resolve("x.wav"), "wav", 44100, Depth.FLOAT_64, metadata, planes));
    }

    private SoundFile file(double[]... planes) throws Exception { return file(SoundMetadata.NONE, planes); }

    private static SourceChain at(SoundFile file, FrameRange part, int rateHz) {
        return new SourceChain(part, List.of(), ChannelMix.keep(file.channels()), rateHz, file.rateHz(), rateHz, Optional.empty(), List.of());
    }

    private Measurement.Survey survey(SoundFile file, double silenceDbfs) {
        Measurement.Request request = new Measurement.OfFile(file, OptionalDouble.of(silenceDbfs));
        book.measure(request, () -> false);
        return (Measurement.Survey) book.find(request).orElseThrow();
    }

    @Test void aWholeSoundComesAsItIs() throws Exception {
        double[][] x = {signal(3000, n -> Math.sin(0.1 * n)), signal(3000, n -> Math.cos(0.1 * n))};
        SoundFile file = file(x);
        SourceChain whole = SourceChain.whole(file);
        assertThat(whole.isAsIn(file)).isTrue();
        assertThat(readAll(path.open(file, whole, OutputChain.NONE))).isDeepEqualTo(x);
    }

    @Test void aPartIsThatPartWhateverTheRate() throws Exception {
        double[] x = signal(20_000, n -> Math.sin(2 * Math.PI * 400 * n / 44100));
        SoundFile file = file(x);
        FrameRange part = new FrameRange(4410, 13_230);
        assertThat(readAll(path.sourceChain(file, at(file, part, 44100)))[0]).isEqualTo(Arrays.copyOfRange(x, 4410, 13_230));
        double[] converted = readAll(path.sourceChain(file, at(file, part, 48000)))[0];
        assertThat(converted).hasSize(9600);
        for (int n = 1000; n < 8000; n += 37)
            assertThat(converted[n]).isCloseTo(Math.sin(2 * Math.PI * 400 * n / 48000.0), within(1e-8));
    }

    @Test void stagesFollowEachOtherInOrder() throws Exception {
        SoundFile file = file(signal(1000, _ -> 0.3), signal(1000, _ -> 0.1));
        SourceChain sourceChain = new SourceChain(new FrameRange(0, 1000), List.of(0.1, 0.1), ChannelMix.middle(), 1, 1, 44100, Optional.empty(), List.of());
        OutputChain outputChain = new OutputChain(20 * Math.log10(2), new Ends(10, FadeShape.LINEAR, 10, FadeShape.LINEAR), Optional.empty());
        double[] y = readAll(path.open(file, sourceChain, outputChain))[0];
        assertThat(y[500]).as("((0.3 − 0.1) + (0.1 − 0.1)) / 2, doubled").isCloseTo(0.2, within(1e-12));
        assertThat(y[5]).as("half-way into the fade").isCloseTo(0.1, within(1e-12));
        assertThat(sourceChain.isAsIn(file)).isFalse();
    }

    @Test void theCeilingIsTheLastStage() throws Exception {
        SoundFile file = file(signal(20_000, n -> 0.5 * Math.sin(0.3 * n)));
        double[] y = readAll(
                path.open(file, SourceChain.whole(file),
                        new OutputChain(12, new Ends(0, FadeShape.S, 0, FadeShape.S), Optional.of(new Hold.TruePeaks(-3)))))[0];
        assertThat(Arrays.stream(y).map(Math::abs).max().orElseThrow()).isLessThan(Math.pow(10, -3 / 20.0));
    }

    /// Heard from a frame on, a result is what it is in the whole: with rate, part, fades and a loop.
    @ParameterizedTest @ValueSource(booleans = {false, true}) void hearingCanBeginAnywhere(boolean looped) throws Exception {
        SoundMetadata metadata = SoundMetadata.NONE.withLoops(List.of(Loop.sustain(new FrameRange(20_000, 20_100), LoopMode.FORWARD)));
        SoundFile file = file(metadata, signal(40_000, n -> Math.sin(0.05 * n) * 0.5 + 0.2 * Math.sin(0.31 * n)));
        Optional<LoopCarry> loop = looped
                ? Optional.of(new LoopCarry(new FrameRange(19_000, 19_100), new FrameRange(20_710, 20_819), false, 0, 0, LoopRoom.NONE))
                : Optional.empty();
        SourceChain sourceChain = new SourceChain(new FrameRange(looped ? 1000 : 0, 38_000), List.of(), ChannelMix.keep(1), looped ? 109 : 160,
                looped ? 100 : 147, 48000, loop,
                List.of());
        OutputChain outputChain = new OutputChain(-3, new Ends(2000, FadeShape.S, 3000, FadeShape.LINEAR), Optional.empty());
        double[] whole = readAll(path.open(file, sourceChain, outputChain))[0];
        assertThat((long) whole.length).isEqualTo(sourceChain.frames());
        for (int from : new int[]{0, 1, 777, 20_750, whole.length - 50}) {
            double[][] part = new double[1][200];
            try (var later = path.openAt(file, sourceChain, outputChain, from)) {
                int got = later.readFully(part, 0, Math.min(200, whole.length - from));
                for (int i = 0; i < got; i++)
                    assertThat(part[0][i]).as("frame " + (from + i)).isCloseTo(whole[from + i], within(1e-12));
            }
        }
    }

    /// A wave of a single cycle that is the whole file: where it starts nothing but itself lies before.
    @Test void aSingleCycleStaysACycle() throws Exception {
        SoundFile file = file(signal(100, n -> Math.sin(2 * Math.PI * n / 100)));
        SourceChain sourceChain = new SourceChain(new FrameRange(0, 100), List.of(), ChannelMix.keep(1), 109, 100, 48000,
                Optional.of(new LoopCarry(new FrameRange(0, 100), new FrameRange(0, 109), false, 0, 0, LoopRoom.NONE)), List.of());
        double[] y = readAll(path.sourceChain(file, sourceChain))[0];
        assertThat(y).hasSize(109);
        for (int n = 0; n < 109; n++)
            assertThat(y[n]).isCloseTo(Math.sin(2 * Math.PI * n / 109), within(1e-8));
    }

    /// Played for a second, a sound with room around its loop is what it was, frame by frame, wherever the loop lies and however short it is.
    @Test void roomAroundALoopIsNotHeard() throws Exception {
        Random random = new Random(8);
        for (int round = 0; round < 300; round++) {
            double[] x = signal(1 + random.nextInt(80), _ -> random.nextDouble());
            int start = random.nextInt(x.length), end = start + 1 + random.nextInt(x.length - start);
            Roomy roomy = roomy(random, x, new FrameRange(start, end), false);
            double[] y = roomy.frames;
            FrameRange to = roomy.loop.place();
            for (int n = 0; n < 1000; n++)
                assertThat(y[played(n, to)]).as("round %d, frame %d", round, n).isEqualTo(x[played(n, roomy.loop.to())]);
            for (long n = to.end(); n < y.length; n++) {
                long was = end + n - to.end() + roomy.leftOut();
                if (was < x.length) assertThat(y[(int) n]).as("what follows, round %d", round).isEqualTo(x[(int) was]);
            }
        }
    }

    /// A loop that goes back and forth and is written out is heard as it was, however long the key is held; where it is left, the rest follows.
    @Test void aLoopThatIsWrittenOutIsNotHeard() throws Exception {
        Random random = new Random(9);
        for (int round = 0; round < 300; round++) {
            double[] x = signal(2 + random.nextInt(80), _ -> random.nextDouble());
            int start = random.nextInt(x.length - 1), end = start + 2 + random.nextInt(x.length - start - 1), turn = 2 * (end - start - 1);
            Roomy roomy = roomy(random, x, new FrameRange(start, end), true);
            double[] y = roomy.frames;
            FrameRange to = roomy.loop.place();
            for (int n = 0; n < 1000; n++)
                assertThat(y[played(n, to)]).as("round %d, frame %d", round, n).isEqualTo(x[backAndForth(n, start, end)]);
            // Left at the end of a round, it goes on to its last frame, and from there into what follows.
            int left = (int) to.end(), last = left - 1;
            while (end < x.length && (last - end + 1) % turn != 0)
                last++;
            for (int n = left; n < y.length && end < x.length; n++)
                if (n <= last)
                    assertThat(y[n]).as("on to the turn, round %d", round).isEqualTo(x[backAndForth(n, start, end)]);
                else
                    if (end + n - last - 1 < x.length) assertThat(y[n]).as("what follows, round %d", round).isEqualTo(x[end + n - last - 1]);
        }
    }

    private static int backAndForth(int n, int start, int end) {
        int way = end - start - 1, phase = n < start ? 0 : (n - start) % (2 * way);
        return n < start ? n : phase <= way ? start + phase : start + 2 * way - phase;
    }

    private record Roomy(double[] frames, LoopCarry loop) {
        /// Frames of what follows that the loop plays in their place.
        long leftOut() { return loop.room().onward() % loop.to().length(); }
    }

    /// A sound whose loop has as much around it as any player may want, and is as long.
    private Roomy roomy(Random random, double[] sound, FrameRange loop, boolean alternates) throws Exception {
        SoundFile file = file(sound);
        Capabilities.Loops.Frames wanted = new Capabilities.Loops.Frames(1 + random.nextInt(40), Long.MAX_VALUE, random.nextInt(12));
        SourceChain chain = SourceChain.whole(file).with(Optional.of(new LoopCarry(loop, loop, alternates, 0, 0, LoopRoom.NONE))).withRoom(wanted);
        Roomy roomy = new Roomy(readAll(path.sourceChain(file, chain))[0], chain.loop().orElseThrow());
        FrameRange to = roomy.loop.place();
        assertThat((long) roomy.frames.length).isEqualTo(chain.frames());
        assertThat(to.length()).isGreaterThanOrEqualTo(wanted.shortest());
        assertThat(to.start()).isGreaterThanOrEqualTo(wanted.around());
        assertThat(roomy.frames.length - to.end()).isGreaterThanOrEqualTo(wanted.around());
        return roomy;
    }

    private static int played(int n, FrameRange loop) { return (int) (n < loop.end() ? n : loop.start() + (n - loop.start()) % loop.length()); }

    @Test void alternatingLoopsAreContinuedBackwards() throws Exception {
        // A wave that is the same on both sides of its turns: played back and forth it goes on as if there were none.
        double way = 437, cycles = 9;
        SoundFile file = file(signal(5000, n -> Math.cos(cycles * Math.PI * (n - 2003) / way) + 0.3 * Math.cos(31 * Math.PI * (n - 2003) / way)));
        int start = 2182, turns = 476;
        SourceChain sourceChain = new SourceChain(new FrameRange(0, 5000), List.of(), ChannelMix.keep(1), turns, 437, 48_000,
                Optional.of(new LoopCarry(new FrameRange(2003, 2441), new FrameRange(start, start + turns + 1), true, 0, 0, LoopRoom.NONE)), List.of());
        double[] y = readAll(path.sourceChain(file, sourceChain))[0];
        assertThat(y).hasSize((int) sourceChain.frames());
        for (int n = 0; n <= turns; n++)
            assertThat(y[start + n]).as("frame %d of the loop", n)
                    .isCloseTo(Math.cos(cycles * Math.PI * n / turns) + 0.3 * Math.cos(31 * Math.PI * n / turns), within(3e-6));
    }

    @Test void silenceIsFoundAndCutAtZeroCrossings() throws Exception {
        double[] x = signal(44_100, n -> n < 8000 || n >= 30_000 ? 0.0002 * Math.sin(0.5 * n) : 0.5 * Math.sin(2 * Math.PI * (n - 8000) / 147));
        Measurement.Survey survey = survey(file(x), -60);
        FrameRange sounding = survey.sounding();
        assertThat(sounding.start()).isBetween(7500L, 8000L);
        assertThat(sounding.end()).isBetween(30_000L, 30_700L);
        assertThat(x[(int) sounding.start() - 1] <= 0).as("a zero crossing").isNotEqualTo(x[(int) sounding.start()] <= 0);
    }

    @Test void aSoundFromEdgeToEdgeLosesNothing() throws Exception {
        Measurement.Survey survey = survey(file(signal(5000, n -> 0.5 * Math.cos(0.2 * n))), -60);
        assertThat(survey.sounding()).isEqualTo(new FrameRange(0, 5000));
        assertThat(survey(file(new double[5000]), -60).sounding()).as("silence is not cut to nothing").isEqualTo(new FrameRange(0, 5000));
    }

    /// What (L+R)/2 loses: nothing of sides that are alike, 3 dB of uncorrelated sides and of one side alone, all of opposites.
    @ParameterizedTest @CsvSource({"1,1,0", "1,0,3.01", "1,-1,1000"}) void foldingLosesWhatTheSidesDoNotShare(double left, double right, double lossDb)
            throws Exception {
        double[] x = signal(10_000, n -> Math.sin(0.1 * n));
        double loss = survey(file(signal(10_000, n -> left * x[n]), signal(10_000, n -> right * x[n])), -60).sides().orElseThrow().foldLossDb();
        if (lossDb == 1000)
            assertThat(loss).as("nothing is left").isEqualTo(200);
        else
            assertThat(loss).isCloseTo(lossDb, within(0.01));
        assertThat(survey(file(x), -60).sides()).isEmpty();
    }

    @Test void everySoundIsListenedToOnce() throws Exception {
        SoundFile file = file(signal(2000, n -> 0.5 * Math.sin(0.1 * n)));
        Measurement first = survey(file, -60);
        Files.delete(file.path());
        assertThat(survey(file, -60)).isSameAs(first);
        book.clear();
        Measurement.Request request = new Measurement.OfFile(file, OptionalDouble.empty());
        book.measure(request, () -> false);
        assertThat(book.find(request)).containsInstanceOf(Measurement.Failed.class);
    }

    /// What comes to the level stage as the file holds it needs no second listening.
    @Test void theFileAndItsUntouchedFrontAreListenedToOnce() throws Exception {
        SoundFile file = file(signal(2000, n -> 0.5 * Math.sin(0.1 * n)));
        Measurement.Request whole = new Measurement.OfFile(file, OptionalDouble.empty()),
                sourceChain = new Measurement.OfSourceChain(file, SourceChain.whole(file), Ends.NONE);
        book.measure(whole, () -> false);
        Files.delete(file.path());
        book.measure(sourceChain, () -> false);
        assertThat(((Measurement.ChainLevels) book.find(sourceChain).orElseThrow()).levels())
                .isEqualTo(((Measurement.Survey) book.find(whole).orElseThrow()).levels());
    }

    @Test void whatShrankMeanwhileIsToldAsFailed() throws Exception {
        SoundFile file = file(signal(50_000, n -> 0.5 * Math.sin(0.1 * n)));
        try (var channel = java.nio.channels.FileChannel.open(file.path(), StandardOpenOption.WRITE)) {
            channel.truncate(1000);
        }
        Measurement.Request request = new Measurement.OfSourceChain(file, SourceChain.whole(file), Ends.NONE);
        book.measure(request, () -> false);
        assertThat(book.find(request).orElseThrow()).isInstanceOfSatisfying(Measurement.Failed.class, f -> assertThat(f.reason()).contains("became shorter"));
    }

    @Test void aStoppedListeningLeavesNothingBehind() throws Exception {
        SoundFile file = file(signal(50_000, n -> 0.5 * Math.sin(0.1 * n)));
        Measurement.Request request = new Measurement.OfFile(file, OptionalDouble.empty());
        book.measure(request, () -> true);
        assertThat(book.find(request)).isEmpty();
    }
}
