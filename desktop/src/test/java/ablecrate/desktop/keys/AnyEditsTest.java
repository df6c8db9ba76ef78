package ablecrate.desktop.keys;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.audio.Depth;
import ablecrate.codec.SoundFormats;
import ablecrate.codec.WholeSound;
import ablecrate.desktop.Background;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.desktop.list.PackingListModel;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.Zone;
import ablecrate.job.Job;
import ablecrate.job.Jobs;
import ablecrate.library.Catalogue;
import ablecrate.option.Choice;
import ablecrate.plan.PackingItem;
import ablecrate.change.Verdict;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.stream.IntStream;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/// Hands that do anything at all on the key bench.
class AnyEditsTest {
    private static final int EDITS = 60;

    @TempDir Path folder;
    private final Deque<Runnable> later = new ArrayDeque<>();
    private final CrateModel crate = new CrateModel(new Background(Runnable::run, later::add), Catalogue.none());
    private final PackingListModel list = new PackingListModel(crate);
    private final KeysModel keys = new KeysModel(crate, list);

    static IntStream seeds() { return IntStream.rangeClosed(1, 12); }

    private void settle() {
        while (!later.isEmpty())
            later.poll().run();
    }

    private Path sound(String name) throws Exception {
        WholeSound.write(folder.resolve(name), SoundFormats.written("wav").orElseThrow(), 44_100, Depth.INT_16, SoundMetadata.NONE, List.of(),
                new double[][]{new double[3000]});
        return folder.resolve(name);
    }

    /// After each edit every zone has keys and velocities that exist, the list knows of it and would pack it; taken back step by step, all is as it was,
    /// and done again step by step as it became. What is saved in between opens the same.
    @ParameterizedTest @MethodSource("seeds") void nothingBreaksAndEverythingIsTakenBack(int seed) throws Exception {
        Random random = new Random(seed);
        List<Path> loose = List.of(sound("lid.wav"), sound("ladle.wav"));
        sound("tone.wav");
        Files.writeString(folder.resolve("harp.sfz"), """
                <group> sample=tone.wav
                <region> lokey=0 hikey=49 hivel=60 pitch_keycenter=45
                <region> lokey=50 hikey=59 hivel=60 pitch_keycenter=55
                <region> lokey=60 hikey=127 pitch_keycenter=65
                <group> sample=tone.wav trigger=release
                <region> lokey=50 hikey=59 lovel=61 pitch_keycenter=55
                """);
        crate.gather(List.of(folder));
        settle();
        crate.aim("files");
        crate.changeOptions(o -> o.withContainer(seed % 2 == 0 ? Choice.of("sf2") : Choice.asDestination()), "container");
        settle();
        PackingItem line = list.all().stream().filter(PackingItem::isInstruments).filter(i -> i.source().fileName().equals("harp.sfz")).findFirst()
                .orElseThrow();
        list.choose(List.of(line), Optional.of(line));
        Job before = crate.job();
        Instrument first = keys.instrumentProperty().get().orElseThrow();
        List<Job> steps = new ArrayList<>(List.of(before));
        for (int i = 0; i < EDITS; i++) {
            edit(random, loose);
            settle();
            if (!crate.job().equals(steps.getLast())) steps.add(crate.job());
            assertThat(keys.zones()).allSatisfy(AnyEditsTest::assertExists);
            assertThat(keys.chosen()).allMatch(z -> z < keys.zones().size());
            Optional<PackingItem> now = list.all().stream().filter(p -> p.source().fileName().equals("harp.sfz")).findFirst();
            if (!keys.zones().isEmpty()) assertThat(now.orElseThrow().verdict()).as("after edit %d", i).isNotEqualTo(Verdict.BLOCKED);
        }
        Jobs.save(crate.job(), folder.resolve("job.ablecrate"));
        assertThat(Jobs.open(folder.resolve("job.ablecrate"))).isEqualTo(crate.job());
        Job after = crate.job();
        while (crate.canUndoProperty().get() && !crate.job().equals(before)) {
            crate.undo();
            settle();
        }
        assertThat(crate.job()).isEqualTo(before);
        assertThat(keys.instrumentProperty().get()).hasValue(first);
        while (crate.canRedoProperty().get()) {
            crate.redo();
            settle();
        }
        assertThat(crate.job()).isEqualTo(after);
    }

    private static void assertExists(Zone zone) {
        assertThat(zone.get(Parameter.KEYS).low()).isBetween(0, zone.get(Parameter.KEYS).high());
        assertThat(zone.get(Parameter.KEYS).high()).isLessThanOrEqualTo(127);
        assertThat(zone.get(Parameter.VELOCITIES).low()).isBetween(1, zone.get(Parameter.VELOCITIES).high());
        assertThat(zone.get(Parameter.VELOCITIES).high()).isLessThanOrEqualTo(127);
        assertThat(zone.get(Parameter.ROOT_KEY)).isBetween(0, 127);
    }

    private void edit(Random random, List<Path> loose) {
        if (random.nextInt(3) == 0 && !keys.zones().isEmpty()) keys.choose(random.nextInt(keys.zones().size()), random.nextBoolean());
        int by = random.nextInt(31) - 15;
        switch (random.nextInt(9)) {
            case 0 -> keys.stretch(Edge.values()[random.nextInt(4)], by, random.nextBoolean(), false);
            case 1 -> keys.move(by, 0, false);
            case 2 -> keys.move(0, by, false);
            case 3 -> keys.split();
            case 4 -> keys.merge();
            case 5 -> keys.set(z -> z.with(Parameter.ROOT_KEY, Math.clamp(z.get(Parameter.ROOT_KEY) + by, 0, 127)), "root keys");
            case 6 -> keys.putSounds(loose.subList(0, 1 + random.nextInt(2)), random.nextInt(128), 1 + random.nextInt(127));
            case 7 -> keys.walk(random.nextInt(3) - 1, 1);
            default -> {
                if (keys.zones().size() - keys.chosen().size() > 1 && random.nextInt(4) == 0) keys.takeOut();
            }
        }
    }
}
