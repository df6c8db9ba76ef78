package ablecrate.planner.instrument;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Fixtures;
import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.change.Change;
import ablecrate.change.Verdict;
import ablecrate.destination.DestinationSheet.Keeps;
import ablecrate.destination.SheetCatalogue;
import ablecrate.format.Sample;
import ablecrate.format.names.NamePart;
import ablecrate.format.names.NamePlace;
import ablecrate.format.names.NameReading;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Mapping;
import ablecrate.instrument.NoteName;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.Span;
import ablecrate.instrument.Turn;
import ablecrate.instrument.Zone;
import ablecrate.instrument.ZoneGroup;
import ablecrate.library.Gathered;
import ablecrate.library.Gatherer;
import ablecrate.option.Choice;
import ablecrate.option.MetadataChoice;
import ablecrate.option.InstrumentOptions;
import ablecrate.option.ItemEdit;
import ablecrate.option.KitLayout;
import ablecrate.option.MapBy;
import ablecrate.option.Mending;
import ablecrate.option.PackOptions;
import ablecrate.pack.Packer;
import ablecrate.pack.PackingSlip;
import ablecrate.pack.StopSignal;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PackingList;
import ablecrate.planner.ListeningPlanner;
import ablecrate.signal.Measurements;
import ablecrate.signal.SoundPath;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Random;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// What the user decides about instruments, and what the list makes of it.
class InstrumentChoicesTest {
    private static final PackOptions SFZ = PackOptions.DEFAULT.withContainer(Choice.of("sfz"));

    @TempDir Path folder;

    private PackingList plan(PackOptions options, Map<Path, ItemEdit> edits) throws Exception {
        List<Gathered> gathered = Gatherer.readAll(Gatherer.find(List.of(folder), () -> false));
        return ListeningPlanner.plan(gathered, new SheetCatalogue().find("files"), options, edits, new Measurements(new SoundPath()), () -> false,
                (_, _) -> {});
    }

    private static String reasons(PackingItem item) { return item.changes().stream().map(Change::reason).collect(Collectors.joining("\n")); }

    private static List<Zone> zones(PackingItem item) { return item.maps().getFirst().instruments().getFirst().zones(); }

    /// Half a second of the key's note (ISO 16, equal temperament).
    private Path note(String name, double key) throws Exception {
        Path file = folder.resolve(name);
        Files.createDirectories(file.getParent());
        return Sounds.wav(file, 44_100, Depth.INT_16, Sounds.sine(440 * Math.pow(2, (key - 69) / 12), 0.5, 44_100, 22_050));
    }

    private PackingItem instrument(PackingList list) { return list.items().stream().filter(PackingItem::isInstruments).findFirst().orElseThrow(); }

    @Test void aSoundOfTheJobThatWasPutOnAKeyGoesWithTheInstrument() throws Exception {
        note("a.wav", 60);
        Path lid = note("loose/lid.wav", 72), sfz = Files.writeString(folder.resolve("harp.sfz"), "<region> sample=a.wav lokey=40 hikey=80");
        Instrument before = Gatherer.read(new Gathered(sfz, sfz, new Gathered.Content.Unread())).instruments().orElseThrow().instruments().getFirst();
        List<Zone> zones = new ArrayList<>(before.zones());
        zones.add(Zone.of(1).with(Parameter.KEYS, new Span(90, 90)).with(Parameter.ROOT_KEY, 90));
        ItemEdit edit = ItemEdit.NONE.withMap(Optional.of(List.of(before.withGroups(List.of(new ZoneGroup("", zones)))))).withAdded(List.of(lid));
        PackingList list = plan(PackOptions.DEFAULT, Map.of(sfz, edit));
        assertThat(list.items()).as("it goes with the instrument, not once more by itself").hasSize(1);
        assertThat(list.items().getFirst().outputs()).extracting(o -> o.source().path().getFileName().toString()).containsExactly("a.wav", "lid.wav");
        assertThat(zones(list.items().getFirst())).extracting(z -> z.get(Parameter.KEYS)).containsExactly(new Span(40, 80), new Span(90, 90));
        assertThat(plan(PackOptions.DEFAULT, Map.of()).items()).as("without the edit both have lines").hasSize(2);
        Files.delete(lid);
        assertThat(reasons(plan(PackOptions.DEFAULT, Map.of(sfz, edit)).items().getFirst())).contains("'lid.wav': it is not in the job any more");
    }

