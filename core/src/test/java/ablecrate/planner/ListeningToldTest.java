package ablecrate.planner;

import static ablecrate.Sounds.signal;
import static ablecrate.Sounds.sine;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.change.Change;
import ablecrate.change.Property;
import ablecrate.change.Verdict;
import ablecrate.destination.ChannelChoice;
import ablecrate.destination.SheetCatalogue;
import ablecrate.dsp.FadeShape;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.SoundMetadata;
import ablecrate.library.Gathered;
import ablecrate.library.Gatherer;
import ablecrate.option.Choice;
import ablecrate.option.Fade;
import ablecrate.option.ItemEdit;
import ablecrate.option.Limits;
import ablecrate.option.Mending;
import ablecrate.option.MonoLaw;
import ablecrate.option.Overs;
import ablecrate.option.PackOptions;
import ablecrate.option.Treatment;
import ablecrate.plan.PackingItem;
import ablecrate.signal.Measurement;
import ablecrate.signal.Measurements;
import ablecrate.signal.SoundPath;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;

/// What only listening finds is told before anything is packed; the figures are worked out by hand here.
class ListeningToldTest {
    private static final int RATE = 44_100;

    @TempDir Path folder;

    private PackingItem item(Path file, PackOptions options, ItemEdit edit) throws Exception {
        return ListeningPlanner
                .plan(Gatherer.readAll(Gatherer.find(List.of(file), () -> false)), new SheetCatalogue().find("files"), options, Map.of(file, edit),
                        new Measurements(new SoundPath()), () -> false, (_, _) -> {})
                .items().getFirst();
    }

    private static String told(PackingItem item, Property property) {
        return item.changes().stream().filter(c -> c.property() == property).map(Change::reason).collect(Collectors.joining("; "));
    }

    private static PackOptions treated(Treatment treatment) { return PackOptions.DEFAULT.withTreatment(treatment); }

    /// Nobody listens for it alone, but where a sound was heard for another reason, what lies beyond full scale is told: twice full scale is 6.02 dB.
    @ParameterizedTest @CsvSource({"2,LIMIT,6.02,true", "2,CLIP,6.02,false", "0.9,LIMIT,,false"}) void whatIsKnownToLieBeyondFullScaleIsTold(double amplitude,
            Overs overs, Double db, boolean isHeld) throws Exception {
        Path file = Sounds.wav(folder.resolve("loud.wav"), RATE, Depth.FLOAT_32, sine(441, amplitude, RATE, RATE));
        List<Gathered> gathered = Gatherer.readAll(Gatherer.find(List.of(file), () -> false));
        Measurements heard = new Measurements(new SoundPath());
        heard.measure(new Measurement.OfFile(gathered.getFirst().sound().orElseThrow(), OptionalDouble.empty()), () -> false);
        PackOptions options = treated(Treatment.NONE.withLimits(Limits.NONE.withOvers(overs))).withDepth(Choice.of(Depth.INT_16));
        PackingItem item = Planner.plan(gathered, new SheetCatalogue().find("files"), options, Map.of(), heard::find).items().getFirst();
        assertThat(item.outputs().getFirst().outputChain().hold().isPresent()).isEqualTo(isHeld);
        assertThat(item.change(Property.LEVEL).flatMap(Change::numbers).map(Change.Numbers::before).map(v -> Math.rint(v * 100) / 100))
                .isEqualTo(Optional.ofNullable(db));
    }

    /// A sine and the same later by an angle: their mean is lower by the cosine of half of it.
    @ParameterizedTest @CsvSource({"0,''", "60,''", "140,9.3", "175,27.2", "180,nothing is left"}) void sidesThatCancelAreTold(int degrees, String told)
            throws Exception {
        double angle = Math.toRadians(degrees);
        Path file = Sounds.wav(folder.resolve("wide.wav"), RATE, Depth.FLOAT_64, sine(441, 0.5, RATE, RATE),
                signal(RATE, n -> 0.5 * Math.sin(2 * Math.PI * 441 * n / RATE - angle)));
        PackingItem folded = item(file, PackOptions.DEFAULT.withChannels(Optional.of(ChannelChoice.MONO)), ItemEdit.NONE);
        if (told.isEmpty())
            assertThat(told(folded, Property.CHANNELS)).doesNotContain("cancel");
        else
            assertThat(told(folded, Property.CHANNELS)).contains("the sides cancel").contains(told);
        for (MonoLaw side : List.of(MonoLaw.LEFT, MonoLaw.RIGHT))
            assertThat(told(item(file, PackOptions.DEFAULT.withChannels(Optional.of(ChannelChoice.MONO)), ItemEdit.NONE.withMonoLaw(Optional.of(side))),
                    Property.CHANNELS)).as("one side alone loses nothing").doesNotContain("cancel");
    }

