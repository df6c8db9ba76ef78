package ablecrate.pack;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.destination.SheetCatalogue;
import ablecrate.instrument.SoundMetadata;
import ablecrate.library.Gathered;
import ablecrate.library.Gatherer;
import ablecrate.option.OptionValues;
import ablecrate.plan.PackingList;
import ablecrate.planner.ListeningPlanner;
import ablecrate.signal.Measurements;
import ablecrate.signal.SoundPath;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// One run packs for several destinations.
class SeveralDestinationsTest {
    private static final int RATE = 44_100;
    private static final Set<String> SLIPS = Set.of(Packer.SLIP_JSON, Packer.SLIP_HTML);

    @TempDir Path folder;
    private Path in;

    /// Two compressed sounds, and one that is not.
    @BeforeEach void sounds() throws Exception {
        in = Files.createDirectories(folder.resolve("in"));
        double[] bell = Sounds.signal(RATE, n -> 0.5 * Math.exp(-3.0 * n / RATE) * Math.sin(2 * Math.PI * 440 * n / RATE));
        Sounds.write(in.resolve("bell.mp3"), "mp3", RATE, Depth.INT_16, SoundMetadata.NONE, bell);
        Sounds.write(in.resolve("bottle.flac"), "flac", RATE, Depth.INT_24, SoundMetadata.NONE, bell, Sounds.sine(330, 0.25, RATE, RATE));
        Sounds.wav(in.resolve("tin.wav"), RATE, Depth.INT_16, bell);
    }

    private PackingList plan(String destination, Map<String, Object> said) throws Exception {
        List<Gathered> gathered = Gatherer.readAll(Gatherer.find(List.of(in), () -> false));
        return ListeningPlanner.plan(gathered, new SheetCatalogue().find(destination), OptionValues.options(said), Map.of(), new Measurements(new SoundPath()),
                () -> false, (_, _) -> {});
    }

    private List<PackingList> lists() throws Exception {
        return List.of(plan("files", Map.of("container", "wav", "rate", "48000", "level", "peak:-1")), plan("drum-pads", Map.of()), plan("session", Map.of()));
    }

    private static Packer packer(List<PackingList> lists, StopSignal stop) {
        return new Packer(lists, new SoundPath(), 2, stop, _ -> {}, InstantSource.system());
    }

    private List<Path> folders(String name) { return Stream.of("a", "b", "c").map(n -> folder.resolve(name).resolve(n)).toList(); }

    private static Map<Path, String> contents(Path root) throws IOException {
        Map<Path, String> contents = new HashMap<>();
        try (Stream<Path> files = Files.walk(root)) {
            for (Path file : files.filter(Files::isRegularFile).filter(f -> f.toString().endsWith(".wav")).toList())
                contents.put(root.relativize(file), ablecrate.disk.Checksums.xxh128Hex(file));
        }
        return contents;
    }

    @Test void eachGetsWhatItWouldGetAlone() throws Exception {
        List<Path> together = folders("together"), alone = folders("alone");
        List<PackingSlip> slips = packer(lists(), new StopSignal()).packInto(together);
        assertThat(slips).extracting(PackingSlip::destination).containsExactly("files", "drum-pads", "session");
        assertThat(slips).allMatch(PackingSlip::isAllPacked);
        for (int i = 0; i < together.size(); i++) {
            packer(List.of(lists().get(i)), new StopSignal()).packInto(alone.get(i));
            assertThat(contents(together.get(i))).as("bit for bit").hasSize(3).isEqualTo(contents(alone.get(i)));
        }
        assertThat(together.get(2).resolve("session.json")).as("the document of the session").exists();
        packer(lists(), new StopSignal()).packInto(together)
                .forEach(again -> assertThat(again.outcomes()).as("a second run").isEqualTo(Map.of("skipped", 3)));
    }

    @Test void thePageOfTheFirstTellsOfAll() throws Exception {
        List<Path> into = folders("out");
        packer(lists(), new StopSignal()).packInto(into);
        String first = Files.readString(into.getFirst().resolve(Packer.SLIP_HTML)), second = Files.readString(into.get(1).resolve(Packer.SLIP_HTML));
        assertThat(first.substring(first.indexOf("</style>"))).containsSubsequence("<h2>Plain files</h2>", into.getFirst().toString(), "bell.wav",
                "<h2>Drum pad unit, 9 pads</h2>", into.get(1).toString(), "001-", "<h2>Recording session", into.get(2).toString(), "audio/")
                .containsOnlyOnce("id=\"search\"");
        assertThat(second.substring(second.indexOf("</style>"))).contains("Drum pad unit").doesNotContain("Plain files");
        assertThat(SLIPS).allMatch(s -> Files.exists(into.get(2).resolve(s)));
    }

    @Test void foldersInEachOtherAreRefusedBeforeAnythingIsWritten() throws Exception {
        Path a = folder.resolve("a");
        for (List<Path> into : List.of(List.of(a, a.resolve("b"), folder.resolve("c")), List.of(a, folder.resolve("c"), a)))
            assertThatThrownBy(() -> packer(lists(), new StopSignal()).packInto(into)).isInstanceOf(IOException.class)
                    .hasMessageStartingWith("two destinations pack into " + a);
        assertThat(a).doesNotExist();
        assertThatThrownBy(() -> packer(lists(), new StopSignal()).packInPlace(in)).isInstanceOf(IOException.class)
                .hasMessageContaining("several destinations");
    }

    /// Where one of them cannot be written, the others are.
    @Test void oneThatFailsKeepsNoOtherFromItsFiles() throws Exception {
        List<Path> into = folders("out");
        Files.createDirectories(into.get(1));
        Files.writeString(into.get(1).resolve("001-IN"), "in the way of the kit's folder");
        List<PackingSlip> slips = packer(lists(), new StopSignal()).packInto(into);
        assertThat(slips.get(1).outcomes()).isEqualTo(Map.of("failed", 3));
        assertThat(slips.get(0).outcomes()).isEqualTo(Map.of("packed", 3)).isEqualTo(slips.get(2).outcomes());
    }

    @Test void stoppingStopsAllOfThemAndTheNextRunGoesOn() throws Exception {
        List<Path> into = folders("out");
        StopSignal stop = new StopSignal();
        List<Integer> told = Collections.synchronizedList(new ArrayList<>());
        Packer one = new Packer(lists(), new SoundPath(), 1, stop, new PackListener() {
            @Override public void progress(PackProgress p) {}

            @Override public void done(int list, PackingSlip.Item item) {
                told.add(list);
                if (told.size() >= 2) stop.stop();
            }
        }, InstantSource.system());
        List<PackingSlip> slips = one.packInto(into);
        assertThat(Set.copyOf(told.subList(0, 3))).as("what is made of a sound for all destinations is made together").hasSizeGreaterThan(1);
        assertThat(slips).anyMatch(PackingSlip::isStopped);
        assertThat(slips.stream().mapToInt(s -> s.outcomes().getOrDefault("packed", 0)).sum()).as("two, and those that were being written").isBetween(2, 5);
        assertThat(packer(lists(), new StopSignal()).packInto(into)).allMatch(PackingSlip::isAllPacked);
    }
}
