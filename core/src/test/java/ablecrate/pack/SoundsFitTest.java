package ablecrate.pack;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.change.CardChange;
import ablecrate.change.FitChange;
import ablecrate.codec.FileKind;
import ablecrate.codec.SoundFile;
import ablecrate.destination.SheetCatalogue;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.SoundMetadata;
import ablecrate.library.Gatherer;
import ablecrate.option.Fitting;
import ablecrate.option.InstrumentOptions;
import ablecrate.option.PackOptions;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PackingList;
import ablecrate.planner.ListeningPlanner;
import ablecrate.signal.Measurements;
import ablecrate.signal.SoundPath;
import ablecrate.verify.FitComparison;
import ablecrate.verify.Outcome;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.stream.Stream;
import javax.sound.sampled.AudioFileFormat;
import javax.sound.sampled.AudioSystem;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// Loose sounds go to a device with one memory for all of them: four that hum, two that hiss, one second each, 88,200 bytes a sound.
class SoundsFitTest {
    private static final int RATE = 44_100, BYTES = 2 * RATE;

    @TempDir Path folder;

    @BeforeEach void write() throws Exception {
        for (int i = 0; i < 4; i++) {
            double hertz = 110 * (i + 1);
            Sounds.wav(folder.resolve("in").resolve("hum " + i + ".wav"), RATE, Depth.INT_16, Sounds.sine(hertz, 0.3, RATE, RATE));
        }
        for (int i = 0; i < 2; i++) {
            Random random = new Random(i);
            Sounds.wav(folder.resolve("in").resolve("hiss " + i + ".wav"), RATE, Depth.INT_16, Sounds.signal(RATE, _ -> 0.1 * random.nextGaussian()));
        }
    }

    private PackingList plan(long bytes, Fitting fitting) throws Exception {
        return ListeningPlanner.plan(Gatherer.readAll(Gatherer.find(List.of(folder.resolve("in")), () -> false)),
                SheetCatalogue
                        .read("""
                                { "id": "tiny", "name": "Tiny", "accepts": { "containers": ["wav"], "ratesHz": [11025, 22050, 44100], "depths": ["16"], "channels": [1], "loops": { "most": 1, "modes": ["forward"] } },
                                  "limits": { "totalBytes": %d } }"""
                                .formatted(bytes), "tiny"),
                PackOptions.DEFAULT.withInstruments(InstrumentOptions.DEFAULT.withFitting(fitting)), Map.of(), new Measurements(new SoundPath()), () -> false,
                (_, _) -> {});
    }

    private PackingSlip pack(PackingList list) throws Exception {
        return new Packer(list, new SoundPath(), 2, new StopSignal(), _ -> {}, InstantSource.system()).packInto(folder.resolve("out"));
    }

    /// Read by the JDK's own reader.
    private Map<String, AudioFileFormat> written() throws Exception {
        Map<String, AudioFileFormat> out = new TreeMap<>();
        try (Stream<Path> files = Files.walk(folder.resolve("out"))) {
            for (Path file : files.filter(f -> f.toString().endsWith(".wav")).toList())
                out.put(file.getFileName().toString(), AudioSystem.getAudioFileFormat(file.toFile()));
        }
        return out;
    }

    @Test void whatHasNoHighsGoesAtALowerRate() throws Exception {
        PackingList list = plan(4 * BYTES, Fitting.DEFAULT);
        PackingSlip slip = pack(list);
        Map<String, AudioFileFormat> written = written();
        assertThat(written).hasSize(6);
        assertThat(written.values().stream().mapToLong(f -> 2L * f.getFrameLength()).sum()).as("bytes of audio").isLessThanOrEqualTo(4 * BYTES);
        assertThat(written.get("hiss 0.wav").getFormat().getSampleRate()).isEqualTo(RATE);
        assertThat(written.get("hiss 1.wav").getFormat().getSampleRate()).isEqualTo(RATE);
        assertThat(written.entrySet()).filteredOn(e -> e.getKey().startsWith("hum") && e.getValue().getFormat().getSampleRate() < RATE).isNotEmpty();
        List<FitChange.SoundFitted> told = list.items().stream().flatMap(i -> i.changes().stream()).filter(FitChange.SoundFitted.class::isInstance)
                .map(FitChange.SoundFitted.class::cast).toList();
        assertThat(told).isNotEmpty().allSatisfy(t -> assertThat(t.harmDb()).as("a hum without highs").isLessThan(0.5));
        List<PackingSlip.Check> checks = new ArrayList<>();
        slip.items().forEach(i -> i.outputs().forEach(o -> o.checks().stream().filter(c -> c.name().equals("difference")).forEach(checks::add)));
        assertThat(checks).hasSameSizeAs(told).allSatisfy(c -> assertThat(c.outcome()).isEqualTo("held"));
    }

