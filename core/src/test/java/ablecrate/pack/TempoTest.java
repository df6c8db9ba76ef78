package ablecrate.pack;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.change.Verdict;
import ablecrate.codec.FileKind;
import ablecrate.codec.SoundFile;
import ablecrate.destination.SheetCatalogue;
import ablecrate.instrument.Cue;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Mapping;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.TextField;
import ablecrate.library.Gatherer;
import ablecrate.option.OptionValues;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PackingList;
import ablecrate.planner.ListeningPlanner;
import ablecrate.signal.Measurements;
import ablecrate.signal.SoundPath;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// Clips are brought to a tempo by playing them faster or slower.
class TempoTest {
    private static final int RATE = 44_100, FRAMES = 8 * RATE;

    @TempDir Path folder;

    private Path clip(String name, SoundMetadata metadata, double hz) throws Exception {
        Path file = folder.resolve("in").resolve(name);
        Files.createDirectories(file.getParent());
        return Sounds.write(file, name.endsWith("flac") ? "flac" : "wav", RATE, Depth.INT_24, metadata, Sounds.sine(hz, 0.5, RATE, FRAMES));
    }

    private PackingList plan(String destination, Map<String, Object> said) throws Exception {
        return ListeningPlanner.plan(Gatherer.readAll(Gatherer.find(List.of(folder.resolve("in")), () -> false)), new SheetCatalogue().find(destination),
                OptionValues.options(said), Map.of(), new Measurements(new SoundPath()), () -> false, (_, _) -> {});
    }

    private SoundFile packed(String name, Map<String, Object> said) throws Exception {
        PackingSlip slip = new Packer(plan("files", said), new SoundPath(), 2, new StopSignal(), _ -> {}, InstantSource.system())
                .packInto(folder.resolve("out"));
        assertThat(slip.isAllPacked()).as("%s", slip.items()).isTrue();
        Path file = folder.resolve("out").resolve(name);
        return ((FileKind.Sound) FileKind.of(file)).read(file);
    }

    private static String told(PackingItem item) {
        return item.changes().stream().filter(c -> c.property().id().equals("tempo"))
                .map(c -> c.text().before() + " → " + c.text().after() + ": " + c.text().reason())
                .findFirst().orElse("");
    }

    /// 1200 cents to an octave: 1.2 times as fast is 1200·log2(1.2) = 315.64 cents higher.
    @Test void aClipGoesAtTheTempoAndSoundsHigherByAsMuch() throws Exception {
        SoundMetadata metadata = SoundMetadata.NONE.withLoops(List.of(Loop.sustain(new FrameRange(RATE, 5 * RATE), LoopMode.FORWARD)))
                .withCues(List.of(new Cue(1, 6 * RATE, 0, Optional.of("turn"), Optional.empty())))
                .withMapping(Mapping.NONE.withRootKey(Optional.of(60)));
        clip("reeds 100 bpm.wav", metadata, 440);
        assertThat(told(plan("files", Map.of("to-tempo", "120")).items().getFirst()))
                .isEqualTo("100 bpm → 120 bpm: played 1.2000 times as fast, 316 cents higher");
        SoundFile faster = packed("reeds 100 bpm.wav", Map.of("to-tempo", "120"));
        assertThat(faster.frames()).isEqualTo(Math.round(FRAMES / 1.2));
        assertThat(faster.rateHz()).isEqualTo(RATE);
        double[] samples = Sounds.readAll(faster.open())[0];
        assertThat(Sounds.residueDb(samples, 528, RATE, 1000, samples.length - 1000)).as("what is no 528 Hz").isLessThan(-100);
        assertThat(faster.metadata().loops().getFirst().frames()).isEqualTo(new FrameRange(36_750, 183_750));
        assertThat(faster.metadata().cues().getFirst().frame()).isEqualTo(5 * RATE);
        Mapping mapping = faster.metadata().mapping();
        assertThat(-100.0 * mapping.rootKey().orElseThrow() + mapping.fineTuneCents()).as("root and tuning together follow, as the loop does")
                .isCloseTo(-6000 - 315.64, within(0.5));
    }

    @Test void texts() throws Exception {
        clip("reeds.flac", SoundMetadata.NONE.withTexts(Map.of(TextField.TEMPO, "100", TextField.MUSICAL_KEY, "Am", TextField.ARTIST, "The Orchard")), 440);
        SoundFile far = packed("reeds.flac", Map.of("to-tempo", "120"));
        assertThat(far.metadata().texts()).containsEntry(TextField.TEMPO, "120").containsEntry(TextField.ARTIST, "The Orchard")
                .doesNotContainKey(TextField.MUSICAL_KEY);
        assertThat(told(plan("files", Map.of("to-tempo", "120")).items().getFirst())).endsWith("; the key that it says is left out");
        SoundFile near = packed("reeds.flac", Map.of("to-tempo", "102", "existing", "replace"));
        assertThat(near.metadata().texts()).as("a third of a semitone").containsEntry(TextField.TEMPO, "102").containsEntry(TextField.MUSICAL_KEY, "Am");
    }

