package ablecrate.pack;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.change.FitChange;
import ablecrate.codec.SoundFile;
import ablecrate.destination.DestinationSheet;
import ablecrate.destination.SheetCatalogue;
import ablecrate.fit.FitClaim;
import ablecrate.fit.Harm;
import ablecrate.format.InstrumentFile;
import ablecrate.format.InstrumentFormats;
import ablecrate.format.Sample;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Turn;
import ablecrate.instrument.Zone;
import ablecrate.library.Gatherer;
import ablecrate.audio.FrameRange;
import ablecrate.option.Treatment;
import ablecrate.option.Finds;
import ablecrate.option.LoopFinds;
import ablecrate.option.Fitting;
import ablecrate.option.InstrumentOptions;
import ablecrate.option.PackOptions;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PackingList;
import ablecrate.plan.PlannedMap;
import ablecrate.planner.ListeningPlanner;
import ablecrate.planner.Planner;
import ablecrate.signal.Measurements;
import ablecrate.signal.SoundPath;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/// An instrument of three layers on three roots goes to devices that hold less.
class FitTest {
    private static final int RATE = 44_100, ROOTS = 3, LAYERS = 3, FRAMES = 30_000;

    @TempDir Path folder;

    @BeforeEach void write() throws Exception { write(0.05); }

    private void write(double level) throws Exception {
        StringBuilder map = new StringBuilder();
        for (int root = 0; root < ROOTS; root++)
            for (int layer = 0; layer < LAYERS; layer++) {
                int key = 48 + 5 * root, low = 1 + 42 * layer;
                String name = "s" + root + layer + ".wav";
                double hertz = 440 * Math.pow(2, (key - 69) / 12.0), dark = 1 + layer;
                double[] plane = Sounds.signal(FRAMES, n -> {
                    double sum = 0;
                    for (int h = 1; h < 20; h++)
                        sum += Math.exp(-h / (2.0 * dark)) * Math.sin(2 * Math.PI * h * hertz * n / RATE);
                    return level * dark * sum * Math.exp(-n / 20_000.0);
                });
                Sounds.wav(folder.resolve("in").resolve(name), RATE, Depth.INT_24, plane, plane);
                map.append(String.format(Locale.ROOT, "<region> sample=%s lokey=%d hikey=%d pitch_keycenter=%d lovel=%d hivel=%d amp_veltrack=20%n", name, key,
                        key + 4, key,
                        low, layer + 1 == LAYERS ? 127 : low + 41));
            }
        Files.writeString(folder.resolve("in").resolve("marimba.sfz"), map.toString());
    }

    private static DestinationSheet sheet(String limits) throws Exception { return sheet(limits, "\"16\""); }

    private static DestinationSheet sheet(String limits, String depths) throws Exception {
        return SheetCatalogue
                .read("""
                        { "id": "small", "name": "Small", "accepts": { "containers": ["wav"], "instruments": ["sfz"], "ratesHz": [22050, 44100], "depths": [%s], "channels": [1, 2] },
                          "limits": { %s } }"""
                        .formatted(depths, limits), "small");
    }

    private PackingList plan(String limits, Fitting fitting) throws Exception { return plan(sheet(limits), fitting); }

    private PackingList plan(DestinationSheet sheet, Fitting fitting) throws Exception {
        return ListeningPlanner.plan(Gatherer.readAll(Gatherer.find(List.of(folder.resolve("in")), () -> false)), sheet,
                PackOptions.DEFAULT.withInstruments(InstrumentOptions.DEFAULT.withFitting(fitting)), Map.of(), new Measurements(new SoundPath()), () -> false,
                (_, _) -> {});
    }

    private PackingSlip pack(PackingList list) throws Exception {
        return new Packer(list, new SoundPath(), 2, new StopSignal(), _ -> {}, InstantSource.system()).packInto(folder.resolve("out"));
    }

    private InstrumentFile written() throws Exception {
        Path map = Files.walk(folder.resolve("out")).filter(f -> f.toString().endsWith(".sfz")).findFirst().orElseThrow();
        return InstrumentFormats.of(map).orElseThrow().read(map);
    }