    /// A file in the place of another: the check on the result finds it.
    @Test void anotherSoundIsNotTakenForTheFittedOne() throws Exception {
        PackingList list = plan(4 * BYTES, Fitting.DEFAULT);
        PackingItem fitted = list.items().stream().filter(i -> i.output().flatMap(o -> o.fitted()).isPresent()).findFirst().orElseThrow();
        SoundFile own = sound(fitted.source().path()), other = sound(folder.resolve("in").resolve("hiss 1.wav"));
        assertThat(FitComparison.of(fitted.output().get(), own)).get().isInstanceOf(Outcome.Held.class);
        assertThat(FitComparison.of(fitted.output().get(), other)).get().isInstanceOf(Outcome.Missed.class);
    }

    /// Of two loops the device plays one; the sound is not cut within the other, and that is reckoned with.
    @Test void whatIsForetoldHasRoom() throws Exception {
        List<Loop> loops = List.of(Loop.sustain(new FrameRange(10_000, 20_000), LoopMode.FORWARD),
                Loop.sustain(new FrameRange(22_000, 40_000), LoopMode.FORWARD));
        Sounds.write(folder.resolve("in").resolve("two loops.wav"), "wav", RATE, Depth.INT_16, SoundMetadata.NONE.withLoops(loops),
                Sounds.sine(441, 0.3, RATE, RATE));
        PackingList list = plan(4 * BYTES, Fitting.DEFAULT);
        assertThat(blocked(list)).isZero();
        assertThat(list.audioBytes()).isLessThanOrEqualTo(4 * BYTES);
    }

    private static SoundFile sound(Path file) throws Exception { return ((FileKind.Sound) FileKind.of(file)).read(file); }

    /// Where nobody is to fit anything, or nothing would do, the first come and the rest is blocked.
    @Test void whatCannotBeFittedIsBlocked() throws Exception {
        assertThat(blocked(plan(4 * BYTES, Fitting.DEFAULT.withMode(Fitting.Mode.OFF)))).isEqualTo(2);
        PackingList advised = plan(4 * BYTES, Fitting.DEFAULT.withMode(Fitting.Mode.ADVISE));
        assertThat(blocked(advised)).isEqualTo(2);
        assertThat(advised.items().getLast().reason()).matches(".*; made to fit, sounds would be \\d\\.\\d dB different in the mean");
        PackingList tooMany = plan(BYTES, Fitting.DEFAULT);
        assertThat(blocked(tooMany)).isEqualTo(5);
        assertThat(tooMany.items().getLast().changes()).filteredOn(CardChange.MemoryFull.class::isInstance).singleElement().satisfies(c -> {
            assertThat(((CardChange.MemoryFull) c).whole()).get().isInstanceOfSatisfying(CardChange.AllFitted.Impossible.class,
                    w -> assertThat(w.leastBytes()).as("a quarter of the rate is the least for what hisses").isBetween(2L * BYTES / 4, 6L * BYTES / 2));
            assertThat(c.reason()).contains("; however small they are made, sounds take at least ");
        });
        assertThat(blocked(plan(6 * BYTES, Fitting.DEFAULT))).isZero();
        assertThat(plan(6 * BYTES, Fitting.DEFAULT).items()).noneMatch(i -> i.output().flatMap(o -> o.fitted()).isPresent());
    }

    private static long blocked(PackingList list) {
        return list.items().stream().filter(i -> i.changes().stream().anyMatch(CardChange.MemoryFull.class::isInstance)).count();
    }
}
