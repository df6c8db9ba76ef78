package ablecrate.pack;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Optional;
import ablecrate.instrument.Cue;
import ablecrate.instrument.Broadcast;
import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.codec.FileKind;
import ablecrate.destination.SheetCatalogue;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.SoundMetadata;
import ablecrate.library.Gathered;
import ablecrate.library.Gatherer;
import ablecrate.library.Stems;
import ablecrate.option.OptionValues;
import ablecrate.plan.PackingList;
import ablecrate.planner.ListeningPlanner;
import ablecrate.signal.Measurements;
import ablecrate.signal.SoundPath;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/// The tracks of one piece, each a file, stay together.
class StemsTest {
    private static final int RATE = 8_000, FRAMES = 6 * RATE;

    @TempDir Path folder;

    /// A tone from one frame to another, in a file of its own.
    private Path stem(String name, int rateHz, double from, double to, double peak) throws Exception {
        Path file = folder.resolve("in").resolve(name);
        Files.createDirectories(file.getParent());
        return Sounds.write(file, "wav", rateHz, Depth.INT_24, SoundMetadata.NONE, Sounds.signal(6 * rateHz,
                n -> n >= from * rateHz && n < to * rateHz ? peak * Math.sin(2 * Math.PI * 500 * (n - from * rateHz) / rateHz) : 0));
    }

    private PackingList plan(Map<String, Object> said) throws Exception {
        return ListeningPlanner.plan(gathered(), new SheetCatalogue().find("files"), OptionValues.options(said), Map.of(), new Measurements(new SoundPath()),
                () -> false, (_, _) -> {});
    }

    private List<Gathered> gathered() throws Exception { return Gatherer.readAll(Gatherer.find(List.of(folder.resolve("in")), () -> false)); }

    private Map<String, double[]> packed(Map<String, Object> said) throws Exception {
        Path out = folder.resolve("out" + said.hashCode());
        PackingSlip slip = new Packer(plan(said), new SoundPath(), 2, new StopSignal(), _ -> {}, InstantSource.system()).packInto(out);
        assertThat(slip.isAllPacked()).isTrue();
        Map<String, double[]> sounds = new TreeMap<>();
        for (PackingSlip.Item item : slip.items())
            for (PackingSlip.Output o : item.outputs())
                sounds.put(Path.of(o.path()).getFileName().toString().replace(".wav", ""),
                        Sounds.readAll(((FileKind.Sound) FileKind.of(out.resolve(o.path()))).read(out.resolve(o.path())).open())[0]);
        return sounds;
    }

    private static double peak(double[] samples) { return 20 * Math.log10(Arrays.stream(samples).map(Math::abs).max().orElse(0)); }

    private static int first(double[] samples) {
        int n = 0;
        while (n < samples.length && Math.abs(samples[n]) < 1e-3)
            n++;
        return n;
    }

    private void overture() throws Exception {
        stem("overture bells.wav", RATE, 1, 3, 0.5);
        stem("overture drums.wav", RATE, 0.5, 4, 0.25);
        stem("overture harp.wav", RATE, 2, 5, 0.125);
    }

    @Test void theyGetOneGain() throws Exception {
        overture();
        Map<String, double[]> packed = packed(Map.of("level", "peak:-3"));
        assertThat(peak(packed.get("overture bells"))).as("the loudest is at the target").isCloseTo(-3, within(0.01));
        assertThat(peak(packed.get("overture bells")) - peak(packed.get("overture harp"))).as("the steps between them stay").isCloseTo(12.04, within(0.02));
        assertThat(peak(packed(Map.of("level", "peak:-3", "stems", "false")).get("overture harp"))).as("unless each goes by itself").isCloseTo(-3,
                within(0.01));
    }

    @Test void theyAreTrimmedToTheSameStartAndEnd() throws Exception {
        overture();
        Map<String, double[]> packed = packed(Map.of("trim", "-60"));
        assertThat(packed.values()).extracting(s -> s.length).as("from the first to the last that sounds").allMatch(n -> Math.abs(n - 4.5 * RATE) <= 60);
        assertThat(first(packed.get("overture bells")) - first(packed.get("overture drums"))).as("half a second behind, as it was").isCloseTo(RATE / 2,
                within(2));
        assertThat(plan(Map.of("trim", "-60")).items()).allSatisfy(
                i -> assertThat(i.changes()).anySatisfy(c -> assertThat(c.text().reason()).endsWith("as all stems of the folder")));
        assertThat(packed(Map.of("trim", "-60", "stems", "false")).get("overture harp").length).isCloseTo(3 * RATE, within(60));
    }