    /// While it is being found out how, nothing is blocked that will go, and nothing is packed that is not known.
    @Test void whatIsNotFittedYetWaits() throws Exception {
        for (Fitting.Mode mode : Fitting.Mode.values()) {
            PackingList list = Planner.plan(Gatherer.readAll(Gatherer.find(List.of(folder.resolve("in")), () -> false)), sheet("\"layers\": 2"),
                    PackOptions.DEFAULT.withInstruments(InstrumentOptions.DEFAULT.withFitting(Fitting.DEFAULT.withMode(mode))));
            PackingItem line = list.items().getFirst();
            boolean isDone = mode == Fitting.Mode.DO;
            assertThat(line.verdict().id()).as(mode.id()).isEqualTo(isDone ? "reduced" : "blocked");
            assertThat(line.reason()).isEqualTo((isDone ? "being made to fit: " : "more than the device holds: ") + "3 of 2 velocity layers");
            assertThat(line.isNotFittedYet()).isEqualTo(isDone);
            assertThat(list.isSettled()).isEqualTo(mode == Fitting.Mode.OFF);
            if (isDone) assertThatThrownBy(() -> pack(list)).isInstanceOf(IllegalArgumentException.class).hasMessageContaining("cannot be packed");
        }
    }

    @Test void layersBeyondTheLimitAreReplacedAndTold() throws Exception {
        PackingList list = plan("\"layers\": 2", Fitting.DEFAULT);
        assertThat(list.items()).singleElement().satisfies(i -> {
            assertThat(i.verdict().id()).isEqualTo("reduced");
            assertThat(i.reason()).matches("fitted: 3 → 2 layers, 9 → 6 samples, .* sounds \\d\\.\\d dB different in the mean, .*");
        });
        PackingSlip slip = pack(list);
        List<Zone> zones = written().instruments().getFirst().zones();
        for (int key = 48; key < 63; key++)
            for (int velocity = 1; velocity <= 127; velocity++) {
                int k = key, v = velocity;
                assertThat(zones.stream().filter(z -> z.covers(k, v)).count()).as("zones at key %d, velocity %d", k, v).isEqualTo(1);
            }
        assertThat(zones.stream().filter(z -> z.covers(50, 1) || z.get(Parameter.KEYS).contains(50)).count()).isEqualTo(2);
        assertThat(written().samples()).hasSize(6);
        assertThat(slip.items().getFirst().maps().getFirst().checks()).anySatisfy(c -> {
            assertThat(c.name()).isEqualTo("difference");
            assertThat(c.outcome()).isEqualTo("held");
            assertThat(c.measured()).matches("\\d\\.\\d dB in the mean, .* played from what was written");
        });
    }

    /// Where a device takes 24 bits and 16, what has no room with 24 is written with 16, and all of it.
    @Test void fewerBitsAreWritten() throws Exception {
        long whole = (long) ROOTS * LAYERS * FRAMES * 2 * 3;
        PackingList list = plan(sheet("\"instrumentBytes\": " + whole * 4 / 5, "\"16\", \"24\""),
                Fitting.DEFAULT.withoutSteps(List.of("rate", "mono", "tails")));
        PackingSlip slip = pack(list);
        InstrumentFile written = written();
        List<SoundFile> sounds = IntStream.range(0, written.samples().size()).mapToObj(i -> written.sound(i).orElseThrow()).toList();
        assertThat(sounds).hasSize(ROOTS * LAYERS).allSatisfy(s -> assertThat(s.frames()).isEqualTo(FRAMES));
        assertThat(sounds.stream().map(s -> s.encoding().depth())).contains(Depth.INT_16, Depth.INT_24);
        assertThat(sounds.stream().mapToLong(s -> s.frames() * s.channels() * s.encoding().depth().bytes()).sum()).isLessThanOrEqualTo(whole * 4 / 5);
        assertThat(slip.items().getFirst().maps().getFirst().checks()).allSatisfy(c -> assertThat(c.outcome()).as(c.name()).isEqualTo("held"));
    }