    /// What suits other zones is offered, not forced: a bank that is kept is kept to the byte, releases that it does not say included.
    @Test void aBankThatIsKeptIsKeptToTheByte() throws Exception {
        Path bank = Files.copy(Fixtures.path("metadata/sf2_tiny_valid.sf2"), folder.resolve("tiny.sf2"));
        PackingList list = plan(PackOptions.DEFAULT, Map.of());
        assertThat(instrument(list).verdict()).isEqualTo(Verdict.KEPT);
        assertThat(zones(instrument(list)).getFirst().said(Parameter.RELEASE)).isEmpty();
        new Packer(list, new SoundPath(), 1, new StopSignal(), _ -> {}, InstantSource.system()).packInto(folder.resolve("out"));
        assertThat(folder.resolve("out/tiny.sf2")).hasSameBinaryContentAs(bank);
    }

    /// Sounds with the same keys and root in their chunks would sound all at once: they take turns, and where there are none the first is taken.
    @Test void soundsOnTheSameKeysTakeTurns() throws Exception {
        for (int turn = 2; turn >= 1; turn--)
            for (int key : new int[]{48, 60})
                Sounds.write(folder.resolve("reed_" + key + "_rr" + turn + ".wav"), "wav", 44_100, Depth.INT_16,
                        SoundMetadata.NONE.withMapping(Mapping.NONE.withRootKey(Optional.of(key))), Sounds.sine(300, 0.5, 44_100, 8820));
        assertThat(zones(instrument(plan(SFZ, Map.of())))).extracting(z -> z.get(Parameter.ROOT_KEY), z -> z.get(Parameter.TURN)).containsExactlyInAnyOrder(
                tuple(48, new Turn(1, 2)), tuple(48, new Turn(2, 2)), tuple(60, new Turn(1, 2)), tuple(60, new Turn(2, 2)));
        PackingItem bank = instrument(plan(PackOptions.DEFAULT.withContainer(Choice.of("sf2")), Map.of()));
        assertThat(zones(bank)).extracting(z -> z.get(Parameter.ROOT_KEY)).containsExactlyInAnyOrder(48, 60);
        assertThat(bank.verdict()).isEqualTo(Verdict.REDUCED);
    }

    /// A loop that only the map tells: beside a map the file stays as it is; taken apart it has to say it itself, unless it is to be left alone.
    @ParameterizedTest @CsvSource({"sfz,false,true,0", "wav,false,false,1", "wav,true,true,0", "sfz,true,true,0"}) void aFileSaysWhatNoMapSaysForIt(
            String container, boolean leave, boolean staysBitForBit, int loopsInFile) throws Exception {
        Sounds.write(folder.resolve("a.wav"), "wav", 44_100, Depth.INT_16, SoundMetadata.NONE.withMapping(Mapping.NONE.withRootKey(Optional.of(48))),
                Sounds.sine(441, 0.5, 44_100, 8820));
        Files.writeString(folder.resolve("harp.sfz"), "<region> sample=a.wav loop_mode=loop_continuous loop_start=1000 loop_end=1999");
        PackOptions options = PackOptions.DEFAULT.withContainer(Choice.of(container)).withMetadata(leave ? MetadataChoice.AS_THEY_ARE : MetadataChoice.ALL);
        PackingList list = plan(options, Map.of());
        PackingItem item = instrument(list);
        assertThat(item.outputs().getFirst().isVerbatim()).isEqualTo(staysBitForBit);
        if (container.equals("sfz"))
            assertThat(zones(item).getFirst().get(Parameter.LOOPS)).extracting(Loop::frames).containsExactly(new FrameRange(1000, 2000));
        Path out = folder.resolve("out");
        PackingSlip slip = new Packer(list, new SoundPath(), 1, new StopSignal(), _ -> {}, InstantSource.system()).packInto(out);
        assertThat(slip.items()).allSatisfy(i -> assertThat(i.outcome()).as("%s", i.error()).isEqualTo("packed"));
        Path written = out.resolve(slip.items().getFirst().outputs().getFirst().path());
        assertThat(Gatherer.read(new Gathered(written, written, new Gathered.Content.Unread())).sound().orElseThrow().metadata().loops()).hasSize(loopsInFile);
    }