    /// A silent track says nothing of where the others begin; one of another rate begins at the same time.
    @Test void aSilentOneGoesWithTheOthers() throws Exception {
        overture();
        stem("overture voice.wav", RATE, 0, 0, 0);
        stem("overture bass.wav", 2 * RATE, 0.75, 2, 0.5);
        Map<String, double[]> packed = packed(Map.of("trim", "-60", "rate", Integer.toString(RATE)));
        assertThat(packed.values()).extracting(s -> s.length).allMatch(n -> Math.abs(n - 4.5 * RATE) <= 60);
        assertThat(first(packed.get("overture bass")) - first(packed.get("overture drums"))).isCloseTo(RATE / 4, within(8));
    }

    /// However long each is, and at whatever rate: they end on the same frame, with silence behind what was there.
    @Test void theyEndTogetherWhereThatIsWanted() throws Exception {
        overture();
        stem("overture bass.wav", 44_100, 0.75, 2, 0.5);
        Sounds.write(folder.resolve("in/overture voice.wav"), "wav", 22_050, Depth.INT_16, SoundMetadata.NONE,
                Sounds.signal(10 * 22_050 + 77, n -> 0.25 * Math.sin(2 * Math.PI * 440 * n / 22_050)));
        Map<String, double[]> packed = packed(Map.of("equal-length", "true", "rate", "48000"));
        assertThat(packed.values()).extracting(s -> s.length).as("on the next 40 ms").containsOnly((int) Math.round(10.04 * 48_000));
        assertThat(first(packed.get("overture drums"))).as("where it began").isCloseTo(24_000, within(60));
        assertThat(Arrays.stream(packed.get("overture bells"), 6 * 48_000 + 100, 481_920).map(Math::abs).max().orElseThrow()).as("nothing but dither")
                .isLessThan(3e-7);
        assertThat(plan(Map.of("equal-length", "true")).items()).anySatisfy(
                i -> assertThat(i.changes()).anySatisfy(c -> assertThat(c.text().reason()).contains("s of silence added at the end")));
        assertThat(packed(Map.of("equal-length", "true", "trim", "-60", "rate", "48000")).values()).extracting(s -> s.length)
                .as("from the first to the last that sounds").containsOnly((int) Math.round((10.04 - 0) * 48_000));
    }

    /// EBU Tech 3285: a time reference counts frames since midnight, at the rate of the file. A bar of 4/4 at 120 bpm lasts 2 s, seven of them 14 s.
    @Test void whatBeginsLaterByItsStampGetsSilenceInFront() throws Exception {
        long tenOClock = 36_000;
        Files.createDirectories(folder.resolve("in"));
        for (Map.Entry<String, Double> stem : Map.of("drums", 0.0, "bells", 2.5, "harp", 14.0).entrySet()) {
            int rate = stem.getKey().equals("bells") ? 2 * RATE : RATE;
            Sounds.write(folder.resolve("in").resolve("overture " + stem.getKey() + ".wav"), "wav", rate, Depth.INT_24,
                    SoundMetadata.NONE.withBroadcast(Optional.of(Broadcast.starting(Math.round((tenOClock + stem.getValue()) * rate))))
                            .withCues(List.of(new Cue(1, rate, 0, Optional.of("enter"), Optional.empty()))),
                    Sounds.signal(6 * rate, n -> 0.25 * Math.sin(2 * Math.PI * 500 * (n + 0.5) / rate)));
        }
        Map<String, double[]> before = packed(Map.of()), packed = packed(Map.of("equal-length", "true"));
        assertThat(before.get("overture harp")).as("unless it is asked for").hasSize(6 * RATE);
        assertThat(packed.get("overture drums")).hasSize(20 * RATE);
        assertThat(packed.get("overture bells")).hasSize(20 * 2 * RATE);
        assertThat(first(packed.get("overture drums"))).isZero();
        assertThat(first(packed.get("overture bells"))).isEqualTo((int) (2.5 * 2 * RATE));
        assertThat(first(packed.get("overture harp"))).isEqualTo(14 * RATE);
        assertThat(Arrays.copyOfRange(packed.get("overture harp"), 14 * RATE, 20 * RATE)).as("bit for bit behind it")
                .containsExactly(before.get("overture harp"));
        assertThat(plan(Map.of("equal-length", "true")).items()).filteredOn(i -> i.source().fileName().contains("harp")).singleElement().satisfies(i -> {
            assertThat(i.changes()).extracting(c -> c.text().reason()).contains("14.000 s of silence added at the start");
            assertThat(i.outputs().getFirst().metadata().broadcast().orElseThrow().timeReferenceFrames()).as("one start, one stamp")
                    .isEqualTo(tenOClock * RATE);
            assertThat(i.outputs().getFirst().metadata().cues().getFirst().frame()).isEqualTo(15 * RATE);
        });
    }