    @ParameterizedTest @ValueSource(ints = {60, 15}) void memoryIsKept(int percent) throws Exception {
        long whole = (long) ROOTS * LAYERS * FRAMES * 4, limit = whole * percent / 100;
        PackingSlip slip = pack(plan("\"instrumentBytes\": " + limit, Fitting.DEFAULT));
        long bytes = written().samples().stream().mapToLong(s -> {
            var sound = ((Sample.Found) s).file();
            return sound.frames() * sound.channels() * 2;
        }).sum();
        assertThat(bytes).isLessThanOrEqualTo(limit).isGreaterThan(limit / 2);
        assertThat(slip.items().getFirst().changes()).filteredOn(c -> c.is(FitChange.Fitted.class)).singleElement()
                .satisfies(c -> assertThat(c.values().orElseThrow()).containsEntry("bytesAfter", (int) bytes));
    }

    /// Five seconds of a held tone: with an early loop that is found, more of its samples have room, and what was written is as foretold.
    @Test void aFoundLoopTakesThePlaceOfTheRest() throws Exception {
        Path in = Files.createDirectories(folder.resolve("held"));
        StringBuilder map = new StringBuilder("<global> ampeg_release=0.1\n");
        for (int key = 48; key < 66; key += 6) {
            double hertz = 440 * Math.pow(2, (key - 69) / 12.0);
            Sounds.wav(in.resolve("reed" + key + ".wav"), RATE, Depth.INT_16, Sounds.signal(5 * RATE, n -> {
                double sum = 0;
                for (int h = 1; h < 6; h++)
                    sum += Math.sin(2 * Math.PI * h * hertz * n / RATE + h * h) / h * (1 + 0.1 * Math.sin(n / 9000.0 * h));
                return 0.2 * sum * Math.min(1, n / 3000.0);
            }));
            map.append("<region> sample=reed%d.wav pitch_keycenter=%d lokey=%d hikey=%d%n".formatted(key, key, key - 3, key + 2));
        }
        Files.writeString(in.resolve("reed.sfz"), map);
        Treatment finds = Treatment.NONE.withFinds(Finds.NONE.withLoops(LoopFinds.NONE.withMissing(true)));
        PackingList list = ListeningPlanner.plan(Gatherer.readAll(Gatherer.find(List.of(in.resolve("reed.sfz")), () -> false)),
                sheet("\"instrumentBytes\": 600000"), PackOptions.DEFAULT.withTreatment(finds), Map.of(), new Measurements(new SoundPath()), () -> false,
                (_, _) -> {});
        PackingSlip slip = pack(list);
        InstrumentFile written = written();
        assertThat(written.samples()).as("of three samples of 441 kB each").hasSize(3);
        for (Zone zone : written.instruments().getFirst().zones()) {
            FrameRange loop = zone.get(Parameter.LOOPS).getFirst().frames();
            assertThat(written.sound(zone.sample()).orElseThrow().frames()).as("nothing behind the loop").isEqualTo(loop.end());
            assertThat(loop.end()).as("not before the notes that are compared are over").isBetween((long) (1.5 * RATE), 2L * RATE);
        }
        assertThat(slip.items().getFirst().maps().getFirst().checks()).allSatisfy(c -> assertThat(c.outcome()).as(c.name()).isEqualTo("held"));
        assertThat(list.items().getFirst().reason()).as("from the sounds as they were, not from those in loops").contains("0.1 dB different in the mean");
    }

    /// Sounds that lie some twenty steps of 16 bits high: it is heard that they are rounded, and foretold.
    @Test void whatRoundingDoesToQuietSoundsIsForetold() throws Exception {
        write(0.00005);
        PackingList list = plan("\"samples\": 5", Fitting.DEFAULT);
        double foretold = list.items().getFirst().maps().getFirst().fitted().get(0).foretold().meanDb();
        assertThat(foretold).isGreaterThan(3);
        String measured = pack(list).items().getFirst().maps().getFirst().checks().stream().filter(c -> c.name().equals("difference")).findFirst().orElseThrow()
                .measured();
        assertThat(Double.parseDouble(measured.substring(0, measured.indexOf(' ')))).isCloseTo(foretold, within(0.1));
    }

