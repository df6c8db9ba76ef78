package ablecrate.pack;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.codec.FileKind;
import ablecrate.codec.SoundFile;
import ablecrate.destination.SheetCatalogue;
import ablecrate.format.InstrumentFile;
import ablecrate.format.InstrumentFormats;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.Zone;
import ablecrate.library.Gatherer;
import ablecrate.option.Choice;
import ablecrate.option.Finds;
import ablecrate.option.LoopFinds;
import ablecrate.option.PackOptions;
import ablecrate.option.Treatment;
import ablecrate.play.LoadedSound;
import ablecrate.play.Voices;
import ablecrate.planner.ListeningPlanner;
import ablecrate.signal.Measurements;
import ablecrate.signal.SoundPath;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import java.nio.file.StandardOpenOption;
import java.util.Random;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// Sounds get loops that cannot be heard, where that is wanted.
class FoundLoopsTest {
    private static final int RATE = 44_100;

    @TempDir Path folder;

    private List<SoundFile> written() throws Exception { return Sounds.files(folder.resolve("out")); }

    private Path reed() throws Exception { return reed(0); }

    /// @param phase a quarter turn makes it the same backwards from each peak
    private Path reed(double phase) throws Exception {
        Path file = folder.resolve("in").resolve("Reed.wav");
        Files.createDirectories(file.getParent());
        return Sounds.wav(file, RATE, Depth.INT_16, Sounds.signal(2 * RATE, n -> {
            double t = (double) n / RATE;
            return 0.4 * Math.min(1, t / 0.05) * (Math.sin(2 * Math.PI * 220 * t + phase) + 0.4 * Math.sin(2 * Math.PI * 440 * t + phase));
        }));
    }

    private PackingSlip packLooped(Path file, PackOptions options) throws Exception {
        return packLooped(file, options, new LoopFinds(true, false, false, LoopFinds.Way.FORWARD, LoopFinds.Decay.SOUND));
    }

    private PackingSlip packLooped(Path file, PackOptions options, LoopFinds finds) throws Exception {
        var list = ListeningPlanner.plan(Gatherer.readAll(Gatherer.find(List.of(file), () -> false)), new SheetCatalogue().find("files"),
                options.withTreatment(Treatment.NONE.withFinds(Finds.NONE.withLoops(finds))), Map.of(), new Measurements(new SoundPath()), () -> false,
                (_, _) -> {});
        return new Packer(list, new SoundPath(), 1, new StopSignal(), _ -> {}, InstantSource.system()).packInto(folder.resolve("out"));
    }

    private static void isWholePeriods(long frames, int rateHz) {
        assertThat(frames).isGreaterThan(rateHz / 4);
        double periods = frames * 220.0 / rateHz;
        assertThat(periods).isCloseTo(Math.rint(periods), within(0.02));
    }

    /// A held sound without a loop gets one, over whole periods.
    @Test void aHeldSoundIsLooped() throws Exception {
        PackingSlip slip = packLooped(reed(), PackOptions.DEFAULT);
        assertThat(slip.items().getFirst().changes()).anySatisfy(c -> assertThat(c.reason()).startsWith("loop found"));
        assertThat(written()).singleElement()
                .satisfies(s -> assertThat(s.metadata().loops()).singleElement().satisfies(l -> isWholePeriods(l.frames().length(), RATE)));
    }

    /// At 22,050 Hz a second is 44,100 frames of the source. What is too short for that has no loop; the destination would not play it.
    @Test void aLoopIsAsLongAsTheDestinationPlays() throws Exception {
        Path sheet = Files.writeString(folder.resolve("own.json"), """
                {"$schema": "destination-sheet.schema.json", "id": "own", "name": "Own",
                 "accepts": {"containers": ["wav"], "ratesHz": [22050], "loops": {"shortestFrames": 22050}}}""");
        Path file = reed();
        var list = ListeningPlanner.plan(Gatherer.readAll(Gatherer.find(List.of(file), () -> false)), new SheetCatalogue().find(sheet.toString()),
                PackOptions.DEFAULT.withTreatment(
                        Treatment.NONE.withFinds(Finds.NONE.withLoops(new LoopFinds(true, false, false, LoopFinds.Way.FORWARD, LoopFinds.Decay.SOUND)))),
                Map.of(),
                new Measurements(new SoundPath()), () -> false, (_, _) -> {});
        assertThat(list.items().getFirst().outputs().getFirst().metadata().loops()).singleElement()
                .satisfies(l -> assertThat(l.frames().length()).isGreaterThanOrEqualTo(22_050));
    }

    /// A struck sound, which falls by 20 dB a second.
    private static double struck(double t) {
        return 0.4 * Math.min(1, t / 0.004) * Math.pow(10, -t) * (Math.sin(2 * Math.PI * 441 * t) + 0.4 * Math.sin(2 * Math.PI * 882 * t));
    }

