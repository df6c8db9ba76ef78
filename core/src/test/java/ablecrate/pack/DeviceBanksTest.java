package ablecrate.pack;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.destination.DestinationSheet;
import ablecrate.destination.SheetCatalogue;
import ablecrate.format.InstrumentFile;
import ablecrate.format.InstrumentFormats;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;
import ablecrate.library.Gatherer;
import ablecrate.option.Banks;
import ablecrate.option.Choice;
import ablecrate.option.Fitting;
import ablecrate.option.InstrumentOptions;
import ablecrate.option.PackOptions;
import ablecrate.plan.PackingList;
import ablecrate.planner.ListeningPlanner;
import ablecrate.signal.Measurements;
import ablecrate.signal.SoundPath;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// Whole banks, and instruments laid out in unusual ways, go to devices with limits.
class DeviceBanksTest {
    private static final int RATE = 44_100, FRAMES = 4000;

    @TempDir Path temp;

    private static PackingList plan(Path source, DestinationSheet sheet, PackOptions options) throws Exception {
        return ListeningPlanner.plan(Gatherer.readAll(Gatherer.find(List.of(source), () -> false)), sheet, options, Map.of(), new Measurements(new SoundPath()),
                () -> false, (_, _) -> {});
    }

    private PackingSlip pack(Path source, DestinationSheet sheet, PackOptions options, String into) throws Exception {
        PackingSlip slip = new Packer(plan(source, sheet, options), new SoundPath(), 2, new StopSignal(), _ -> {}, InstantSource.system())
                .packInto(temp.resolve(into));
        assertThat(slip.items()).allSatisfy(i -> assertThat(i.outcome()).as(i.source() + " " + i.error()).isEqualTo("packed"));
        return slip;
    }

    private static DestinationSheet sheet(String id) throws Exception { return new SheetCatalogue().find(id); }

    private Path map(String name, String regions) throws Exception {
        Path folder = Files.createDirectories(temp.resolve("in"));
        if (!Files.exists(folder.resolve("reed.wav")))
            Sounds.wav(folder.resolve("reed.wav"), RATE, Depth.INT_16,
                    Sounds.signal(FRAMES, n -> 0.3 * Math.sin(2 * Math.PI * 440 * n / RATE) * Math.exp(-n / 2000.0)));
        return Files.writeString(folder.resolve(name + ".sfz"), regions);
    }

    private InstrumentFile written(String into, String end) throws Exception {
        try (Stream<Path> files = Files.walk(temp.resolve(into))) {
            Path map = files.filter(f -> f.toString().endsWith(end)).findFirst().orElseThrow();
            return InstrumentFormats.of(map).orElseThrow().read(map);
        }
    }

    /// One that has more zones than the device, and sounds that cannot stand in for each other, keeps no other from going there.
    @Test void whatNothingMakesFitIsLeftOutOfABank() throws Exception {
        String wide = IntStream.range(36, 102).mapToObj("<region> sample=reed.wav pitch_keytrack=0 key=%d\n"::formatted).collect(Collectors.joining());
        map("Orchard percussion", wide);
        map("Reeds of the meadow",
                "<region> sample=reed.wav lokey=0 hikey=60 pitch_keycenter=57\n<region> sample=reed.wav lokey=61 hikey=127 pitch_keycenter=69");
        map("Bell", "<region> sample=reed.wav pitch_keycenter=69");
        pack(temp.resolve("in"), sheet("files"),
                PackOptions.DEFAULT.withContainer(Choice.of("sf2")).withInstruments(InstrumentOptions.DEFAULT.withBanks(Banks.ONE)), "bank");
        try (Stream<Path> files = Files.list(temp.resolve("bank"))) {
            Path bank = files.filter(f -> f.toString().endsWith(".sf2")).findFirst().orElseThrow();
            String leftOut = "1 of 3 instruments left out: 'Orchard percussion' (66 zones of 64); nothing makes it fit, as the sounds of a kit cannot stand in for each other";
            PackOptions advised = PackOptions.DEFAULT.withInstruments(InstrumentOptions.DEFAULT.withFitting(Fitting.DEFAULT.withMode(Fitting.Mode.ADVISE)));
            assertThat(plan(bank, sheet("card-sampler"), advised).items()).singleElement()
                    .satisfies(i -> assertThat(i.reason()).isEqualTo("more than the device holds: 'Orchard percussion': 66 of 64 zones; " + leftOut));
            PackingSlip slip = pack(bank, sheet("card-sampler"), PackOptions.DEFAULT, "card");
            assertThat(slip.items()).singleElement().satisfies(i -> {
                assertThat(i.verdict()).isEqualTo("reduced");
                assertThat(i.changes().getFirst().reason()).isEqualTo(leftOut);
            });
        }
        assertThat(folders("card")).containsExactlyInAnyOrder("Reeds of the meadow", "Bell");
        assertThat(written("card", "Bell.preset").zoneCount()).isEqualTo(1);
        assertThat(written("card", "Reeds of the meadow.preset").zoneCount()).isEqualTo(2);
    }