    /// A burst of five milliseconds under a fade-in of ten, and the same burst behind the fade. What is lost is summed sample by sample.
    @ParameterizedTest @EnumSource(FadeShape.class) void aFadeThatEatsTheAttackIsToldWithWhatIsLost(FadeShape shape) throws Exception {
        PackOptions fading = treated(Treatment.NONE.withFadeIn(new Fade(10, shape)));
        int fade = RATE / 100, burst = RATE / 200;
        for (int start : new int[]{0, RATE / 5}) {
            double[] x = signal(RATE / 2, n -> n >= start && n < start + burst ? 0.9 * Math.sin(0.3 * n + 1) : 0);
            Path file = Sounds.wav(folder.resolve("burst.wav"), RATE, Depth.FLOAT_64, x);
            String told = told(item(file, fading, ItemEdit.NONE), Property.FADES);
            assertThat(told).contains("10 ms in, " + shape.label());
            if (start > 0) {
                assertThat(told).doesNotContain("eats");
                continue;
            }
            double all = 0, left = 0;
            for (int n = 0; n < burst; n++) {
                all += x[n] * x[n];
                left += x[n] * x[n] * Math.pow(shape.fadeIn((double) n / fade), 2);
            }
            Matcher lost = Pattern.compile("the fade-in eats the attack: ([0-9.]+) dB of its first 10 ms").matcher(told);
            assertThat(lost.find()).as(told).isTrue();
            assertThat(Double.parseDouble(lost.group(1))).isCloseTo(10 * Math.log10(all / left), within(0.3));
        }
    }

    @Test void fadesEndWhereALoopBegins() throws Exception {
        SoundMetadata looped = SoundMetadata.NONE.withLoops(List.of(Loop.sustain(new FrameRange(441, 40_000), LoopMode.FORWARD)));
        Path file = Sounds.write(folder.resolve("loop.wav"), "wav", RATE, Depth.INT_24, looped, sine(441, 0.5, RATE, RATE));
        PackingItem item = item(file, treated(Treatment.NONE.withFadeIn(new Fade(50, FadeShape.LINEAR)).withFadeOut(new Fade(20, FadeShape.S))), ItemEdit.NONE);
        assertThat(told(item, Property.FADES)).contains("10 ms in, linear (shortened, the loop begins there)").contains("20 ms out, S");
        assertThat(item.outputs().getFirst().outputChain().ends().fadeInFrames()).isEqualTo(441);
        assertThat(item.outputs().getFirst().outputChain().ends().fadeOutFrames()).isEqualTo(882);
        assertThat(item.verdict()).isEqualTo(Verdict.ADJUSTED);
        PackingItem own = item(file, PackOptions.DEFAULT, ItemEdit.NONE.withFadeIn(Optional.of(5.0)));
        assertThat(own.outputs().getFirst().outputChain().ends().fadeInFrames()).as("of this sound alone").isEqualTo(221);
    }