    private Path glass() throws Exception {
        Files.createDirectories(folder.resolve("in"));
        return Sounds.wav(folder.resolve("in").resolve("Glass.wav"), RATE, Depth.INT_24, Sounds.signal(2 * RATE, n -> struck((double) n / RATE)));
    }

    private Path mappedGlass() throws Exception {
        glass();
        // A level that stays full is as if nothing was said of it.
        return Files.writeString(folder.resolve("in/glass.sfz"), "<global> ampeg_sustain=100 <region> sample=Glass.wav pitch_keycenter=69 lokey=68 hikey=70\n");
    }

    @Test void aFormatWithoutEnvelopesSaysThatNotesGoOn() throws Exception {
        PackingSlip slip = packLooped(mappedGlass(), PackOptions.DEFAULT.withContainer(Choice.of("wav")));
        assertThat(slip.items().getFirst().changes()).anyMatch(c -> c.reason().matches(
                "notes in found loops go on as loud while a key is held: a sound's own mapping has no envelope for 1 zone, whose sounds fall by (19\\.9|20\\.\\d) dB a second"));
    }

    /// A held note goes on to die away as it did, by 20 dB a second, when the sound itself would be over.
    @ParameterizedTest @ValueSource(booleans = {false, true}) void aNoteInAFoundLoopDiesAwayAsItsSoundDid(boolean isLevelled) throws Exception {
        PackingSlip slip = packLooped(mappedGlass(), PackOptions.DEFAULT, new LoopFinds(true, false, isLevelled, LoopFinds.Way.FORWARD, LoopFinds.Decay.SOUND));
        assertThat(slip.items().getFirst().changes())
                .anySatisfy(c -> assertThat(c.reason()).startsWith("notes in found loops die away as their sounds did: the envelope of 1 zone falls by "));
        LoadedSound sound = LoadedSound.of(mapped().sound(0).orElseThrow().open());
        Voices voices = new Voices(mapped().instruments().getFirst(), _ -> Optional.of(sound), RATE, new Random(1));
        voices.noteOn(69, 127);
        double[][] out = new double[2][4 * RATE];
        voices.render(out, 4 * RATE);
        double first = Sounds.rms(out[0], RATE / 10, RATE / 5);
        for (double seconds : List.of(0.5, 1.5, 2.5, 3.5)) {
            int from = (int) ((seconds + 0.1) * RATE);
            assertThat(Sounds.db(Sounds.rms(out[0], from, from + RATE / 10) / first)).as("%.1f s later", seconds).isCloseTo(-20 * seconds, within(2.5));
        }
    }

    @Test void aNoteInAFoundLoopGoesOnAsLoudWhereThatIsWanted() throws Exception {
        packLooped(mappedGlass(), PackOptions.DEFAULT, new LoopFinds(true, false, true, LoopFinds.Way.FORWARD, LoopFinds.Decay.NONE));
        Zone zone = mapped().instruments().getFirst().zones().getFirst();
        assertThat(zone.get(Parameter.LOOPS)).hasSize(1);
        assertThat(zone.get(Parameter.SUSTAIN)).isZero();
    }

    @Test void aZoneThatSaysHowItsLevelGoesKeepsThat() throws Exception {
        packLooped(Files.writeString(mappedGlass(), " ampeg_decay=3 ampeg_sustain=50", StandardOpenOption.APPEND), PackOptions.DEFAULT);
        Zone zone = mapped().instruments().getFirst().zones().getFirst();
        assertThat(zone.get(Parameter.LOOPS)).hasSize(1);
        assertThat(zone.get(Parameter.DECAY)).isEqualTo(3);
        assertThat(zone.get(Parameter.SUSTAIN)).isCloseTo(-6.02, within(0.01));
    }

    /// Where that is wanted its loop is as loud at its end as at its start, and what lies before it is left alone.
    @Test void aDecayWithinALoopIsMadeUpFor() throws Exception {
        double[] struck = Sounds.signal(2 * RATE, n -> struck((double) n / RATE));
        Path file = glass();
        PackingSlip slip = packLooped(file, PackOptions.DEFAULT, new LoopFinds(true, false, true, LoopFinds.Way.FORWARD, LoopFinds.Decay.SOUND));
        SoundFile sound = written().getFirst();
        FrameRange loop = sound.metadata().loops().getFirst().frames();
        double[] y = Sounds.readAll(sound.open())[0];
        int start = (int) loop.start(), end = (int) loop.end(), period = 100, seen = 10 * period;
        double fall = 20.0 * loop.length() / RATE;
        assertThat(fall).isGreaterThan(4);
        assertThat(slip.items().getFirst().changes())
                .anySatisfy(c -> assertThat(c.reason()).contains("raised by " + String.format(Locale.ROOT, "%.1f dB", fall)));
        assertThat(Sounds.db(Sounds.rms(y, end - seen, end) / Sounds.rms(y, start, start + seen))).isCloseTo(0, within(0.1));
        assertThat(Sounds.db(Sounds.rms(struck, end - seen, end) / Sounds.rms(struck, start, start + seen))).as("the source").isLessThan(-3);
        for (int n = 0; n < start; n++)
            assertThat(y[n]).isCloseTo(struck[n], within(4 / 8_388_608.0));
    }