    @Test void halfAndDoubleAreTheSameTempo() throws Exception {
        Path slow = clip("slow 60 bpm.wav", SoundMetadata.NONE, 440);
        clip("quick 150 bpm.wav", SoundMetadata.NONE, 440);
        List<PackingItem> items = plan("files", Map.of("to-tempo", "120")).items();
        assertThat(items).extracting(i -> told(i).split(":")[0]).containsExactly("150 bpm → 120 bpm", "");
        packed("slow 60 bpm.wav", Map.of("to-tempo", "120"));
        assertThat(Files.mismatch(slow, folder.resolve("out/slow 60 bpm.wav"))).as("what fits is not touched").isEqualTo(-1);
        assertThat(plan("session", Map.of("tempo", "75", "to-tempo", "session")).items()).as("of the session")
                .extracting(i -> told(i).split(":")[0]).containsExactly("", "60 bpm → 75 bpm");
    }

    /// A guess would bend the pitch of what has no tempo.
    @Test void whatSaysNoTempoAndLetsNoneBeHeardStays() throws Exception {
        clip("hum.wav", SoundMetadata.NONE, 220);
        for (String stem : List.of("overture bells", "overture drums", "overture harp"))
            clip("stems/" + stem + ".wav", SoundMetadata.NONE, 330);
        assertThat(plan("files", Map.of("to-tempo", "120")).items()).allMatch(i -> i.verdict() == Verdict.KEPT).extracting(TempoTest::told)
                .contains("as it is → as it is: no tempo is heard that stands out; say it if it has one")
                .contains("as it is → as it is: neither the names of the stems nor their texts say their tempo; say it");
        assertThat(plan("files", Map.of("to-tempo", "120", "bpm", "100")).items()).as("said for all").allMatch(i -> told(i).startsWith("100 bpm → 120 bpm"));
        assertThat(plan("files", Map.of("to-tempo", "session")).items()).allMatch(i -> told(i).endsWith("the destination is no session; say a tempo"));
    }

    /// One says its tempo, another in other words; apart by a hundredth they would drift by 20 ms in four minutes.
    @Test void stemsGetOneSpeed() throws Exception {
        clip("stems/overture bells.wav", SoundMetadata.NONE, 330);
        clip("stems/overture drums 100 bpm.wav", SoundMetadata.NONE, 330);
        Sounds.wav(folder.resolve("in/stems/overture harp 100.01 bpm.wav"), RATE, Depth.INT_24, Sounds.sine(220, 0.5, RATE, FRAMES + 777));
        List<PackingItem> items = plan("files", Map.of("to-tempo", "120", "equal-length", "true")).items();
        assertThat(items).extracting(i -> told(i).split(":")[0]).containsOnly("100 bpm → 120 bpm");
        assertThat(items).extracting(i -> i.outputs().getFirst().shape().frames()).containsOnly((long) Math.ceil((FRAMES + 777) / 1.2));
        assertThat(items).extracting(i -> i.outputs().getFirst().sourceChain().outputStep()).as("one ratio").containsOnly(83_333_333L);
    }

    @Test void namesSortIntoFoldersByTempo() throws Exception {
        clip("reeds 100 bpm.wav", SoundMetadata.NONE, 440);
        clip("hum.wav", SoundMetadata.NONE, 220);
        assertThat(plan("files", Map.of("name", "(tempo) bpm/(name)")).items()).flatExtracting(PackingItem::outputs).extracting("path")
                .as("what says none lies beside the folders").containsExactly("hum.wav", "100 bpm/reeds 100 bpm.wav");
        assertThat(plan("files", Map.of("name", "(tempo) bpm/(name)", "to-tempo", "120")).items()).flatExtracting(PackingItem::outputs).extracting("path")
                .contains("120 bpm/reeds 100 bpm.wav");
        assertThat(plan("files", Map.of("name", "../(name)")).items()).flatExtracting(PackingItem::outputs).extracting("path")
                .as("not out of the folder").containsExactly("sound/hum.wav", "sound/reeds 100 bpm.wav");
        assertThat(plan("drum-pads", Map.of("name", "(tempo)/(pad)")).items()).flatExtracting(PackingItem::outputs)
                .extracting(o -> o.toString().contains("/100/"))
                .as("where a destination has folders of its own").containsOnly(false);
    }
}
