package ablecrate.signal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormats;
import ablecrate.destination.SheetCatalogue;
import ablecrate.dsp.Seam;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Mapping;
import ablecrate.instrument.SoundMetadata;
import ablecrate.library.Gathered;
import ablecrate.option.Choice;
import ablecrate.option.PackOptions;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PlannedOutput;
import ablecrate.planner.Planner;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

class LoopThroughRateTest {
    private static final int[] RATES = {22050, 32000, 44100, 48000, 88200, 96000};

    @TempDir Path folder;

    static Stream<Arguments> ratePairs() {
        List<Arguments> pairs = new ArrayList<>();
        for (int from : RATES)
            for (int to : RATES)
                if (from != to) pairs.add(Arguments.of(from, to));
        return pairs.stream();
    }

    /// A tone of whole cycles in a loop, before and in it; behind the loop the file goes on with something else.
    private record Case(int from, int to, int loopFrames, int start, double[] harmonics) {
        static Case random(Random random, int from, int to, int loopFrames) {
            int cycles = 1 + random.nextInt(3);
            double highest = 0.42 * Math.min(from, to) * loopFrames / from;
            double[] harmonics = new double[(int) highest + 1];
            for (int k = cycles; k < harmonics.length; k += cycles)
                harmonics[k] = (random.nextBoolean() ? 0.3 : -0.3) * cycles / k;
            return new Case(from, to, loopFrames, random.nextInt(4) == 0 ? 0 : random.nextInt(3000), harmonics);
        }

        double at(double frame) {
            double sum = 0;
            for (int k = 1; k < harmonics.length; k++)
                if (harmonics[k] != 0) sum += harmonics[k] * Math.sin(2 * Math.PI * k * (frame - start) / loopFrames);
            return sum;
        }

        FrameRange loop() { return new FrameRange(start, start + loopFrames); }
    }

    private record Packed(double[] audio, FrameRange loop, double tunedCents) {
        double[] oneLoop() { return Arrays.copyOfRange(audio, (int) loop.start(), (int) loop.end()); }
    }

    private Packed pack(Case c) throws Exception {
        double[] x = Sounds.signal(c.start + c.loopFrames + 500, n -> n < c.start + c.loopFrames ? c.at(n) : 0.5 * Math.sin(0.7 * n));
        Mapping mapping = Mapping.NONE.withRootKey(Optional.of(60));
        SoundMetadata metadata = SoundMetadata.NONE.withLoops(List.of(Loop.sustain(c.loop(), LoopMode.FORWARD))).withMapping(mapping);
        Path path = Sounds.write(folder.resolve("loop.wav"), "wav", c.from, Depth.FLOAT_64, metadata, x);
        SoundFile file = SoundFormats.byId("wav").orElseThrow().read(path);
        PackingItem item = Planner.plan(List.of(new Gathered(path, path.getFileName(), new Gathered.Content.Sound(file))), new SheetCatalogue().find("files"),
                PackOptions.DEFAULT.withRate(Choice.of(c.to))).items().getFirst();
        PlannedOutput output = item.outputs().getFirst();
        double[] audio = Sounds.readAll(new SoundPath().open(file, output.sourceChain(), output.outputChain()))[0];
        assertThat((long) audio.length).isEqualTo(output.shape().frames());
        Mapping after = output.metadata().mapping();
        return new Packed(audio, output.metadata().loops().getFirst().frames(), after.fineTuneCents() + 100 * (60 - after.rootKey().orElse(60)));
    }

    /// Played back looped, what comes out has the source's pitch, its lines and no others, and no step at the seam.
    @ParameterizedTest @MethodSource("ratePairs") void aLoopKeepsPitchAndSeam(int from, int to) throws Exception {
        Random random = new Random(31L * from + to);
        for (int loopFrames : new int[]{32, 33 + random.nextInt(100), 133 + random.nextInt(600), 733 + random.nextInt(1267), 2000}) {
            Case c = Case.random(random, from, to, loopFrames);
            Packed packed = pack(c);
            double[] loop = packed.oneLoop();
            assertThat(centsOff(c, loop, packed.tunedCents)).as("%s", c).isCloseTo(0, within(0.05));
            assertThat(strangestLineDb(c, loop)).as("%s", c).isLessThan(-90);
            // One cycle alone does not tell a step from its own shape; there the lines speak.
            if (loopFrames < 2 * Seam.SHORTEST || loop.length < 2 * Seam.SHORTEST) continue;
            double before = Seam.stepDb(around(c, c.loopFrames, -1), around(c, 0, 1)), after = Seam.stepDb(tail(loop), head(loop));
            assertThat(after).as("%s", c).isLessThanOrEqualTo(Math.max(before, -60) + 1);
        }
    }