    /// One that alternates turns where the wave is at its peak, and the slip says so.
    @Test void aLoopThatAlternatesIsFoundWhereThatIsWanted() throws Exception {
        PackingSlip slip = packLooped(reed(Math.PI / 2), PackOptions.DEFAULT,
                new LoopFinds(true, false, false, LoopFinds.Way.ALTERNATING, LoopFinds.Decay.SOUND));
        assertThat(slip.items().getFirst().changes()).anySatisfy(c -> assertThat(c.reason()).startsWith("loop found, alternating; its turns change the sound"));
        Loop loop = written().getFirst().metadata().loops().getFirst();
        assertThat(loop.mode()).isEqualTo(LoopMode.ALTERNATING);
        double[] y = Sounds.readAll(written().getFirst().open())[0];
        for (long turn : List.of(loop.frames().start(), loop.frames().end() - 1))
            for (int n = 1; n < 40; n++)
                assertThat(y[(int) turn - n]).as("%d frames from the turn at %d", n, turn).isCloseTo(y[(int) turn + n], within(0.03));
    }

    /// A destination that only plays such gets such; one that plays up to a tenth of a second gets one of that.
    @Test void aLoopIsOfTheModeAndLengthThatTheDestinationPlays() throws Exception {
        Path file = reed(Math.PI / 2);
        for (String loops : List.of("\"modes\": [\"alternating\"]", "\"longestFrames\": 4410")) {
            Path sheet = Files.writeString(folder.resolve("own.json"), """
                    {"$schema": "destination-sheet.schema.json", "id": "own", "name": "Own", "accepts": {"containers": ["wav"], "loops": {%s}}}"""
                    .formatted(loops));
            var list = ListeningPlanner.plan(Gatherer.readAll(Gatherer.find(List.of(file), () -> false)), new SheetCatalogue().find(sheet.toString()),
                    PackOptions.DEFAULT.withTreatment(Treatment.NONE.withFinds(Finds.NONE.withLoops(LoopFinds.NONE.withMissing(true)))), Map.of(),
                    new Measurements(new SoundPath()), () -> false, (_, _) -> {});
            Loop loop = list.items().getFirst().outputs().getFirst().metadata().loops().getFirst();
            if (loops.startsWith("\"modes\""))
                assertThat(loop.mode()).isEqualTo(LoopMode.ALTERNATING);
            else
                assertThat(loop.frames().length()).isBetween(400L, 4410L);
        }
    }

    private double[] periods(double phase) {
        return Sounds.signal(2 * RATE, n -> {
            double t = (double) n / RATE;
            return 0.4 * Math.min(1, t / 0.05) * (Math.sin(2 * Math.PI * 441 * t + phase) + 0.4 * Math.sin(2 * Math.PI * 882 * t));
        });
    }

    private Path side(String side, FrameRange loop, double[] plane) throws Exception {
        return Sounds.write(Files.createDirectories(folder.resolve("in/harp")).resolve("harp A4 " + side + ".wav"), "wav", RATE, Depth.INT_24,
                SoundMetadata.NONE.withLoops(List.of(Loop.sustain(loop, LoopMode.FORWARD))), plane);
    }

    private InstrumentFile mapped() throws Exception {
        try (Stream<Path> files = Files.walk(folder.resolve("out"))) {
            return InstrumentFormats.byId("sfz").orElseThrow().read(files.filter(f -> f.toString().endsWith(".sfz")).findFirst().orElseThrow());
        }
    }

    /// Two sides have one loop: the one that is better on both of them. Periods are 100 frames long.
    @Test void ofTwoLoopsTheOneThatIsBetterOnBothSidesIsTaken() throws Exception {
        FrameRange off = new FrameRange(30_000, 50_033), whole = new FrameRange(40_000, 60_000);
        side("L", off, periods(0));
        side("R", whole, periods(1));
        PackingSlip slip = packLooped(folder.resolve("in"), PackOptions.DEFAULT.withContainer(Choice.of("sfz")), LoopFinds.NONE);
        assertThat(slip.items().getFirst().changes()).anySatisfy(c -> assertThat(c.reason()).contains("left and right loop differ")
                .endsWith("the right one is taken"));
        InstrumentFile harp = mapped();
        assertThat(harp.instruments().getFirst().zones().getFirst().get(Parameter.LOOPS)).singleElement()
                .satisfies(l -> assertThat(l.frames()).isEqualTo(whole));
        assertThat(harp.sound(0).orElseThrow().channels()).isEqualTo(2);
    }