    @Test void aLoopFromTheFirstFrameHasNoRoomForFadeOrCrossfade() throws Exception {
        SoundMetadata looped = SoundMetadata.NONE.withLoops(List.of(Loop.sustain(new FrameRange(0, RATE), LoopMode.FORWARD)));
        Path file = Sounds.write(folder.resolve("loop.wav"), "wav", RATE, Depth.INT_24, looped, sine(441, 0.5, RATE, RATE));
        PackingItem item = item(file, treated(Treatment.NONE.withFadeIn(new Fade(5, FadeShape.LINEAR)).withLoopCrossfade(20)), ItemEdit.NONE);
        assertThat(told(item, Property.FADES)).contains("no fade-in: the loop reaches there");
        assertThat(told(item, Property.LOOPS)).contains("no room for a crossfade before the loop");
        assertThat(item.outputs().getFirst().outputChain().ends().fadeInFrames()).isZero();
        assertThat(item.change(Property.LOOPS).orElseThrow().before()).isEqualTo("20 ms crossfade asked for");
        assertThat(item.verdict()).isEqualTo(Verdict.ADJUSTED);
        assertThat(item.outputs().getFirst().isVerbatim()).as("nothing is done to it").isTrue();
        SoundMetadata alternating = SoundMetadata.NONE.withLoops(List.of(Loop.sustain(new FrameRange(9000, RATE), LoopMode.ALTERNATING)));
        Path other = Sounds.write(folder.resolve("back.wav"), "wav", RATE, Depth.INT_24, alternating, sine(441, 0.5, RATE, RATE));
        assertThat(told(item(other, treated(Treatment.NONE.withLoopCrossfade(20)), ItemEdit.NONE), Property.LOOPS)).contains("has no seam to blend");
    }

    /// A loop that goes back and forth meets itself as loud as it was.
    @Test void aRiseWithinALoopIsToldWhereItIsDone() throws Exception {
        Path file = Sounds.write(folder.resolve("loop.wav"), "wav", RATE, Depth.INT_24, SoundMetadata.NONE, sine(441, 0.5, RATE, RATE));
        for (LoopMode mode : List.of(LoopMode.FORWARD, LoopMode.ALTERNATING)) {
            PackingItem item = item(file, PackOptions.DEFAULT,
                    ItemEdit.NONE.withLoops(Optional.of(List.of(Loop.sustain(new FrameRange(9000, 20_000), mode)))).withLoopRise(Optional.of(4.5)));
            boolean isRaised = mode == LoopMode.FORWARD;
            assertThat(item.changes().stream().anyMatch(c -> c.reason().contains("raised by 4.5 dB up to its end"))).isEqualTo(isRaised);
            assertThat(item.outputs().getFirst().audioChanges()).isEqualTo(isRaised);
        }
    }

    /// Half of full scale off, in percent and in dBFS; and one too small to hear.
    @ParameterizedTest @CsvSource({"0.25,25.00 %,−12.0 dBFS", "0.01,1.00 %,−40.0 dBFS", "0.000001,,"}) void anOffsetIsToldAndTakenOff(double offset,
            String before,
            String told) throws Exception {
        Path file = Sounds.wav(folder.resolve("off.wav"), RATE, Depth.FLOAT_64, signal(RATE, n -> offset + 0.1 * Math.sin(2 * Math.PI * 441 * n / RATE)));
        PackingItem item = item(file, treated(Treatment.NONE.withOffsetRemoved(true)), ItemEdit.NONE);
        assertThat(item.outputs().getFirst().isVerbatim()).isEqualTo(before == null);
        if (before == null) return;
        assertThat(item.change(Property.OFFSET).orElseThrow().before()).isEqualTo(before);
        assertThat(told(item, Property.OFFSET)).contains(told.replace('−', '-'));
        double[] packed = Sounds.readAll(new SoundPath().open(item.outputs().getFirst().source(), item.outputs().getFirst().sourceChain(),
                item.outputs().getFirst().outputChain()))[0];
        assertThat(java.util.stream.DoubleStream.of(packed).average().orElseThrow()).isCloseTo(0, within(1e-12));
    }

    /// The sum of the samples stands in the head of a FLAC file (RFC 9639, section 8.2); one bit of it is turned.
    @Test void aFlacFileWhoseSumIsWrongIsTold() throws Exception {
        Path file = Sounds.write(folder.resolve("sum.flac"), "flac", RATE, Depth.INT_16, SoundMetadata.NONE, sine(441, 0.5, RATE, RATE));
        PackOptions looking = PackOptions.DEFAULT.withMending(Mending.NONE.withLooking(true));
        assertThat(told(item(file, looking, ItemEdit.NONE), Property.DAMAGE)).isEmpty();
        byte[] bytes = Files.readAllBytes(file);
        bytes[8 + 18] ^= 1;
        Files.write(file, bytes);
        PackingItem item = item(file, looking, ItemEdit.NONE);
        assertThat(told(item, Property.DAMAGE)).contains("the file's own checksum differs");
        assertThat(item.verdict()).isEqualTo(Verdict.REDUCED);
    }
}