    /// The same measurements on a loop that was only rounded: they find what is wrong with it.
    @Test void aLoopThatIsOnlyRoundedFails() throws Exception {
        Case c = new Case(44100, 48000, 100, 2000, new double[]{0, 0.3, 0.2, 0.1});
        double[] x = Sounds.signal(2600, c::at);
        double[] y = Sounds.readAll(new ablecrate.dsp.RateConverters().convert(Sounds.source(44100, x), 48000))[0];
        int start = (int) Math.round(2000 * 160 / 147.0);
        double[] rounded = Arrays.copyOfRange(y, start, start + 109);
        assertThat(Math.abs(centsOff(c, rounded, 0))).isGreaterThan(2);
        assertThat(strangestLineDb(c, rounded)).isGreaterThan(-60);
    }

    private static double[][] around(Case c, int frame, int direction) {
        int n = Math.min(Seam.AROUND, c.loopFrames);
        return new double[][]{Sounds.signal(n, i -> c.at(c.start + frame + (direction < 0 ? i - n : i)))};
    }

    private static double[][] tail(double[] loop) { return new double[][]{Arrays.copyOfRange(loop, Math.max(0, loop.length - Seam.AROUND), loop.length)}; }

    private static double[][] head(double[] loop) { return new double[][]{Arrays.copyOf(loop, Math.min(Seam.AROUND, loop.length))}; }

    /// How far two seconds of the loop, tuned, are from the source's pitch: by how the phase of the lowest harmonic drifts against it.
    private static double centsOff(Case c, double[] loop, double tunedCents) {
        int lowest = 1;
        while (c.harmonics[lowest] == 0)
            lowest++;
        double wanted = (double) c.from * lowest / c.loopFrames, perFrame = 2 * Math.PI * wanted / c.to / Math.pow(2, tunedCents / 1200);
        int half = c.to / 2;
        double drift = 0;
        for (int piece = 0; piece < 3; piece++)
            drift += Math.IEEEremainder(phase(loop, perFrame, (piece + 1) * half, (piece + 2) * half) - phase(loop, perFrame, piece * half, (piece + 1) * half),
                    2 * Math.PI) / half / 3;
        return 1200 * Math.log(1 + drift / perFrame) / Math.log(2);
    }

    private static double phase(double[] loop, double perFrame, int from, int to) {
        double re = 0, im = 0;
        for (int n = from; n < to; n++) {
            double window = 0.5 - 0.5 * Math.cos(2 * Math.PI * (n - from) / (to - from)), v = window * loop[n % loop.length];
            re += v * Math.cos(perFrame * n);
            im -= v * Math.sin(perFrame * n);
        }
        return Math.atan2(im, re);
    }

    /// A loop that goes round has lines at whole multiples of its own pitch only; how far the worst differs from the source's, against the strongest.
    private static double strangestLineDb(Case c, double[] loop) {
        int m = loop.length;
        double[] cos = Sounds.signal(m, i -> Math.cos(2 * Math.PI * i / m)), sin = Sounds.signal(m, i -> Math.sin(2 * Math.PI * i / m));
        double strongest = 0, worst = 0;
        for (int k = 0; k <= m / 2; k++) {
            double re = 0, im = 0;
            for (int n = 0, turn = 0; n < m; n++, turn = (turn + k) % m) {
                re += loop[n] * cos[turn];
                im += loop[n] * sin[turn];
            }
            double found = Math.hypot(re, im) * 2 / m, wanted = k < c.harmonics.length ? Math.abs(c.harmonics[k]) : 0;
            strongest = Math.max(strongest, wanted);
            worst = Math.max(worst, Math.abs(found - wanted));
        }
        return Sounds.db(worst / strongest);
    }
}