    @Test void whereNeitherSidesLoopPassesAnotherIsTakenThatDoes() throws Exception {
        side("L", new FrameRange(30_000, 50_033), periods(0));
        side("R", new FrameRange(40_000, 60_052), periods(1));
        PackingSlip slip = packLooped(folder.resolve("in"), PackOptions.DEFAULT.withContainer(Choice.of("sfz")), LoopFinds.NONE);
        assertThat(slip.items().getFirst().changes()).anySatisfy(c -> assertThat(c.reason()).contains("another that was found is taken"));
        long length = mapped().instruments().getFirst().zones().getFirst().get(Parameter.LOOPS).getFirst().frames().length();
        assertThat(length % 100).isZero();
    }

    /// In a map the zone plays the loop that was found, at the rate it is written in.
    @Test void aZoneOfAHeldSoundPlaysTheLoopThatWasFound() throws Exception {
        packLooped(reed(), PackOptions.DEFAULT.withContainer(Choice.of("sfz")).withRate(Choice.of(48_000)));
        Path map;
        try (Stream<Path> files = Files.walk(folder.resolve("out"))) {
            map = files.filter(f -> f.toString().endsWith(".sfz")).findFirst().orElseThrow();
        }
        Zone zone = InstrumentFormats.byId("sfz").orElseThrow().read(map).instruments().getFirst().zones().getFirst();
        assertThat(zone.get(Parameter.ONE_SHOT)).isFalse();
        assertThat(zone.get(Parameter.LOOPS)).singleElement().satisfies(l -> isWholePeriods(l.frames().length(), 48_000));
    }

    private Path looped(FrameRange loop) throws Exception {
        Path file = reed();
        double[] plane = Sounds.readAll(((FileKind.Sound) FileKind.of(file)).read(file).open())[0];
        return Sounds.write(file, "wav", RATE, Depth.INT_16, SoundMetadata.NONE.withLoops(List.of(Loop.sustain(loop, LoopMode.FORWARD))), plane);
    }

    /// A loop that does not go over whole periods is replaced by one that does; one that does stays, to the byte.
    @Test void aLoopThatIsHeardIsRenewedAndAGoodOneStays() throws Exception {
        PackingSlip slip = packLooped(looped(new FrameRange(40_000, 60_100)), PackOptions.DEFAULT,
                new LoopFinds(false, true, false, LoopFinds.Way.FORWARD, LoopFinds.Decay.SOUND));
        assertThat(slip.items().getFirst().changes()).anySatisfy(c -> assertThat(c.reason()).startsWith("its seam was heard"));
        assertThat(written()).singleElement()
                .satisfies(s -> assertThat(s.metadata().loops()).singleElement().satisfies(l -> isWholePeriods(l.frames().length(), RATE)));
        Files.delete(folder.resolve("out/Reed.wav"));
        int periods = 100 * RATE / 220;
        Path good = looped(new FrameRange(40_000, 40_000 + periods));
        packLooped(good, PackOptions.DEFAULT, new LoopFinds(true, true, false, LoopFinds.Way.FORWARD, LoopFinds.Decay.SOUND));
        assertThat(folder.resolve("out/Reed.wav")).hasSameBinaryContentAs(good);
    }

    @Test void aZonePlaysTheLoopThatWasRenewed() throws Exception {
        packLooped(looped(new FrameRange(40_000, 60_100)), PackOptions.DEFAULT.withContainer(Choice.of("sfz")),
                new LoopFinds(false, true, false, LoopFinds.Way.FORWARD, LoopFinds.Decay.SOUND));
        Path map;
        try (Stream<Path> files = Files.walk(folder.resolve("out"))) {
            map = files.filter(f -> f.toString().endsWith(".sfz")).findFirst().orElseThrow();
        }
        Zone zone = InstrumentFormats.byId("sfz").orElseThrow().read(map).instruments().getFirst().zones().getFirst();
        assertThat(zone.get(Parameter.LOOPS)).singleElement().satisfies(l -> isWholePeriods(l.frames().length(), RATE));
    }

    /// What has a loop keeps it.
    @Test void aLoopOfTheFileStays() throws Exception {
        Path file = folder.resolve("in").resolve("Reed.wav");
        Files.createDirectories(file.getParent());
        Sounds.write(file, "wav", RATE, Depth.INT_16, SoundMetadata.NONE.withLoops(List.of(Loop.sustain(new FrameRange(100, 5000), LoopMode.FORWARD))),
                Sounds.sine(300, 0.5, RATE, RATE));
        packLooped(file, PackOptions.DEFAULT);
        assertThat(folder.resolve("out/Reed.wav")).hasSameBinaryContentAs(file);
    }
}
