package ablecrate.verify;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.audio.Rounding;
import ablecrate.audio.SampleSum;
import ablecrate.codec.OutputShape;
import ablecrate.codec.Quality;
import ablecrate.codec.SoundFormats;
import ablecrate.codec.SoundSink;
import ablecrate.disk.Checksums;
import ablecrate.dsp.LevelMeasure;
import ablecrate.dsp.LevelMeter;
import ablecrate.dsp.Levels;
import ablecrate.instrument.Broadcast;
import ablecrate.instrument.Cue;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Mapping;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.Span;
import ablecrate.instrument.TextField;
import java.io.BufferedOutputStream;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Random;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/// Every check refuses a file that is spoilt in just its respect, and none of the others minds.
class SpoiltFilesTest {
    private static final int RATE = 44_100, FRAMES = 22_050;
    private static final SoundMetadata METADATA = new SoundMetadata(List.of(Loop.sustain(new FrameRange(5_000, 15_000), LoopMode.FORWARD)),
            new Mapping(Optional.of(57), -12.5, Optional.of(new Span(50, 60)), Optional.of(new Span(1, 90)), Optional.of(-3.0)),
            List.of(new Cue(1, 9_000, 0, Optional.of("turn"), Optional.empty())),
            Optional.of(new Broadcast("orchard", "puppet theatre", "R1", "2026-11-27", "10:00:00", 44_100, 1, "", Optional.empty(), "")),
            Map.of(TextField.NAME, "reed"));
    @TempDir Path folder;

    private static double[][] sound() {
        Random random = new Random(8);
        return new double[][]{Sounds.signal(FRAMES, n -> 0.4 * Math.sin(0.03 * n) * Math.exp(-n / 9000.0) + 0.02 * random.nextGaussian()),
            Sounds.signal(FRAMES, n -> 0.3 * Math.sin(0.05 * n) + 0.02 * random.nextGaussian())};
    }

    /// A file as it was written, and what was handed to it.
    private record Made(Path file, Rendered rendered) {}

