package ablecrate.pack;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.destination.SheetCatalogue;
import ablecrate.codec.SoundFile;
import ablecrate.format.InstrumentFile;
import ablecrate.format.InstrumentFormats;
import ablecrate.format.Sample;
import ablecrate.instrument.Cue;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.Zone;
import ablecrate.library.Gathered;
import ablecrate.library.Gatherer;
import ablecrate.option.Choice;
import ablecrate.option.InstrumentOptions;
import ablecrate.option.PackOptions;
import ablecrate.option.Playing;
import ablecrate.planner.Planner;
import ablecrate.signal.SoundPath;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// A loop that goes back and forth becomes one that goes forward where a format has no other, and sounds as it did.
class LoopsWrittenOutTest {
    private static final int RATE = 48_000, START = 2003, WAY = 437, CYCLES = 9, TAIL = 300;

    @TempDir Path folder;

    /// The same on both sides of each turn, so that it goes on as if there were none, whichever way a player goes.
    private static double wave(double way, double frame) {
        return 0.4 * Math.cos(CYCLES * Math.PI * frame / way) + 0.2 * Math.cos(4 * CYCLES * Math.PI * frame / way);
    }

    private PackingSlip.Item pack(String container, int rateHz, boolean hasTail) throws Exception {
        Path in = Files.createDirectories(folder.resolve("in"));
        double[] x = Sounds.signal(START + WAY + 1 + (hasTail ? TAIL : 0), n -> n <= START + WAY ? wave(WAY, n - START) : 0.1);
        Sounds.write(in.resolve("reed.wav"), "wav", RATE, Depth.INT_24,
                SoundMetadata.NONE.withLoops(List.of(Loop.sustain(new FrameRange(START, START + WAY + 1), LoopMode.ALTERNATING))), x);
        Path map = Files.writeString(in.resolve("reed.sfz"), "<region> sample=reed.wav pitch_keycenter=60");
        PackOptions options = PackOptions.DEFAULT.withContainer(Choice.of(container)).withRate(Choice.of(rateHz))
                .withInstruments(InstrumentOptions.DEFAULT.withPlaying(Playing.USUAL.withDefaults(false)));
        var list = Planner.plan(Gatherer.readAll(Gatherer.find(List.of(map), () -> false)), new SheetCatalogue().find("files"), options);
        PackingSlip slip = new Packer(list, new SoundPath(), 1, new StopSignal(), _ -> {}, InstantSource.system()).packInto(folder.resolve("out"));
        assertThat(slip.items()).extracting(PackingSlip.Item::outcome).containsOnly("packed");
        return slip.items().getFirst();
    }

    private InstrumentFile written(String container) throws Exception {
        Path file = Gatherer.find(List.of(folder.resolve("out")), () -> false).stream().map(Gathered::path).filter(p -> p.toString().endsWith(container))
                .findFirst().orElseThrow();
        return InstrumentFormats.byId(container).orElseThrow().read(file);
    }

    @ParameterizedTest @CsvSource({"sf2, 44100, false", "sf2, 44100, true", "sf2, 48000, false", "dls, 44100, false", "dls, 48000, true", "sfz, 44100, true",
        "sfz, 48000, false"}) void itIsHeardAsBefore(String container, int rateHz, boolean hasTail) throws Exception {
        PackingSlip.Item item = pack(container, rateHz, hasTail);
        assertThat(item.changes()).extracting(c -> c.reason() + c.each()).anyMatch(t -> t.contains("alternating loop written out"))
                .noneMatch(t -> t.contains("made forward"));
        InstrumentFile file = written(container);
        Zone zone = file.instruments().getFirst().groups().getFirst().zones().getFirst();
        Loop loop = zone.get(Parameter.LOOPS).getFirst();
        assertThat(loop.mode()).isEqualTo(LoopMode.FORWARD);
        Sample.Found sample = (Sample.Found) file.samples().get(zone.sample());
        assertThat(sample.file().rateHz()).isEqualTo(rateHz);
        double[] y = Sounds.readAll(sample.file().open())[0];
        // A round is there and back.
        double way = loop.frames().length() / 2.0, start = Math.rint((double) START * way / WAY);
        for (int n = (int) start; n < 3 * rateHz / 10; n++) {
            FrameRange round = loop.frames();
            long frame = n < round.end() ? n : round.start() + (n - round.start()) % round.length();
            assertThat(y[(int) frame]).as("frame %d", n).isCloseTo(wave(way, n - start), within(2.0 / 32_768));
        }
        double tuned = zone.get(Parameter.TUNING) + 100.0 * (60 - zone.get(Parameter.ROOT_KEY));
        assertThat(1200 * Math.log(WAY / (double) RATE / (way / rateHz)) / Math.log(2) + tuned).as("cents off").isCloseTo(0, within(0.6));
        if (hasTail) assertThat(y[y.length - 100]).as("what is left for").isCloseTo(0.1, within(0.001));
    }

    /// Cue points and further loops behind it still lie where they did in the sound: here on single frames that stand out.
    @Test void whatLiesBehindMovesWithIt() throws Exception {
        int cue = START + WAY + 101, second = START + WAY + 151, end = second + 100, frames = end + 50;
        double[] x = Sounds.signal(frames, n -> n == cue || n == second || n == end - 1 ? 0.7 : n <= START + WAY ? wave(WAY, n - START) : 0);
        SoundMetadata said = SoundMetadata.NONE.withCues(List.of(new Cue(1, cue, 0, Optional.of("mark"), Optional.empty()))).withLoops(
                List.of(Loop.sustain(new FrameRange(START, START + WAY + 1), LoopMode.ALTERNATING),
                        Loop.sustain(new FrameRange(second, end), LoopMode.FORWARD).withUse(Loop.Use.RELEASE)));
        Path file = Sounds.write(Files.createDirectories(folder.resolve("in")).resolve("reed.wav"), "wav", RATE, Depth.INT_24, said, x);
        Path sheet = Files.writeString(folder.resolve("own.json"),
                """
                        {"$schema": "destination-sheet.schema.json", "id": "own", "name": "Own", "accepts": {"containers": ["wav"], "loops": {"modes": ["forward"]}}}""");
        var list = Planner.plan(Gatherer.readAll(Gatherer.find(List.of(file), () -> false)), new SheetCatalogue().find(sheet.toString()), PackOptions.DEFAULT);
        new Packer(list, new SoundPath(), 1, new StopSignal(), _ -> {}, InstantSource.system()).packInto(folder.resolve("out"));
        SoundFile written = Sounds.files(folder.resolve("out")).getFirst();
        double[] y = Sounds.readAll(written.open())[0];
        assertThat(y).hasSizeGreaterThan(frames);
        FrameRange behind = written.metadata().loops().get(1).frames();
        assertThat(List.of(y[(int) written.metadata().cues().getFirst().frame()], y[(int) behind.start()], y[(int) behind.end() - 1]))
                .allSatisfy(frame -> assertThat(frame).isCloseTo(0.7, within(1e-6)));
        assertThat(behind.length()).isEqualTo(100);
        assertThat(written.metadata().loops().get(1).use()).isEqualTo(Loop.Use.RELEASE);
    }
}