    @Test void factsThatAreNotWantedAreLeftOutAndTold() throws Exception {
        SoundMetadata metadata = SoundMetadata.NONE.withMapping(Mapping.NONE.withRootKey(Optional.of(48)))
                .withLoops(List.of(Loop.sustain(new FrameRange(100, 200), LoopMode.FORWARD)));
        Sounds.write(folder.resolve("a.wav"), "wav", 44_100, Depth.INT_16, metadata, Sounds.sine(441, 0.5, 44_100, 8820));
        PackOptions noLoops = PackOptions.DEFAULT.withMetadata(new MetadataChoice(new Keeps(false, true, true, true, true), false, false));
        PackingItem item = plan(noLoops, Map.of()).items().getFirst();
        assertThat(item.outputs().getFirst().metadata().loops()).isEmpty();
        assertThat(item.outputs().getFirst().metadata().mapping().rootKey()).hasValue(48);
        assertThat(item.verdict()).isEqualTo(Verdict.REDUCED);
        assertThat(reasons(item)).contains("1 loop dropped: as chosen");
        assertThat(plan(PackOptions.DEFAULT, Map.of()).items().getFirst().verdict()).isEqualTo(Verdict.KEPT);
    }

    /// A sample that plays A4 (key 69) and is mapped to C4; one a little out of tune is no matter.
    @Test void rootsFarFromThePitchAreToldWhereOneAsks() throws Exception {
        note("a.wav", 69);
        note("b.wav", 60.4);
        Files.writeString(folder.resolve("harp.sfz"), "<region> sample=a.wav key=60 <region> sample=b.wav key=61 pitch_keycenter=60");
        PackOptions checked = PackOptions.DEFAULT.withMending(Mending.NONE.withLooking(true));
        assertThat(reasons(instrument(plan(checked, Map.of())))).contains("1 root far from the pitch that is heard: 'a.wav' has root C4 and sounds like A4")
                .doesNotContain("b.wav");
        assertThat(reasons(instrument(plan(PackOptions.DEFAULT, Map.of())))).doesNotContain("far from the pitch");
    }

    /// Both conventions of naming middle C are in use; what one chooses goes before what is heard.
    @ParameterizedTest @CsvSource({",60", "0,60", "12,72", "-12,48", "5,65"}) void middleCOfNamesCanBeChosen(Integer shift, int root) throws Exception {
        for (int key : new int[]{60, 64, 67})
            note("harp/harp " + NoteName.of(key) + ".wav", key);
        OptionalInt said = shift == null ? OptionalInt.empty() : OptionalInt.of(shift);
        PackingItem item = instrument(plan(SFZ.withInstruments(InstrumentOptions.DEFAULT.withNames(NameReading.FOUND.withShift(said))), Map.of()));
        assertThat(zones(item)).extracting(z -> z.get(Parameter.ROOT_KEY)).containsExactlyInAnyOrder(root, root + 4, root + 7);
    }