    private Made write(String name, String format, OutputShape shape, SoundMetadata metadata, double[][] planes, Expectation.Promises promises)
            throws Exception {
        Path file = folder.resolve(name);
        double[][] handed = Stream.of(planes).map(double[]::clone).toArray(double[][]::new);
        boolean isLossy = SoundFormats.written(format).orElseThrow().capabilities().compressing().isLossy();
        Rounding rounding = new Rounding(shape.depth(), 2);
        if (!isLossy) rounding.round(handed, handed[0].length);
        SampleSum sum = new SampleSum(handed.length, shape.depth());
        sum.add(handed, handed[0].length);
        LevelMeter meter = new LevelMeter(shape.rateHz(), handed.length);
        meter.add(handed, 0, handed[0].length);
        Likeness likeness = Likeness.ofRendered(shape.rateHz(), handed.length);
        likeness.add(handed, handed[0].length);
        try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(file));
                SoundSink sink = SoundFormats.written(format).orElseThrow().sink(shape, metadata, List.of(), out, folder.resolve("spool"))) {
            sink.write(handed, handed[0].length);
            sink.finish();
        }
        Optional<Levels> levels = promises.equals(Expectation.Promises.NONE) ? Optional.empty() : Optional.of(meter.finish());
        return new Made(file,
                new Rendered(sum.value(), levels, rounding.clippedSamples(), 0, List.of(), isLossy ? Optional.of(likeness.finish()) : Optional.empty()));
    }

    private static OutputShape shape(int rate, int channels, Depth depth) { return new OutputShape(rate, channels, depth, FRAMES); }

    private static List<Outcome> compare(Path file, String format, OutputShape shape, SoundMetadata metadata, Rendered rendered, Expectation.Promises promises)
            throws Exception {
        boolean isLossy = SoundFormats.written(format).orElseThrow().capabilities().compressing().isLossy();
        Expectation expected = new Expectation(Checksums.crc32c(file), format, shape, metadata,
                isLossy ? new Expectation.Audio.Compressed(rendered) : new Expectation.Audio.Exact(rendered), promises);
        return Comparison.of(expected, Finding.of(file, expected, () -> false).orElseThrow());
    }

    private static List<Check> failed(List<Outcome> outcomes) {
        return outcomes.stream().filter(Outcome.Failed.class::isInstance).map(Outcome::check).toList();
    }

    private static List<Check> missed(List<Outcome> outcomes) {
        return outcomes.stream().filter(Outcome.Missed.class::isInstance).map(Outcome::check).toList();
    }

    @Test void aFileThatIsAsItShallBeIsHeldInEveryRespect() throws Exception {
        for (String format : List.of("wav", "aiff", "flac")) {
            SoundMetadata metadata = format.equals("aiff") ? SoundMetadata.NONE : METADATA;
            Made made = write("right." + format, format, shape(RATE, 2, Depth.INT_24), metadata, sound(), Expectation.Promises.NONE);
            List<Outcome> outcomes = compare(made.file(), format, shape(RATE, 2, Depth.INT_24), metadata, made.rendered(), Expectation.Promises.NONE);
            assertThat(outcomes).as(format).allMatch(Outcome.Held.class::isInstance).extracting(Outcome::check).contains(Check.BYTES, Check.CONTAINER,
                    Check.RATE, Check.DEPTH, Check.CHANNELS, Check.LENGTH, Check.AUDIO);
            if (format.equals("wav"))
                assertThat(outcomes).extracting(Outcome::check).contains(Check.LOOPS, Check.MAPPING, Check.CUES, Check.BROADCAST, Check.TEXTS);
        }
    }

    /// What a file is, against what it was to be.
    private record Spoilt(Check check, String format, OutputShape shape, UnaryOperator<double[][]> audio, UnaryOperator<SoundMetadata> metadata) {
        static Spoilt metadata(Check check, UnaryOperator<SoundMetadata> metadata) {
            return new Spoilt(check, "wav", SpoiltFilesTest.shape(RATE, 2, Depth.INT_24), a -> a, metadata);
        }

        static Spoilt audio(UnaryOperator<double[][]> audio) {
            return new Spoilt(Check.AUDIO, "wav", SpoiltFilesTest.shape(RATE, 2, Depth.INT_24), audio, f -> f);
        }

        static Spoilt shape(Check check, String format, OutputShape shape) { return new Spoilt(check, format, shape, a -> a, f -> f); }
    }

    static Stream<Spoilt> spoilt() {
        return Stream.of(Spoilt.shape(Check.CONTAINER, "aiff", shape(RATE, 2, Depth.INT_24)), Spoilt.shape(Check.RATE, "wav", shape(RATE + 1, 2, Depth.INT_24)),
                Spoilt.shape(Check.DEPTH, "wav", shape(RATE, 2, Depth.INT_32)),
                new Spoilt(Check.CHANNELS, "wav", shape(RATE, 1, Depth.INT_24), a -> new double[][]{a[0]}, f -> f),
                new Spoilt(Check.LENGTH, "wav", new OutputShape(RATE, 2, Depth.INT_24, FRAMES - 1),
                        a -> Stream.of(a).map(p -> java.util.Arrays.copyOf(p, FRAMES - 1)).toArray(double[][]::new), f -> f),
                // One step in one sample; two samples exchanged; the sides exchanged; all one frame later.
                Spoilt.audio(a -> changed(a, 0, 11_111, a[0][11_111] + 0x1p-23)), Spoilt.audio(SpoiltFilesTest::exchanged),
                Spoilt.audio(a -> new double[][]{a[1], a[0]}), Spoilt.audio(SpoiltFilesTest::later), Spoilt.audio(a -> changed(a, 1, FRAMES - 1, 0.9)),
                Spoilt.metadata(Check.LOOPS, f -> f.withLoops(List.of(Loop.sustain(new FrameRange(5_000, 15_001), LoopMode.FORWARD)))),
                Spoilt.metadata(Check.LOOPS, f -> f.withLoops(List.of(Loop.sustain(new FrameRange(5_000, 15_000), LoopMode.ALTERNATING)))),
                Spoilt.metadata(Check.LOOPS, f -> f.withLoops(List.of())),
                Spoilt.metadata(Check.MAPPING, f -> f.withMapping(f.mapping().withRootKey(Optional.of(58)))),
                Spoilt.metadata(Check.MAPPING, f -> f.withMapping(f.mapping().withFineTune(-12.25))),
                Spoilt.metadata(Check.MAPPING, f -> f.withMapping(f.mapping().withGain(Optional.of(-2.0)))),
                Spoilt.metadata(Check.MAPPING, f -> f.withMapping(f.mapping().withRanges(Optional.of(new Span(50, 61)), f.mapping().velocities()))),
                Spoilt.metadata(Check.MAPPING, f -> f.withMapping(f.mapping().withRanges(f.mapping().keys(), Optional.of(new Span(2, 90))))),
                Spoilt.metadata(Check.CUES, f -> f.withCues(List.of(new Cue(1, 9_001, 0, Optional.of("turn"), Optional.empty())))),
                Spoilt.metadata(Check.CUES, f -> f.withCues(List.of(new Cue(1, 9_000, 0, Optional.of("twist"), Optional.empty())))),
                Spoilt.metadata(Check.BROADCAST, f -> f.withBroadcast(f.broadcast().map(b -> b.withTimeReference(44_101)))),
                Spoilt.metadata(Check.BROADCAST, f -> f.withBroadcast(Optional.empty())),
                Spoilt.metadata(Check.TEXTS, f -> f.withTexts(Map.of(TextField.NAME, "read"))));
    }

    private static double[][] changed(double[][] planes, int channel, int frame, double value) {
        planes[channel][frame] = value;
        return planes;
    }

    private static double[][] exchanged(double[][] planes) {
        double first = planes[0][700];
        planes[0][700] = planes[0][701];
        planes[0][701] = first;
        return planes;
    }

    private static double[][] later(double[][] planes) {
        for (double[] plane : planes)
            System.arraycopy(plane.clone(), 0, plane, 1, FRAMES - 1);
        return planes;
    }

    @ParameterizedTest @MethodSource("spoilt") void whatIsSpoiltInOneRespectIsRefusedForIt(Spoilt spoilt) throws Exception {
        Rendered wanted = write("right.wav", "wav", shape(RATE, 2, Depth.INT_24), METADATA, sound(), Expectation.Promises.NONE).rendered();
        SoundMetadata metadata = spoilt.format().equals("wav") ? spoilt.metadata().apply(METADATA) : SoundMetadata.NONE;
        Path file = write("spoilt", spoilt.format(), spoilt.shape(), metadata, spoilt.audio().apply(sound()), Expectation.Promises.NONE).file();
        List<Check> failed = failed(compare(file, "wav", shape(RATE, 2, Depth.INT_24), METADATA, wanted, Expectation.Promises.NONE));
        assertThat(failed).contains(spoilt.check());
        if (spoilt.format().equals("wav") && spoilt.shape().equals(shape(RATE, 2, Depth.INT_24))) assertThat(failed).containsExactly(spoilt.check());
    }

    @Test void otherBytesAndNoSoundAtAllAreRefused() throws Exception {
        Made made = write("right.wav", "wav", shape(RATE, 2, Depth.INT_24), SoundMetadata.NONE, sound(), Expectation.Promises.NONE);
        Expectation expected = new Expectation(Checksums.crc32c(made.file()) + 1, "wav", shape(RATE, 2, Depth.INT_24), SoundMetadata.NONE,
                new Expectation.Audio.Exact(made.rendered()), Expectation.Promises.NONE);
        assertThat(failed(Comparison.of(expected, Finding.of(made.file(), expected, () -> false).orElseThrow()))).containsExactly(Check.BYTES);
        Files.writeString(made.file(), "no sound");
        assertThat(failed(compare(made.file(), "wav", shape(RATE, 2, Depth.INT_24), SoundMetadata.NONE, made.rendered(), Expectation.Promises.NONE)))
                .containsExactly(Check.OPENS);
    }

    @Test void aCopyIsItsSourceBitForBit() throws Exception {
        Made made = write("source.wav", "wav", shape(RATE, 2, Depth.INT_24), METADATA, sound(), Expectation.Promises.NONE);
        Path copy = Files.copy(made.file(), folder.resolve("copy.wav"));
        for (boolean isSpoilt : new boolean[]{false, true}) {
            byte[] bytes = Files.readAllBytes(copy);
            if (isSpoilt) bytes[bytes.length - 1] ^= 1;
            Files.write(copy, bytes);
            Expectation expected = new Expectation(Checksums.crc32c(copy), "wav", shape(RATE, 2, Depth.INT_24), METADATA,
                    new Expectation.Audio.Copied(made.file()), Expectation.Promises.NONE);
            assertThat(failed(Comparison.of(expected, Finding.of(copy, expected, () -> false).orElseThrow())))
                    .isEqualTo(isSpoilt ? List.of(Check.AUDIO) : List.of());
        }
    }

    /// Samples that were cut off are a failure, unless that is what was chosen.
    @Test void whatIsCutOffIsRefusedUnlessChosen() throws Exception {
        double[][] loud = Stream.of(sound()).map(p -> Sounds.signal(FRAMES, n -> 4 * p[n])).toArray(double[][]::new);
        Made made = write("loud.wav", "wav", shape(RATE, 2, Depth.INT_16), SoundMetadata.NONE, loud, Expectation.Promises.NONE);
        for (boolean mayClip : new boolean[]{false, true}) {
            var promises = new Expectation.Promises(Optional.empty(), OptionalDouble.empty(), List.of(), Expectation.Faded.NONE, mayClip);
            assertThat(failed(compare(made.file(), "wav", shape(RATE, 2, Depth.INT_16), SoundMetadata.NONE, made.rendered(), promises)))
                    .isEqualTo(mayClip ? List.of() : List.of(Check.CLIPPING));
        }
    }

    @Test void whatWasAskedForAndNotReachedIsAMissWithItsNumbers() throws Exception {
        Made made = write("a.wav", "wav", shape(RATE, 2, Depth.INT_24), SoundMetadata.NONE, sound(), promises(-20, -1));
        double reached = made.rendered().levels().orElseThrow().loudnessMomentaryMaxLufs().orElseThrow(),
                peak = made.rendered().levels().orElseThrow().truePeakDbtp().orElseThrow();
        assertThat(missed(level(made, promises(reached + 0.09, peak - 0.09)))).isEmpty();
        List<Outcome> off = level(made, promises(reached + 0.11, peak - 0.11));
        assertThat(missed(off)).containsExactly(Check.LEVEL, Check.CEILING);
        assertThat(failed(off)).isEmpty();
        Outcome.Missed level = (Outcome.Missed) off.stream().filter(o -> o.check() == Check.LEVEL).findFirst().orElseThrow();
        assertThat(level.reached()).isEqualTo(Math.rint(reached * 1000) / 1000);
        assertThat(level.text()).startsWith("0.1 dB short of ").endsWith(" LUFS maximum momentary loudness");
        assertThat(missed(level(made, promises(reached - 0.11, peak)))).containsExactly(Check.LEVEL);
    }

    private List<Outcome> level(Made made, Expectation.Promises promises) throws Exception {
        return compare(made.file(), "wav", shape(RATE, 2, Depth.INT_24), SoundMetadata.NONE, made.rendered(), promises);
    }

    private static Expectation.Promises promises(double lufs, double ceiling) {
        return new Expectation.Promises(Optional.of(new Expectation.Level(LevelMeasure.LUFS_M, lufs)), OptionalDouble.of(ceiling), List.of(),
                Expectation.Faded.NONE, false);
    }

    @Test void aClickThatIsStillThereIsAMiss() throws Exception {
        double[][] clicked = {Sounds.sine(300, 0.3, RATE, FRAMES), Sounds.sine(300, 0.3, RATE, FRAMES)};
        clicked[0][12_000] += 0.5;
        Made made = write("click.wav", "wav", shape(RATE, 2, Depth.INT_24), SoundMetadata.NONE, clicked, Expectation.Promises.NONE);
        var promises = new Expectation.Promises(Optional.empty(), OptionalDouble.empty(), List.of(12_000.0 / RATE, 0.1), Expectation.Faded.NONE, false);
        List<Outcome> outcomes = level(made, promises);
        assertThat(missed(outcomes)).containsExactly(Check.CLICKS);
        assertThat(outcomes.getLast().text()).isEqualTo("1 of 2 are no longer heard");
    }

    /// −60 dBFS and two steps of 16 bit are what an end may have: 32.768 + 2 steps.
    @Test void anEndThatShouldBeSilentAndStepsIsAMiss() throws Exception {
        for (int[] steps : new int[][]{{0, 0}, {34, -34}, {36, 0}, {0, 36}}) {
            double[][] sound = sound();
            for (double[] channel : sound) {
                channel[0] = 0;
                channel[FRAMES - 1] = 0;
            }
            sound[1][0] = steps[0] / 32_768.0;
            sound[0][FRAMES - 1] = steps[1] / 32_768.0;
            OutputShape shape = shape(RATE, 2, Depth.INT_16);
            Made made = write("ends.wav", "wav", shape, SoundMetadata.NONE, sound, Expectation.Promises.NONE);
            for (boolean both : new boolean[]{true, false}) {
                var promises = new Expectation.Promises(Optional.empty(), OptionalDouble.empty(), List.of(), new Expectation.Faded(true, both), false);
                List<Outcome> outcomes = compare(made.file(), "wav", shape, SoundMetadata.NONE, made.rendered(), promises);
                boolean isMissed = steps[0] == 36 || both && steps[1] == 36;
                assertThat(missed(outcomes)).isEqualTo(isMissed ? List.of(Check.ENDS) : List.of());
                if (both && steps[1] == 36) assertThat(outcomes.getLast().text()).isEqualTo("starts at silence, ends at -59 dBFS");
            }
        }
    }

    /// Compressed with loss: as long and as loud as what was rendered, and starting where it did; levels are those of what is decoded.
    @Test void compressedSoundsAreMeasuredAsTheyAreDecoded() throws Exception {
        OutputShape shape = new OutputShape(RATE, 2, Depth.FLOAT_32, FRAMES, Quality.of(Quality.Word.HIGH));
        Made right = write("right.mp3", "mp3", shape, SoundMetadata.NONE, sound(), Expectation.Promises.NONE);
        List<Outcome> held = compare(right.file(), "mp3", shape, SoundMetadata.NONE, right.rendered(), promises(-60, -60));
        assertThat(failed(held)).isEmpty();
        assertThat(held).extracting(Outcome::check).contains(Check.AUDIO, Check.LENGTH).doesNotContain(Check.DEPTH);
        double[][] decoded = Sounds.readAll(SoundFormats.byId("mp3").orElseThrow().read(right.file()).open());
        LevelMeter meter = new LevelMeter(RATE, 2);
        meter.add(decoded, 0, FRAMES);
        double peak = meter.finish().truePeakDbtp().orElseThrow();
        assertThat(held.stream().filter(o -> o.check() == Check.CEILING).map(o -> ((Outcome.Missed) o).reached())).singleElement()
                .isEqualTo(Math.rint(peak * 1000) / 1000);
        for (UnaryOperator<double[][]> spoiling : List.<UnaryOperator<double[][]>>of(SpoiltFilesTest::muchLater,
                a -> Stream.of(a).map(p -> Sounds.signal(FRAMES, n -> p[n] * 0.6)).toArray(double[][]::new),
                a -> new double[][]{a[0], new double[FRAMES]})) {
            Path file = write("spoilt.mp3", "mp3", shape, SoundMetadata.NONE, spoiling.apply(sound()), Expectation.Promises.NONE).file();
            assertThat(failed(compare(file, "mp3", shape, SoundMetadata.NONE, right.rendered(), Expectation.Promises.NONE))).containsExactly(Check.AUDIO);
        }
        Path brief = write("brief.mp3", "mp3", new OutputShape(RATE, 2, Depth.FLOAT_32, FRAMES - 500, shape.quality()), SoundMetadata.NONE,
                Stream.of(sound()).map(p -> java.util.Arrays.copyOf(p, FRAMES - 500)).toArray(double[][]::new), Expectation.Promises.NONE).file();
        assertThat(failed(compare(brief, "mp3", shape, SoundMetadata.NONE, right.rendered(), Expectation.Promises.NONE))).contains(Check.LENGTH);
    }

    /// By the delay of a decoder that was forgotten: 529 frames (common practice).
    private static double[][] muchLater(double[][] planes) {
        for (double[] plane : planes)
            System.arraycopy(plane.clone(), 0, plane, 529, FRAMES - 529);
        return planes;
    }

    @Test void aStopEndsTheListening() throws Exception {
        Made made = write("a.wav", "wav", shape(RATE, 2, Depth.INT_24), SoundMetadata.NONE, sound(), Expectation.Promises.NONE);
        Expectation expected = new Expectation(0, "wav", shape(RATE, 2, Depth.INT_24), SoundMetadata.NONE, new Expectation.Audio.Exact(made.rendered()),
                Expectation.Promises.NONE);
        assertThat(Finding.of(made.file(), expected, () -> true)).isEmpty();
    }

    @Test void aDiskThatFailsIsToldAsItTellsItself() throws Exception {
        Made made = write("gone.wav", "wav", shape(48_000, 1, Depth.INT_16), SoundMetadata.NONE, new double[][]{Sounds.sine(440, 0.5, 48_000, FRAMES)},
                Expectation.Promises.NONE);
        Expectation expected = new Expectation(0, "wav", shape(48_000, 1, Depth.INT_16), SoundMetadata.NONE, new Expectation.Audio.Exact(made.rendered()),
                Expectation.Promises.NONE);
        Files.delete(made.file());
        assertThatThrownBy(() -> Finding.of(made.file(), expected, () -> false)).isInstanceOf(NoSuchFileException.class);
    }
}
