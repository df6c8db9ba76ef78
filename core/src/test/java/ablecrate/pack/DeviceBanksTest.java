package ablecrate.pack;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.change.ChangeEntry;
import ablecrate.destination.DestinationSheet;
import ablecrate.destination.SheetCatalogue;
import ablecrate.format.InstrumentFile;
import ablecrate.format.InstrumentFormats;
import ablecrate.instrument.Instrument;
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
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.IntFunction;
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
        Path map = only(into, end);
        return InstrumentFormats.of(map).orElseThrow().read(map);
    }

    /// A device that loads one bank at a time has its memory for each of them.
    @Test void eachBankHasTheMemoryForItself() throws Exception {
        for (String name : List.of("Bell", "Reeds"))
            map(name, "<region> sample=" + name + ".wav pitch_keycenter=69\n");
        for (String name : List.of("Bell", "Reeds"))
            Sounds.wav(temp.resolve("in").resolve(name + ".wav"), RATE, Depth.INT_16, Sounds.sine(name.equals("Bell") ? 440 : 660, 0.5, RATE, 30_000));
        pack(temp.resolve("in"), sheet("files"),
                PackOptions.DEFAULT.withContainer(Choice.of("sf2")).withInstruments(InstrumentOptions.DEFAULT.withBanks(Banks.ONE)), "bank");
        // One takes 60 kB.
        Fitting fitting = Fitting.DEFAULT.withMemory(Optional.of(0.07));
        for (Banks banks : List.of(Banks.ONE, Banks.EACH)) {
            PackingList list = plan(only("bank", ".sf2"), sheet("bank-player"),
                    PackOptions.DEFAULT.withInstruments(InstrumentOptions.DEFAULT.withBanks(banks).withFitting(fitting)));
            long bytes = list.items().stream().flatMap(i -> i.outputs().stream()).mapToLong(o -> o.audioBytes()).sum();
            if (banks == Banks.ONE)
                assertThat(bytes).as("together").isLessThanOrEqualTo(70_000).isGreaterThan(20_000);
            else
                assertThat(bytes).as("each whole").isGreaterThan(119_000);
        }
    }

    /// A bank with more instruments than the device holds becomes several. Each is loaded alone, so that a sample that two of them share is in both, as small as each needs it.
    @Test void eachBankOfADividedOneHasTheMemoryForItself() throws Exception {
        int shared = 16_000;
        Sounds.wav(Files.createDirectories(temp.resolve("in")).resolve("shared.wav"), RATE, Depth.INT_16, Sounds.sine(220, 0.5, RATE, shared));
        for (int i = 0; i < 4; i++) {
            Sounds.wav(temp.resolve("in").resolve("own" + i + ".wav"), RATE, Depth.INT_16,
                    Sounds.sine(330 + 70 * i, 0.5, RATE, i < 2 ? 2000 : 30_000));
            Files.writeString(temp.resolve("in").resolve("Reed " + i + ".sfz"),
                    "<region> sample=shared.wav hikey=59 pitch_keycenter=57\n<region> lokey=60 sample=own" + i + ".wav pitch_keycenter=69\n");
        }
        pack(temp.resolve("in"), sheet("files"),
                PackOptions.DEFAULT.withContainer(Choice.of("sf2")).withInstruments(InstrumentOptions.DEFAULT.withBanks(Banks.ONE)), "bank");
        Path bank = only("bank", ".sf2");
        // The first two take 40 kB, the others 152.
        long limit = 41_000;
        String sheet = """
                { "id": "small", "name": "Small", "accepts": { "containers": ["wav"], "instruments": ["sf2"], "rateRangeHz": [400, 50000], "depths": ["16"], "channels": [1] },
                  "defaults": { "container": "sf2" }, "layout": { "soundsOnly": true, "instrumentsPerBank": 2 }, "limits": { "totalBytes": %d } }""";
        pack(bank, SheetCatalogue.read(sheet.formatted(limit), "small"), PackOptions.DEFAULT, "card");
        List<Path> banks;
        try (Stream<Path> files = Files.walk(temp.resolve("card"))) {
            banks = files.filter(f -> f.toString().endsWith(".sf2")).sorted().toList();
        }
        assertThat(banks).hasSize(2);
        List<InstrumentFile> written = List.of(InstrumentFormats.of(banks.get(0)).orElseThrow().read(banks.get(0)),
                InstrumentFormats.of(banks.get(1)).orElseThrow().read(banks.get(1)));
        assertThat(written).extracting(f -> f.instruments().stream().map(Instrument::name).toList())
                .containsExactly(List.of("Reed 0", "Reed 1"), List.of("Reed 2", "Reed 3"));
        assertThat(audio(written.get(0))).as("whole").isEqualTo(2 * (shared + 2 * 2000));
        assertThat(audio(written.get(1))).as("as much as there is").isBetween(limit / 4, limit);
    }

    /// In a bank the sides of a stereo sound are two samples, with 46 frames of silence behind each.
    /// Source: SoundFont Technical Specification 2.04, section 6.1.
    @Test void whatABankTakesIsCountedSideBySide() throws Exception {
        StringBuilder regions = new StringBuilder();
        for (int i = 0; i < 48; i++) {
            double[] left = Sounds.sine(220 * Math.pow(2, i / 12.0), 0.5, RATE, 100), right = Sounds.sine(330 * Math.pow(2, i / 12.0), 0.5, RATE, 100);
            Sounds.wav(Files.createDirectories(temp.resolve("in")).resolve("wide" + i + ".wav"), RATE, Depth.INT_16, left, right);
            regions.append("<region> sample=wide%d.wav key=%d\n".formatted(i, 36 + i));
        }
        Files.writeString(temp.resolve("in/Wide.sfz"), regions);
        long limit = 12_000;
        pack(temp.resolve("in"),
                SheetCatalogue
                        .read("""
                                { "id": "small", "name": "Small", "accepts": { "containers": ["wav"], "instruments": ["sf2"], "ratesHz": [44100], "depths": ["16"], "channels": [1, 2] },
                                  "defaults": { "container": "sf2" }, "limits": { "totalBytes": %d, "sampleOverheadBytes": 92 } }"""
                                .formatted(limit), "small"),
                PackOptions.DEFAULT.withInstruments(InstrumentOptions.DEFAULT.withFitting(Fitting.DEFAULT.withoutSteps(List.of("mono")))), "card");
        Path bank = only("card", ".sf2");
        ByteBuffer bytes = ByteBuffer.wrap(Files.readAllBytes(bank)).order(ByteOrder.LITTLE_ENDIAN);
        int samples = new String(bytes.array(), StandardCharsets.ISO_8859_1).indexOf("smpl");
        assertThat((long) bytes.getInt(samples + 4)).as("bytes of the chunk of samples").isBetween(limit / 2, limit);
    }

    private static long audio(InstrumentFile file) {
        return IntStream.range(0, file.samples().size()).mapToLong(i -> 2 * file.sound(i).orElseThrow().frames()).sum();
    }

    /// What is more than the device holds keeps no other from going there: a kit is divided by its keys, and what nothing makes fit is left out.
    @Test void aBankGoesAsFarAsItFits() throws Exception {
        map("Orchard percussion", regions(66, i -> "pitch_keytrack=0 key=" + (36 + i)));
        map("Thunder", regions(66, _ -> "pitch_keytrack=0 key=36"));
        map("Reeds of the meadow", regions(2, i -> "lokey=%d hikey=%d pitch_keycenter=%d".formatted(61 * i, 60 + 67 * i, 57 + 12 * i)));
        map("Bell", regions(1, _ -> "pitch_keycenter=69"));
        pack(temp.resolve("in"), sheet("files"),
                PackOptions.DEFAULT.withContainer(Choice.of("sf2")).withInstruments(InstrumentOptions.DEFAULT.withBanks(Banks.ONE)), "bank");
        Path bank = only("bank", ".sf2");
        String leftOut = "1 of 4 instruments left out: 'Thunder' (66 zones of 64); nothing makes it fit, as the sounds of a kit cannot stand in for each other",
                divided = "divided by keys, as sounds of a kit cannot stand in for each other: 'Orchard percussion' (66 zones of 64) in 2 parts";
        PackOptions advised = PackOptions.DEFAULT.withInstruments(InstrumentOptions.DEFAULT.withFitting(Fitting.DEFAULT.withMode(Fitting.Mode.ADVISE)));
        assertThat(plan(bank, sheet("card-sampler"), advised).items()).singleElement()
                .satisfies(i -> assertThat(i.reason()).startsWith("more than the device holds: ").endsWith("; " + divided + "; " + leftOut));
        PackingSlip slip = pack(bank, sheet("card-sampler"), PackOptions.DEFAULT, "card");
        assertThat(slip.items()).singleElement().satisfies(i -> {
            assertThat(i.verdict()).isEqualTo("reduced");
            assertThat(i.changes()).extracting(ChangeEntry::reason).startsWith(leftOut, divided);
        });
        assertThat(folders("card")).containsExactlyInAnyOrder("Reeds of the meadow", "Bell", "Orchard percussion 1", "Orchard percussion 2");
        assertThat(written("card", "Bell.preset").zoneCount()).isEqualTo(1);
        List<Integer> keys = new ArrayList<>();
        for (String part : List.of("percussion 1.preset", "percussion 2.preset"))
            written("card", part).instruments().getFirst().zones()
                    .forEach(z -> keys.add(z.get(Parameter.KEYS).low()));
        assertThat(keys).as("each key once").containsExactlyElementsOf(IntStream.range(36, 102).boxed().toList());
    }

    private static String regions(int count, IntFunction<String> words) {
        return IntStream.range(0, count).mapToObj(i -> "<region> sample=reed.wav " + words.apply(i) + "\n").collect(Collectors.joining());
    }

    private Path only(String into, String end) throws IOException {
        try (Stream<Path> files = Files.walk(temp.resolve(into))) {
            return files.filter(f -> f.toString().endsWith(end)).findFirst().orElseThrow();
        }
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
        String click = regions(9, i -> "pitch_keycenter=69 volume=-%d lovel=%d hivel=%d".formatted(9 - i, 1 + 14 * i, i == 8 ? 127 : 14 + 14 * i));
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
        String zones = regions(4, i -> "lokey=%d hikey=%d pitch_keycenter=%d volume=-%d".formatted(40 + 12 * i, 51 + 12 * i, 45 + 12 * i, 4 * i));
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

    /// What is too much for one kit is not for its parts: their samples stay whole.
    @Test void partsOfAKitAreWholeWhereThereIsRoom() throws Exception {
        pack(map("Drums", regions(6, i -> "pitch_keytrack=0 key=" + (36 + i))),
                SheetCatalogue
                        .read("""
                                { "id": "small", "name": "Small", "accepts": { "containers": ["wav"], "instruments": ["preset"], "ratesHz": [11025, 44100], "depths": ["16"], "channels": [1] },
                                  "limits": { "zones": 4, "instrumentBytes": %d } }"""
                                .formatted(2 * FRAMES * 5), "small"),
                PackOptions.DEFAULT, "card");
        for (String part : List.of("1.preset", "2.preset")) {
            InstrumentFile preset = written("card", part);
            for (int i = 0; i < preset.samples().size(); i++)
                assertThat(preset.sound(i).orElseThrow().frames()).isEqualTo(FRAMES);
        }
    }
}