    @Test void oneNamePutRightPutsAllOfItsFolderRight() throws Exception {
        for (int i = 0; i < 4; i++)
            note("harp/" + (60 + i) + " harp " + (70 + 2 * i) + ".wav", 70 + 2 * i);
        Path harp = folder.resolve("harp");
        NameReading said = NameReading.FOUND.withPart(NamePlace.ofNumber(-1), NamePart.KEY).withPart(NamePlace.ofNumber(1), NamePart.NOTHING);
        PackingItem item = instrument(plan(SFZ, Map.of(harp, ItemEdit.NONE.withNames(Optional.of(said)))));
        assertThat(zones(item)).extracting(z -> z.get(Parameter.ROOT_KEY)).containsExactlyInAnyOrder(70, 72, 74, 76);
        assertThat(item.source().instruments().orElseThrow().names()).allSatisfy(n -> assertThat(n.parts().getFirst().meaning()).isEqualTo(NamePart.NOTHING));
    }

    /// Numbers that look like keys, of sounds that are heard elsewhere: the pitch counts, and the list says so unasked. Where they fit, they are the keys.
    @ParameterizedTest @CsvSource({"40,true", "60,false", "72,false"}) void numbersFarFromWhatIsHeardAreNoKeys(int first, boolean isDoubtful) throws Exception {
        for (int i = 0; i < 4; i++)
            note(String.format(Locale.ROOT, "harp/harp_%03d.wav", first + i), 60 + (first == 40 ? 5 * i : i));
        PackingItem item = instrument(plan(SFZ, Map.of()));
        assertThat(reasons(item).contains("the numbers in the names are no keys")).isEqualTo(isDoubtful);
        assertThat(zones(item)).extracting(z -> z.get(Parameter.ROOT_KEY)).containsExactlyInAnyOrderElementsOf(
                isDoubtful ? List.of(60, 65, 70, 75) : List.of(60, 61, 62, 63));
        assertThat(item.verdict()).isEqualTo(isDoubtful ? Verdict.ADJUSTED : Verdict.CONVERTED);
    }

    /// A note that all names share may be what the thing is called.
    @Test void oneKeyForAllIsDoubted() throws Exception {
        Random random = new Random(1);
        Files.createDirectories(folder.resolve("tins"));
        for (int i = 1; i <= 3; i++)
            Sounds.wav(folder.resolve("tins/Kettle Drum A1 24bit 0" + i + ".wav"), 44_100, Depth.INT_16, Sounds.signal(8820, _ -> 0.2 * random.nextGaussian()));
        PackingItem item = instrument(plan(SFZ, Map.of()));
        assertThat(reasons(item)).contains("all names say the same key, A1");
        assertThat(item.verdict()).isEqualTo(Verdict.ADJUSTED);
    }

    /// A kit of neighbouring keys, with keys left free, of each folder or of all of them.
    @ParameterizedTest @CsvSource({"1,false,2,36 37", "4,false,2,36 40", "1,true,1,36 37 38 39", "12,true,1,36 48 60 72"}) void aKitIsLaidOutAsChosen(int step,
            boolean ofAll, int instruments, String keys) throws Exception {
        for (String name : List.of("a/lid", "a/spoon", "b/ladle", "b/pan"))
            note(name + ".wav", 60);
        PackingList list = plan(SFZ.withInstruments(InstrumentOptions.DEFAULT.withMapBy(MapBy.KIT).withKit(new KitLayout(36, step, ofAll))), Map.of());
        assertThat(list.items()).hasSize(instruments);
        assertThat(zones(list.items().getFirst()).stream().map(z -> Integer.toString(z.get(Parameter.KEYS).low())).collect(Collectors.joining(" ")))
                .isEqualTo(keys);
        if (ofAll)
            assertThat(list.items().getFirst().source().instruments().orElseThrow().samples()).extracting(Sample::name).as("in the order of their names")
                    .containsExactly("ladle", "lid", "pan", "spoon");
    }