    private List<String> folders(String into) throws IOException {
        try (Stream<Path> files = Files.list(temp.resolve(into))) {
            return files.filter(Files::isDirectory).map(f -> f.getFileName().toString()).toList();
        }
    }

    /// Sounds say their pitch in steps of 2.3e-8 cents.
    @Test void fractionsOfACentAreKept() throws Exception {
        pack(map("Reed", "<region> sample=reed.wav pitch_keycenter=69 tune=7.02"), sheet("card-sampler"), PackOptions.DEFAULT, "card");
        assertThat(written("card", ".preset").instruments().getFirst().zones().getFirst().get(Parameter.TUNING))
                .isCloseTo(7.02, within(3e-8));
    }

    /// A click in nine layers over everything, and a reed beside it: on each key there are ten stretches of velocities.
    @Test void layersThatLieOverEachOtherAreCountedOnEachKey() throws Exception {
        String click = IntStream.range(0, 9).mapToObj(i -> "<region> sample=reed.wav pitch_keycenter=69 volume=-%d lovel=%d hivel=%d\n".formatted(9 - i,
                1 + 14 * i, i == 8 ? 127 : 14 + 14 * i)).collect(Collectors.joining());
        pack(map("Organ", click + "<region> sample=reed.wav lokey=48 hikey=72 pitch_keycenter=60"), sheet("keyboard-sampler"), PackOptions.DEFAULT, "card");
        List<Zone> zones = written("card", ".program").instruments().getFirst().zones();
        assertThat(zones.stream().filter(z -> z.get(Parameter.KEYS).contains(60)).map(z -> z.get(Parameter.VELOCITIES)).distinct()).hasSizeBetween(2, 4);
        for (int velocity = 1; velocity <= 127; velocity++) {
            int v = velocity;
            assertThat(zones.stream().filter(z -> z.covers(60, v))).as("velocity %d", v).hasSizeGreaterThanOrEqualTo(2);
        }
    }

    /// Where sounds say how they are played, a sample that four zones play is written four times, and takes the memory of four.
    @Test void memoryIsThatOfWhatIsWritten() throws Exception {
        String zones = IntStream.range(0, 4).mapToObj(i -> "<region> sample=reed.wav lokey=%d hikey=%d pitch_keycenter=%d volume=-%d\n".formatted(40 + 12 * i,
                51 + 12 * i, 45 + 12 * i, 4 * i)).collect(Collectors.joining());
        long limit = 2 * FRAMES * 5 / 2;
        pack(map("Reed", zones),
                SheetCatalogue
                        .read("""
                                { "id": "small", "name": "Small", "accepts": { "containers": ["wav"], "instruments": ["preset"], "ratesHz": [44100], "depths": ["16"], "channels": [1] },
                                  "limits": { "instrumentBytes": %d } }"""
                                .formatted(limit), "small"),
                PackOptions.DEFAULT, "card");
        InstrumentFile preset = written("card", ".preset");
        long bytes = 0;
        for (int i = 0; i < preset.samples().size(); i++)
            bytes += 2 * preset.sound(i).orElseThrow().frames();
        assertThat(bytes).isLessThanOrEqualTo(limit).isGreaterThan(limit / 3);
    }
}
