package ablecrate.pack;

import static ablecrate.Sounds.sine;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.destination.DestinationSheet;
import ablecrate.destination.NameRules;
import ablecrate.destination.SheetCatalogue;
import ablecrate.disk.Checksums;
import ablecrate.format.InstrumentFormats;
import ablecrate.instrument.Instrument;
import ablecrate.json.Json;
import ablecrate.library.Gatherer;
import ablecrate.option.PackOptions;
import ablecrate.planner.Planner;
import ablecrate.signal.SoundPath;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/// Kits on a card are deleted, renamed and put in another order, and all of it can be taken back.
class CardEditsTest {
    @TempDir Path folder;
    private Path card;

    @BeforeEach void twoKits() throws Exception {
        for (int i = 1; i <= 18; i++)
            Sounds.wav(Files.createDirectories(folder.resolve("in/Tin Kitchen")).resolve("tin " + (char) ('a' + i) + ".wav"), 44_100, Depth.INT_16,
                    sine(200 + i, 0.5, 44_100, 2000));
        card = folder.resolve("card");
        pack();
        assertThat(files()).hasSize(18);
    }

    private PackingSlip pack() throws Exception { return pack("drum-pads", folder.resolve("in")); }

    private PackingSlip pack(String destination, Path source) throws Exception {
        DestinationSheet sheet = new SheetCatalogue().byId(destination).orElseThrow();
        var gathered = Gatherer.readAll(Gatherer.find(List.of(source), () -> false));
        var list = Planner.plan(gathered, sheet, PackOptions.DEFAULT, Map.of(), _ -> Optional.empty(), Cards.of(card, sheet));
        return new Packer(list, new SoundPath(), 2, new StopSignal(), _ -> {}, InstantSource.system()).packInto(card);
    }

    /// Each with its bytes.
    private Map<String, String> files() throws IOException {
        Map<String, String> all = new TreeMap<>();
        try (Stream<Path> inside = Files.walk(card)) {
            for (Path file : inside.filter(f -> f.toString().endsWith(".WAV") || f.toString().endsWith(".wav")).toList())
                all.put(card.relativize(file).toString().replace('\\', '/'), Checksums.xxh128Hex(file));
        }
        return all;
    }

    private List<String> onSlip() throws Exception {
        return Json.read(card.resolve(Packer.SLIP_JSON), PackingSlip.class).items().stream().flatMap(i -> i.files().stream()).map(PackingSlip.Written::path)
                .sorted()
                .toList();
    }

    private List<String> kits() throws IOException {
        return files().keySet().stream().map(f -> f.substring(0, f.indexOf('/'))).distinct().toList();
    }

    @Test void aKitIsDeletedAndBroughtBack() throws Exception {
        Map<String, String> before = files();
        String kit = kits().getFirst();
        try (CardEdits edits = new CardEdits(card)) {
            List<String> ours = edits.filesIn(kit);
            assertThat(edits.obstacle(ours)).isEmpty();
            edits.delete(ours);
            assertThat(card.resolve(kit)).doesNotExist();
            assertThat(files()).hasSize(9);
            assertThat(onSlip()).containsExactlyElementsOf(files().keySet());
            edits.undo();
            assertThat(files()).isEqualTo(before);
            assertThat(onSlip()).containsExactlyElementsOf(before.keySet());
            assertThat(edits.obstacle(ours)).as("as packing left it").isEmpty();
            assertThat(pack().outcomes()).as("nothing is written again").containsOnlyKeys("skipped");
        }
    }

    /// The next pack knows where the kits are: nothing is written twice.
    @Test void kitsChangePlacesAndAreFoundThereByTheNextPack() throws Exception {
        Map<String, String> before = files();
        List<String> kits = kits();
        String first = kits.get(0), second = kits.get(1), late = second.substring(0, 3) + first.substring(3),
                early = first.substring(0, 3) + second.substring(3);
        try (CardEdits edits = new CardEdits(card)) {
            edits.rename(Map.of(first, late, second, early));
            assertThat(kits()).containsExactly(early, late);
            assertThat(files().values()).containsExactlyInAnyOrderElementsOf(before.values());
            assertThat(onSlip()).containsExactlyElementsOf(files().keySet());
            assertThat(pack().outcomes()).containsOnlyKeys("skipped");
            edits.undo();
            assertThat(files()).isEqualTo(before);
        }
    }

    @Test void whatIsNotOursOrWasChangedIsLeftAlone() throws Exception {
        String kit = kits().getFirst();
        try (CardEdits edits = new CardEdits(card)) {
            Files.write(card.resolve(kit + "/9-OTHER.WAV"), new byte[]{1});
            assertThat(edits.obstacle(edits.filesIn(kit))).hasValue("'" + kit + "/9-OTHER.WAV' was not packed by Able Crate");
            Files.delete(card.resolve(kit + "/9-OTHER.WAV"));
            String one = edits.filesIn(kit).getFirst();
            Files.write(card.resolve(one), new byte[]{1, 2, 3});
            assertThat(edits.obstacle(List.of(one))).hasValue("'" + one + "' was changed since it was packed");
            Files.createDirectory(card.resolve("007-TAKEN"));
            assertThatThrownBy(() -> edits.rename(Map.of(kit, "007-TAKEN"))).isInstanceOf(IOException.class).hasMessageContaining("is there already");
        }
    }