    @Test void whatAKitHasNoKeyForIsTold() throws Exception {
        for (int i = 0; i < 5; i++)
            note("kit/tin " + i + ".wav", 60);
        PackingItem item = instrument(
                plan(SFZ.withInstruments(InstrumentOptions.DEFAULT.withMapBy(MapBy.KIT).withKit(new KitLayout(120, 3, false))), Map.of()));
        assertThat(zones(item)).extracting(z -> z.get(Parameter.ROOT_KEY)).containsExactly(120, 123, 126);
        assertThat(reasons(item)).contains("a kit from key 120 has room for 3 sounds; 2 are left out");
    }

    /// The instrument was moved away from its sounds, which were converted since, and there are two of one name.
    @Test void lostSoundsAreFoundByNameAndByWhatIsPlayedOfThem() throws Exception {
        Path home = Files.createDirectories(folder.resolve("instrument"));
        Sounds.write(Files.createDirectories(folder.resolve("elsewhere")).resolve("reed.aif"), "aiff", 44_100, Depth.INT_16, SoundMetadata.NONE,
                Sounds.sine(441, 0.5, 44_100, 4000));
        Sounds.wav(folder.resolve("elsewhere/pipe.wav"), 44_100, Depth.INT_16, Sounds.sine(441, 0.5, 44_100, 2000));
        Path whole = Sounds.wav(Files.createDirectories(folder.resolve("older")).resolve("pipe.wav"), 44_100, Depth.INT_16,
                Sounds.sine(441, 0.5, 44_100, 9000));
        Path sfz = Files.writeString(home.resolve("organ.sfz"),
                "<region> sample=gone/reed.wav key=60 <region> sample=gone/pipe.wav key=61 loop_start=3000 loop_end=7999 <region> sample=gone/none.wav key=62");
        var file = Gatherer.read(new Gathered(sfz, sfz, new Gathered.Content.Unread())).instruments().orElseThrow();
        assertThat(file.sound(0).orElseThrow().path()).hasFileName("reed.aif");
        assertThat(file.sound(1).orElseThrow().path().toRealPath()).isEqualTo(whole.toRealPath());
        assertThat(file.samples().get(2)).isInstanceOf(Sample.Missing.class);
        assertThat(file.problems()).anyMatch(p -> p.text().contains("was found at ../older/pipe.wav"))
                .anyMatch(p -> p.text().contains("none.wav' is not there"));
    }

    /// Sides by name become one sound; loops that differ are told, sides that do not fit stay what they are.
    @Test void leftAndRightBecomeOneSound() throws Exception {
        for (String side : List.of("L", "R"))
            for (int key : new int[]{60, 64, 67})
                Sounds.write(Files.createDirectories(folder.resolve("harp")).resolve("harp " + NoteName.of(key) + " " + side + ".wav"), "wav", 44_100,
                        Depth.INT_16,
                        SoundMetadata.NONE
                                .withLoops(List.of(Loop.sustain(new FrameRange(1000, key == 64 && side.equals("R") ? 9000 : 8000), LoopMode.FORWARD))),
                        Sounds.sine(440 * Math.pow(2, (key - 69) / 12.0), side.equals("L") ? 0.5 : 0.25, 44_100, 22_050));
        PackingItem item = instrument(plan(SFZ, Map.of()));
        assertThat(zones(item)).extracting(z -> z.get(Parameter.ROOT_KEY)).containsExactlyInAnyOrder(60, 64, 67);
        assertThat(item.outputs()).hasSize(3).allMatch(o -> o.shape().channels() == 2);
        double[][] both = Sounds.readAll(item.outputs().getFirst().source().open());
        assertThat(List.of(Sounds.rms(both[0], 0, 22_050), Sounds.rms(both[1], 0, 22_050))).satisfies(rms -> {
            assertThat(rms.get(0)).isCloseTo(0.5 / Math.sqrt(2), within(0.002));
            assertThat(rms.get(1)).as("right is right").isCloseTo(0.25 / Math.sqrt(2), within(0.002));
        });
        assertThat(reasons(item)).contains("the loops of 'harp E4 L.wav' and 'harp E4 R.wav' differ; those of one side are used for both");
        Path right = folder.resolve("harp/harp C4 R.wav");
        Sounds.wav(right, 48_000, Depth.INT_16, Sounds.sine(261.6, 0.25, 48_000, 24_000));
        assertThat(instrument(plan(SFZ, Map.of())).outputs()).as("a side at another rate is no side of it").hasSize(4);
    }