    @Test void whatMustNotBeFittedIsBlockedWithTheWayOut() throws Exception {
        assertThat(plan("\"samples\": 4", Fitting.DEFAULT.withMode(Fitting.Mode.OFF)).items()).singleElement().satisfies(i -> {
            assertThat(i.verdict().id()).isEqualTo("blocked");
            assertThat(i.reason()).isEqualTo("more than the device holds: 9 of 4 samples");
        });
        assertThat(plan("\"samples\": 4", Fitting.DEFAULT.withMode(Fitting.Mode.ADVISE)).items()).singleElement().satisfies(i -> {
            assertThat(i.verdict().id()).isEqualTo("blocked");
            assertThat(i.reason()).startsWith("more than the device holds: 9 of 4 samples; --fit do would make it fit: ").contains("9 → 4 samples");
        });
        assertThat(plan("\"samples\": 4", Fitting.DEFAULT.withoutSteps(List.of("roots", "layers"))).items()).singleElement()
                .satisfies(i -> assertThat(i.reason()).endsWith("it cannot be made to fit: 'marimba' is left with 9 samples of 4"));
    }

    /// What the user keeps memory down to counts where the device has no limit of its own.
    @Test void memoryOfTheUsersCounts() throws Exception {
        assertThat(plan("\"zones\": 500", Fitting.DEFAULT.withMemory(Optional.of(0.5))).items().getFirst().reason()).startsWith("fitted: ");
        assertThat(plan("\"zones\": 500", Fitting.DEFAULT).items().getFirst().reason()).doesNotContain("fitted");
    }

    /// A key that has nothing but a second turn is not silenced by a device without turns.
    @Test void whatTheDeviceLacksIsLeftOut() throws Exception {
        Path map = folder.resolve("in").resolve("marimba.sfz");
        String plain = Files.readString(map);
        Files.writeString(map, plain.replaceFirst("<region>(.*)", "<region> seq_length=2 seq_position=1$1\n<region> seq_length=2 seq_position=2$1"));
        assertThat(plan("\"lacks\": [\"round-robins\"]", Fitting.DEFAULT.withMode(Fitting.Mode.OFF)).items().getFirst().changes())
                .anySatisfy(c -> assertThat(c.reason()).contains("1 zone left out: later turns of round robins"));
        Files.writeString(map, plain.replaceFirst("<region>", "<region> seq_length=2 seq_position=2"));
        PackingList fitted = plan("\"lacks\": [\"round-robins\"]", Fitting.DEFAULT);
        assertThat(fitted.items().getFirst().reason()).matches("fitted; sounds \\d\\.\\d dB different in the mean, .*");
        pack(fitted);
        assertThat(written().instruments().getFirst().zones()).hasSize(9).allSatisfy(z -> assertThat(z.get(Parameter.TURN)).isEqualTo(Turn.EVERY));
    }

    /// A claim that the written file does not keep is told as missed.
    @Test void aDifferenceThatWasNotForetoldIsTold() throws Exception {
        PackingList list = plan("\"samples\": 3", Fitting.DEFAULT);
        PackingItem item = list.items().getFirst();
        PlannedMap map = item.maps().getFirst();
        Map<Integer, FitClaim> spoilt = map.fitted().entrySet().stream()
                .collect(Collectors.toMap(Map.Entry::getKey, e -> new FitClaim(e.getValue().task(), e.getValue().source(), Harm.NONE)));
        PlannedMap wrong = new PlannedMap(map.path(), map.formatId(), map.about(), map.instruments(), spoilt, map.verbatim());
        PackingItem spoiltItem = new PackingItem(item.source(), item.verdict(), item.changes(), item.outputs(), item.wanted(), item.isSettled(), item.parts(),
                List.of(wrong), List.of());
        PackingSlip slip = pack(new PackingList(list.destination(), list.options(), List.of(spoiltItem)));
        assertThat(slip.items().getFirst().maps().getFirst().checks()).filteredOn(c -> c.name().equals("difference")).singleElement()
                .satisfies(c -> assertThat(c.outcome()).isEqualTo("missed"));
    }
}