    @Test void ofOneRateTheyAreAsLongAsTheLongestToTheFrame() throws Exception {
        overture();
        Sounds.write(folder.resolve("in/overture voice.wav"), "wav", RATE, Depth.INT_24, SoundMetadata.NONE, Sounds.signal(9 * RATE + 5, n -> 0.1));
        Map<String, double[]> before = packed(Map.of("stems", "false")), packed = packed(Map.of("equal-length", "true"));
        assertThat(packed.values()).extracting(s -> s.length).containsOnly(9 * RATE + 5);
        packed.forEach((name, samples) -> assertThat(Arrays.copyOf(samples, before.get(name).length)).as(name + " is in it bit for bit")
                .containsExactly(before.get(name)));
    }

    /// One that goes beyond full scale takes the others down with it.
    @Test void whatIsLoweredForOneIsLoweredForAll() throws Exception {
        overture();
        stem("overture bells.wav", RATE, 1, 3, 0.5);
        Sounds.write(folder.resolve("in/overture choir.wav"), "wav", RATE, Depth.FLOAT_32, SoundMetadata.NONE,
                Sounds.signal(FRAMES, n -> 2 * Math.sin(2 * Math.PI * 500 * n / RATE)));
        Map<String, double[]> packed = packed(Map.of("overs", "lower", "depth", "16"));
        assertThat(peak(packed.get("overture choir"))).isCloseTo(0, within(0.01));
        assertThat(peak(packed.get("overture bells"))).isCloseTo(20 * Math.log10(0.25), within(0.02));
    }

    private static Stream<Arguments> folders() {
        return Stream.of(Arguments.of(true, "words differ", List.of("01 drums.wav", "02 bass.wav", "03 guitar.wav")),
                Arguments.of(true, "two of one instrument",
                        List.of("gate bass.wav", "gate drums.wav", "gate guitar 1.wav", "gate guitar 2.wav", "gate harp.wav")),
                Arguments.of(true, "called so", List.of("Gate Stems/1.wav", "Gate Stems/2.wav", "Gate Stems/3.wav")),
                Arguments.of(false, "numbers differ", List.of("windmill 1.wav", "windmill 2.wav", "windmill 3.wav")),
                Arguments.of(false, "keys differ", List.of("harp c3.wav", "harp d#3.wav", "harp f3.wav")),
                Arguments.of(false, "takes of two things",
                        List.of("bass loop 1.wav", "bass loop 2.wav", "bass loop 3.wav", "drum loop 1.wav", "drum loop 2.wav", "drum loop 3.wav")),
                Arguments.of(false, "two alone", List.of("gate bass.wav", "gate drums.wav")));
    }

    @ParameterizedTest(name = "{1}") @MethodSource("folders") void theyAreKnownByLengthAndNames(boolean areStems, String what, List<String> names)
            throws Exception {
        for (String name : names)
            stem(name, RATE, 0, 1, 0.5);
        assertThat(Stems.in(gathered(), _ -> false)).as(what).hasSize(areStems ? names.size() : 0);
        Path other = stem(Path.of(names.getFirst()).resolveSibling("lid slam.wav").toString(), RATE, 0, 1, 0.5);
        Sounds.wav(other, RATE, Depth.INT_16, new double[RATE]);
        assertThat(Stems.in(gathered(), _ -> false)).as("a short sound is none of them").hasSize(areStems ? names.size() : 0);
    }

    @Test void whatIsLoopedIsNoStem() throws Exception {
        overture();
        for (String name : List.of("bells", "drums"))
            Sounds.write(folder.resolve("in/overture " + name + ".wav"), "wav", RATE, Depth.INT_16,
                    SoundMetadata.NONE.withLoops(List.of(Loop.sustain(new FrameRange(0, FRAMES), LoopMode.FORWARD))), new double[FRAMES]);
        assertThat(Stems.in(gathered(), _ -> false)).isEmpty();
    }
}