    /// A card that is pulled half-way: all that was moved goes back.
    @Test void whatCannotBeDoneInFullIsNotDone() throws Exception {
        Map<String, String> before = files();
        try (CardEdits edits = new CardEdits(card)) {
            List<String> more = Stream.concat(edits.filesIn(kits().getFirst()).stream(), Stream.of("never/there.WAV")).toList();
            assertThatThrownBy(() -> edits.delete(more)).isInstanceOf(IOException.class);
            assertThat(files()).isEqualTo(before);
            assertThat(edits.canUndo()).isFalse();
        }
    }

    private void packInstrument(String destination) throws Exception {
        Path harp = Files.createDirectories(folder.resolve("harp"));
        Sounds.wav(harp.resolve("Harp.wav"), 44_100, Depth.INT_16, sine(220, 0.5, 44_100, 20_000));
        Sounds.wav(harp.resolve("high.wav"), 44_100, Depth.INT_16, sine(440, 0.5, 44_100, 20_000));
        Path map = Files.writeString(harp.resolve("Harp.sfz"),
                "<region> sample=Harp.wav lokey=40 hikey=60 pitch_keycenter=57 <region> sample=high.wav lokey=61 hikey=80 pitch_keycenter=69");
        card = folder.resolve("instruments");
        pack(destination, map);
    }

    /// Devices show the name that stands in the file: it changes with those of file and folder, and the next pack takes the file for ours.
    @ParameterizedTest @ValueSource(strings = {"keyboard-sampler", "card-sampler"}) void anInstrumentIsRenamedInsideItsFileAsWell(String destination)
            throws Exception {
        packInstrument(destination);
        String map = onSlip().stream().filter(f -> f.matches(".*\\.(program|preset)")).findFirst().orElseThrow();
        boolean isFolder = map.contains("/");
        String path = isFolder ? map.substring(0, map.indexOf('/')) : map;
        Map<String, String> before = files();
        byte[] was = Files.readAllBytes(card.resolve(map));
        try (CardEdits edits = new CardEdits(card)) {
            NameRules rules = new NameRules(new SheetCatalogue().byId(destination).orElseThrow().names());
            String now = edits.rename(path, "Pantry: all", rules);
            String file = isFolder ? now + "/" + now + ".preset" : now;
            assertThat(InstrumentFormats.of(card.resolve(file)).orElseThrow().read(card.resolve(file)).instruments().getFirst().name())
                    .isEqualTo("Pantry: all");
            assertThat(card.resolve(path)).doesNotExist();
            assertThat(onSlip()).contains(file).doesNotContain(map);
            assertThat(edits.obstacle(edits.filesIn(now))).as("still ours").isEmpty();
            assertThat(files().values()).as("sounds as they were").containsExactlyInAnyOrderElementsOf(before.values());
            edits.undo();
            assertThat(Files.readAllBytes(card.resolve(map))).isEqualTo(was);
            assertThat(files()).isEqualTo(before);
            assertThat(edits.obstacle(edits.filesIn(path))).isEmpty();
        }
    }

    /// Of a bank only the bytes of that name change; the next pack leaves it as it is.
    @Test void anInstrumentOfABankIsRenamed() throws Exception {
        packInstrument("bank-player");
        String bank = onSlip().stream().filter(f -> f.endsWith(".sf2")).findFirst().orElseThrow();
        Path file = card.resolve(bank);
        byte[] was = Files.readAllBytes(file);
        try (CardEdits edits = new CardEdits(card)) {
            edits.rename(bank, 0, "Pantry of the long night");
            byte[] now = Files.readAllBytes(file);
            assertThat(InstrumentFormats.of(file).orElseThrow().read(file).instruments()).extracting(Instrument::name).containsExactly("Pantry of the long n");
            assertThat(now).hasSameSizeAs(was);
            assertThat(IntStream.range(0, was.length).filter(i -> now[i] != was[i]).summaryStatistics())
                    .satisfies(s -> assertThat(s.getMax() - s.getMin()).isLessThan(20));
            assertThat(edits.obstacle(List.of(bank))).as("still ours").isEmpty();
            PackingSlip again = pack("bank-player", folder.resolve("harp/Harp.sfz"));
            assertThat(again.items()).singleElement().satisfies(i -> assertThat(i.maps().getFirst().state()).isEqualTo("skipped"));
            assertThat(Files.readAllBytes(file)).isEqualTo(now);
            assertThatThrownBy(() -> edits.rename(bank, 1, "No such")).hasMessageContaining("has no name there");
            edits.undo();
            assertThat(Files.readAllBytes(file)).isEqualTo(was);
            assertThat(edits.canUndo()).isFalse();
        }
    }

    @Test void aNameThatIsTakenChangesNothing() throws Exception {
        packInstrument("keyboard-sampler");
        String map = onSlip().stream().filter(f -> f.endsWith(".program")).findFirst().orElseThrow();
        Files.write(card.resolve("Pantry.program"), new byte[]{1});
        try (CardEdits edits = new CardEdits(card)) {
            NameRules rules = new NameRules(new SheetCatalogue().byId("keyboard-sampler").orElseThrow().names());
            assertThatThrownBy(() -> edits.rename(map, "Pantry", rules)).hasMessageContaining("'Pantry.program' is there already");
            assertThatThrownBy(() -> edits.rename("Pantry.program", "Cupboard", rules)).hasMessageContaining("says no name");
            assertThat(card.resolve(map)).exists();
            assertThat(edits.canUndo()).isFalse();
        }
    }
}