    /// Without a key in its name a sound lies where it sounds; noise lies nowhere, and is told.
    @Test void whatSaysNoKeyLiesWhereItSounds() throws Exception {
        for (int key : new int[]{57, 62})
            note("reeds/reed " + "abcdefg".charAt(key - 57) + "x.wav", key);
        java.util.Random random = new java.util.Random(3);
        Sounds.wav(folder.resolve("reeds/wind through it.wav"), 44_100, Depth.INT_16, Sounds.signal(22_050, _ -> random.nextDouble() - 0.5));
        PackingItem item = instrument(plan(SFZ.withInstruments(InstrumentOptions.DEFAULT.withMapBy(MapBy.NAMES)), Map.of()));
        assertThat(zones(item)).extracting(z -> z.get(Parameter.ROOT_KEY)).containsExactlyInAnyOrder(57, 62);
        assertThat(reasons(item)).contains("'wind through it.wav' says no key in its name and has no clear pitch; it is left out");
    }

    /// Layers and turns that names tell become velocities and a round robin.
    @Test void layersAndTurnsAreTakenFromNames() throws Exception {
        for (int key : new int[]{60, 66})
            for (int layer = 1; layer <= 2; layer++)
                for (int turn = 1; turn <= 3; turn++)
                    note("harp/harp " + NoteName.of(key) + " v" + layer + " rr" + turn + ".wav", key);
        PackingItem item = instrument(plan(SFZ, Map.of()));
        assertThat(zones(item)).hasSize(12).allSatisfy(z -> assertThat(z.get(Parameter.TURN).length()).isEqualTo(3));
        for (int key : new int[]{60, 66}) {
            List<Zone> of = zones(item).stream().filter(z -> z.get(Parameter.ROOT_KEY) == key).toList();
            assertThat(of).extracting(z -> z.get(Parameter.TURN).position()).containsExactlyInAnyOrder(1, 2, 3, 1, 2, 3);
            for (int velocity = 1; velocity <= 127; velocity++) {
                int v = velocity;
                assertThat(of.stream().filter(z -> z.get(Parameter.VELOCITIES).contains(v))).as("key %d, velocity %d", key, v).hasSize(3);
            }
        }
    }

    @Test void ofTwoThatFitNeitherIsGuessed() throws Exception {
        for (int i = 1; i <= 2; i++)
            Sounds.wav(Files.createDirectories(folder.resolve("take " + i)).resolve("pipe.wav"), 44_100, Depth.INT_16,
                    Sounds.sine(441, 0.5, 44_100, 5000 * i));
        Path sfz = Files.writeString(folder.resolve("organ.sfz"), "<region> sample=gone/pipe.wav");
        assertThat(Gatherer.read(new Gathered(sfz, sfz, new Gathered.Content.Unread())).instruments().orElseThrow().samples().getFirst())
                .isInstanceOf(Sample.Missing.class);
        Files.writeString(sfz, "<region> sample=gone/pipe.wav end=8000");
        assertThat(Gatherer.read(new Gathered(sfz, sfz, new Gathered.Content.Unread())).instruments().orElseThrow().sound(0).orElseThrow().durationSeconds())
                .isCloseTo(10_000 / 44_100.0, within(1e-9));
    }
}
