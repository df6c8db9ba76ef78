package ablecrate.planner;

import static ablecrate.Sounds.sine;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.change.Property;
import ablecrate.change.Verdict;
import ablecrate.destination.DestinationSheet;
import ablecrate.destination.SheetCatalogue;
import ablecrate.format.InstrumentFile;
import ablecrate.format.InstrumentFormats;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Mapping;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.PlayingSettings;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.Span;
import ablecrate.library.Gathered;
import ablecrate.library.Gatherer;
import ablecrate.option.Choice;
import ablecrate.option.ExistingFiles;
import ablecrate.option.OptionConflict;
import ablecrate.option.Fitting;
import ablecrate.option.InstrumentOptions;
import ablecrate.option.PackOptions;
import ablecrate.option.Playing;
import ablecrate.pack.PackingSlip;
import ablecrate.pack.Packer;
import ablecrate.pack.StopSignal;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PackingList;
import ablecrate.plan.PlannedOutput;
import ablecrate.signal.Measurements;
import ablecrate.signal.SoundPath;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/// What sheets of devices say is obeyed, or told.
class DeviceSheetsTest {
    private static final SheetCatalogue SHEETS = new SheetCatalogue();

    @TempDir Path folder;

    private Path in() { return folder.resolve("in"); }

    private PackingList plan(String sheet, PackOptions options) throws Exception { return plan(SHEETS.byId(sheet).orElseThrow(), options); }

    private PackingList plan(DestinationSheet sheet, PackOptions options) throws Exception {
        return Planner.plan(Gatherer.readAll(Gatherer.find(List.of(in()), () -> false)), sheet, options);
    }

    private PackingSlip pack(PackingList list) throws Exception {
        return new Packer(list, new SoundPath(), 2, new StopSignal(), _ -> {}, InstantSource.system()).packInto(folder.resolve("out"));
    }

    private Path sound(String name, int rateHz, int frames, SoundMetadata metadata) throws Exception {
        Files.createDirectories(in().resolve(name).getParent());
        return Sounds.write(in().resolve(name), "wav", rateHz, Depth.INT_16, metadata, sine(440, 0.5, rateHz, frames));
    }

    /// 900,000 frames of 16 bit are 1.8 MB of two.
    @Test void memoryIsSharedOutInTheOrderOfTheList() throws Exception {
        sound("a.wav", 44_100, 900_000, SoundMetadata.NONE);
        sound("b.wav", 44_100, 100_001, SoundMetadata.NONE);
        sound("c.wav", 44_100, 100_000, SoundMetadata.NONE);
        PackOptions unfitted = PackOptions.DEFAULT.withInstruments(InstrumentOptions.DEFAULT.withFitting(Fitting.DEFAULT.withMode(Fitting.Mode.OFF)));
        List<PackingItem> items = plan("pocket-sampler", unfitted).items();
        assertThat(items).extracting(PackingItem::verdict).containsExactly(Verdict.ADJUSTED, Verdict.BLOCKED, Verdict.ADJUSTED);
        assertThat(items.get(1).reason()).isEqualTo(
                "it takes 200 kB, and 200 kB of 2.0 MB are free after the lines before it; trim it, take a lower rate, or leave others out");
        PackingList unheard = plan("pocket-sampler", PackOptions.DEFAULT);
        assertThat(unheard.items()).as("until they are heard").noneMatch(i -> i.verdict() == Verdict.BLOCKED);
        assertThat(unheard.isSettled()).isFalse();
    }

    @ParameterizedTest @CsvSource({
        "pocket-sampler,ALTERNATING,2000,FORWARD,'alternating loop written out there and back, 3,998 more frames: the destination plays loops forward only'",
        "rack-sampler,ALTERNATING,2000,ALTERNATING,", "rack-sampler,ALTERNATING,15,,'1 loop dropped: shorter than the destination plays'",
        "rack-sampler,FORWARD,15,FORWARD,'goes on for 15 more frames, copied from the loop: the destination wants loops of at least 16 frames'",
        "rack-sampler,FORWARD,16,FORWARD,"}) void loopsAreThoseThatTheDevicePlays(String sheet, LoopMode mode, int frames, LoopMode left, String told)
                throws Exception {
        sound("a.wav", 44_100, 10_000, SoundMetadata.NONE.withLoops(List.of(Loop.sustain(new FrameRange(1000, 1000 + frames), mode))));
        PackingItem item = plan(sheet, PackOptions.DEFAULT).items().getFirst();
        assertThat(item.outputs().getFirst().metadata().loops()).extracting(Loop::mode).isEqualTo(left == null ? List.of() : List.of(left));
        if (told != null) assertThat(item.change(Property.LOOPS).orElseThrow().reason()).isEqualTo(told);
    }

    /// The first loop is one that the device does not play; the second one keeps its place and length at the other rate.
    @ParameterizedTest @ValueSource(ints = {1, 5}) void theNextLoopGoesWhereTheFirstDoesNot(int frames) throws Exception {
        sound("a.wav", 48_000, 10_000, SoundMetadata.NONE.withLoops(List.of(Loop.sustain(new FrameRange(9000, 9000 + frames), LoopMode.ALTERNATING),
                Loop.sustain(new FrameRange(1600, 4800), LoopMode.FORWARD))));
        PackingItem item = plan("rack-sampler", PackOptions.DEFAULT).items().getFirst();
        assertThat(item.outputs().getFirst().metadata().loops()).singleElement().satisfies(l -> assertThat(l.frames()).isEqualTo(new FrameRange(1470, 4410)));
    }

    /// Whatever names are made of, the device finds its pads by their numbers.
    @ParameterizedTest @CsvSource({"(root)_(name),1-60_REED.wav", "(pad)-(name),1-REED.wav",
        "(folder) of the (name),1-INOFTHERED.wav"}) void padsBeginWithTheirNumber(
                String pattern, String name) throws Exception {
        sound("reed.wav", 44_100, 4410, SoundMetadata.NONE.withMapping(Mapping.NONE.withRootKey(Optional.of(60))));
        PackingItem item = plan("drum-pads", PackOptions.DEFAULT.withNamePattern(Optional.of(pattern))).items().getFirst();
        assertThat(item.outputs().getFirst().path()).isEqualTo("001-IN/" + name);
    }

    @Test void whatADeviceWouldNotFindIsToldBeforehand() throws Exception {
        sound("deep/reed.wav", 44_100, 4410, SoundMetadata.NONE);
        assertThatThrownBy(() -> plan("pocket-sampler", PackOptions.DEFAULT.withMirror(Optional.of(true)))).isInstanceOf(OptionConflict.class)
                .hasMessage("pocket-sampler looks into no folders; do not recreate those of the source");
        assertThatThrownBy(() -> plan("card-sampler", PackOptions.DEFAULT.withContainer(Choice.of("wav")))).isInstanceOf(OptionConflict.class)
                .hasMessage("card-sampler does not take container wav; it takes preset");
        PackOptions joined = PackOptions.DEFAULT
                .withPlacing(PackOptions.DEFAULT.placing().withJoining(PackOptions.DEFAULT.placing().joining().withName("all")));
        assertThat(plan("card-sampler", joined).items()).singleElement().satisfies(i -> assertThat(i.verdict()).isEqualTo(Verdict.BLOCKED))
                .satisfies(i -> assertThat(i.reason()).isEqualTo("the destination loads sounds only as parts of instruments; do not join them"));
    }

    /// Each bank fits by itself, both do not: 2,100,000 frames of 16 bit are 4.2 MB of eight.
    @Test void banksShareTheMemoryOfTheirDevice() throws Exception {
        for (String name : List.of("low", "middle", "small")) {
            sound(name + "/" + name + ".wav", 44_100, name.equals("small") ? 44_100 : 2_100_000, SoundMetadata.NONE);
            Files.writeString(in().resolve(name).resolve(name + ".sfz"), "<region> sample=" + name + ".wav pitch_keycenter=60");
        }
        assertThat(plan("bank-player", PackOptions.DEFAULT).items()).as("one at a time is loaded").noneMatch(i -> i.verdict() == Verdict.BLOCKED);
        DestinationSheet all = SheetCatalogue.read("""
                {"$schema": "destination-sheet.schema.json", "id": "all", "name": "All banks at once", "accepts": {"instruments": ["sf2"]},
                 "limits": {"totalBytes": 8000000, "sampleOverheadBytes": 92}}""", "all");
        List<PackingItem> banks = plan(all, PackOptions.DEFAULT).items();
        assertThat(banks).extracting(i -> i.verdict() == Verdict.BLOCKED).containsExactly(false, true, false);
        assertThat(banks.get(1).reason()).contains("it takes 4.2 MB, and 3.8 MB of 8.0 MB are free after the lines before it");
    }

    @Test void aRangeOfRatesIsKeptTo() throws Exception {
        sound("a.wav", 96_000, 9600, SoundMetadata.NONE);
        sound("b.wav", 12_345, 9600, SoundMetadata.NONE);
        assertThat(plan("bank-player", PackOptions.DEFAULT).items()).flatExtracting(PackingItem::outputs).extracting(o -> o.shape().rateHz())
                .containsExactly(48_000, 12_345);
        assertThatThrownBy(() -> plan("bank-player", PackOptions.DEFAULT.withRate(Choice.of(96_000)))).isInstanceOf(OptionConflict.class)
                .hasMessageContaining("does not take 96000 Hz");
    }

    @Test void dumpsHaveNumbersInTheOrderOfTheList() throws Exception {
        for (String name : List.of("a.wav", "b.wav", "c.wav"))
            sound(name, 44_100, 441, SoundMetadata.NONE);
        pack(plan("rack-sampler", PackOptions.DEFAULT));
        for (int i = 0; i < 3; i++)
            assertThat(Files.readAllBytes(folder.resolve("out").resolve("ABC".charAt(i) + ".sds"))[4]).as("the fifth byte of a dump").isEqualTo((byte) i);
    }

    @Test void fortyLooseSoundsBecomePresetsOfSixteenThatReadAsTheyWerePlanned() throws Exception {
        for (int i = 0; i < 40; i++)
            sound("Kit/hit " + (char) ('k' + i / 10) + (char) ('k' + i % 10) + ".wav", 44_100, 441, SoundMetadata.NONE);
        PackingSlip slip = pack(plan("card-sampler", PackOptions.DEFAULT));
        assertThat(slip.items()).extracting(PackingSlip.Item::outcome).containsExactly("packed");
        int sounds = 0;
        for (int kit = 1; kit <= 3; kit++) {
            Path preset = folder.resolve("out/Kit " + kit + "/Kit " + kit + ".preset");
            InstrumentFile read = InstrumentFormats.of(preset).orElseThrow().read(preset);
            assertThat(read.problems()).isEmpty();
            Instrument instrument = read.instruments().getFirst();
            assertThat(instrument.zones()).hasSize(kit < 3 ? 16 : 8).allSatisfy(z -> assertThat(z.get(Parameter.ONE_SHOT)).isTrue());
            assertThat(instrument.zones()).extracting(z -> z.get(Parameter.KEYS).low())
                    .isEqualTo(IntStream.range(36, 36 + instrument.zones().size()).boxed().toList());
            sounds += instrument.zones().size();
        }
        assertThat(sounds).isEqualTo(40);
    }

    @Test void whatAPresetSaysOfItsPlayingIsWrittenAnewWhereItChanges() throws Exception {
        sound("Kit/hit.wav", 44_100, 441, SoundMetadata.NONE);
        PackOptions mono = PackOptions.DEFAULT.withExisting(ExistingFiles.UPDATE).withInstruments(PackOptions.DEFAULT.instruments()
                .withPlaying(Playing.USUAL
                        .withSettings(new PlayingSettings(Optional.of(10), Optional.of(true), Optional.of(12), Optional.of(30), Optional.of(true)))));
        pack(plan("card-sampler", PackOptions.DEFAULT));
        Path preset = folder.resolve("out/Kit/Kit.preset");
        assertThat(Files.readString(preset)).doesNotContain("channel", "voices", "bendKeys", "wheel", "interpolation");
        pack(plan("card-sampler", mono));
        assertThat(Files.readString(preset)).contains("\"channel\" : 10", "\"voices\" : \"mono\"", "\"bendKeys\" : 12", "\"wheelVibratoCents\" : 30",
                "\"interpolation\" : \"smooth\"");
    }

    /// What was not chosen is as the source says it, also where formats say it in other places; what has no place is told.
    @Test void whatASourceSaysOfItsPlayingGoesAlong() throws Exception {
        sound("tone.wav", 44_100, 2000, SoundMetadata.NONE);
        Files.writeString(in().resolve("tone.sfz"), "<region> sample=tone.wav bend_up=700 bend_down=-700 pitchlfo_depthcc1=40 pitchlfo_freq=6");
        PackingList list = plan("card-sampler", PackOptions.DEFAULT);
        assertThat(list.items().getFirst().changes()).noneSatisfy(c -> assertThat(c.reason()).contains("bend"))
                .anySatisfy(c -> assertThat(c.reason()).isEqualTo("rate and delay of the wheel's vibrato: not stored in Preset"));
        pack(list);
        Path preset = folder.resolve("out/tone/tone.preset");
        assertThat(Files.readString(preset)).contains("\"bendKeys\" : 7", "\"wheelVibratoCents\" : 40").doesNotContain("channel", "voices");
        Files.writeString(preset, Files.readString(preset).replace("\"bendKeys\" : 7", "\"channel\" : 10, \"voices\" : \"mono\", \"bendKeys\" : 7"));

        assertThat(playing(again(preset, "card-sampler", PackOptions.DEFAULT, "as it is"))).isEqualTo("channel 10 mono bend 7");
        PackOptions chosen = PackOptions.DEFAULT.withInstruments(PackOptions.DEFAULT.instruments()
                .withPlaying(Playing.USUAL.withSettings(PlayingSettings.NONE.withChannel(Optional.of(3)))));
        assertThat(playing(again(preset, "card-sampler", chosen, "chosen"))).isEqualTo("channel 3 mono bend 7");
        PackOptions sfz = PackOptions.DEFAULT.withContainer(Choice.of("sfz"));
        PackingList toSfz = Planner.plan(gathered(preset), SHEETS.byId("files").orElseThrow(), sfz);
        assertThat(toSfz.items().getFirst().changes())
                .anySatisfy(c -> assertThat(c.reason()).isEqualTo("MIDI channel 10, one voice: not stored in SFZ"));
        assertThat(Files.readString(again(preset, "files", sfz, "to sfz"))).contains("bend_up=700", "bend_down=-700", "pitchlfo_depthcc1=40");
        Files.writeString(preset, Files.readString(preset).replace("10", "17"));
        assertThat(gathered(preset).getFirst().instruments().orElseThrow().problems()).singleElement()
                .satisfies(p -> assertThat(p.text()).contains("channels 1 to 16, not 17"));
    }

    private static List<Gathered> gathered(Path file) throws Exception { return Gatherer.readAll(Gatherer.find(List.of(file), () -> false)); }

    private Path again(Path preset, String sheet, PackOptions options, String into) throws Exception {
        PackingList list = Planner.plan(gathered(preset), SHEETS.byId(sheet).orElseThrow(), options);
        PackingSlip slip = new Packer(list, new SoundPath(), 2, new StopSignal(), _ -> {}, InstantSource.system()).packInto(folder.resolve(into));
        assertThat(slip.items()).singleElement().satisfies(i -> assertThat(i.outcome()).isEqualTo("packed"));
        return folder.resolve(into).resolve(slip.items().getFirst().maps().getFirst().path());
    }

    private static String playing(Path preset) throws Exception {
        PlayingSettings said = InstrumentFormats.of(preset).orElseThrow().read(preset).instruments().getFirst().playing();
        return "channel " + said.channel().orElseThrow() + (said.isMono().orElse(false) ? " mono" : "") + " bend " + said.bendKeys().orElseThrow();
    }

    /// One zone of three lies on keys that sound, one on some; of four turns two are played, one after the other.
    @Test void keysAndTurnsThatADeviceDoesNotPlayGo() throws Exception {
        sound("tone.wav", 44_100, 2000, SoundMetadata.NONE);
        Files.writeString(in().resolve("tone.sfz"), """
                <global> sample=tone.wav pitch_keycenter=69
                <region> lokey=20 hikey=30
                <region> lokey=31 hikey=40
                <group> lokey=41 hikey=50 seq_length=4
                <region> seq_position=1
                <region> seq_position=2
                <region> seq_position=3
                <region> seq_position=4
                """);
        DestinationSheet sheet = SheetCatalogue.read("""
                {"id": "short", "name": "Short", "accepts": {"containers": ["wav"], "instruments": ["sfz"]},
                 "limits": {"playing": {"keys": [36, 96], "turns": 2}}}""", "short");
        String cut = "1 zone left out, 1 zone cut: the destination sounds on the keys 36 to 96";
        PackingItem plain = Planner.plan(gathered(in().resolve("tone.sfz")), sheet, PackOptions.DEFAULT
                .withInstruments(InstrumentOptions.DEFAULT.withFitting(Fitting.DEFAULT.withMode(Fitting.Mode.OFF)))).items().getFirst();
        assertThat(plain.changes()).extracting(c -> c.reason()).contains(cut,
                "2 zones left out: turns of round robins beyond the 2 that the destination plays");
        PackingItem item = ListeningPlanner.plan(gathered(in().resolve("tone.sfz")), sheet, PackOptions.DEFAULT, Map.of(), new Measurements(new SoundPath()),
                () -> false, (_, _) -> {}).items().getFirst();
        assertThat(item.changes()).extracting(c -> c.reason()).contains(cut,
                "4 → 2 round-robin turns; those that sound most like the others stay: 0.0 dB of difference");
        assertThat(item.verdict()).isEqualTo(Verdict.REDUCED);
        for (PackingItem each : List.of(plain, item))
            assertThat(each.maps().getFirst().instruments().getFirst().zones()).extracting(z -> z.get(Parameter.KEYS) + " " + z.get(Parameter.TURN))
                    .containsExactly(new Span(36, 40) + " every note", new Span(41, 50) + " 1 of 2", new Span(41, 50) + " 2 of 2");
        assertThatThrownBy(() -> SheetCatalogue.read("""
                {"id": "short", "name": "Short", "accepts": {"containers": ["wav"], "instruments": ["sfz"]}, "limits": {"playing": {"keys": [96, 36]}}}""",
                "short")).hasMessageContaining("limits.playing.keys");
    }

    /// Each zone of a preset has a sound of its own: what three zones share counts three times.
    @Test void soundsThatZonesShareCountForEach() throws Exception {
        sound("tone.wav", 44_100, 10_000, SoundMetadata.NONE);
        Files.writeString(in().resolve("tone.sfz"), """
                <global> sample=tone.wav pitch_keycenter=69
                <region> lokey=60 hikey=66 lovel=1 hivel=60
                <region> lokey=60 hikey=66 lovel=61 hivel=127 volume=3
                <region> lokey=67 hikey=72
                """);
        DestinationSheet sheet = SheetCatalogue.read(
                """
                        {"id": "small", "name": "Small", "accepts": {"containers": ["wav"], "instruments": ["preset"], "depths": ["16"]}, "limits": {"instrumentBytes": 45000}}""",
                "small");
        PackingList list = ListeningPlanner.plan(Gatherer.readAll(Gatherer.find(List.of(in().resolve("tone.sfz")), () -> false)), sheet, PackOptions.DEFAULT,
                Map.of(),
                new Measurements(new SoundPath()), () -> false, (_, _) -> {});
        assertThat(list.items().getFirst().outputs().stream().mapToLong(PlannedOutput::audioBytes).sum()).as("of three times 20,000").isBetween(10_000L,
                45_000L);
        assertThat(list.items().getFirst().change(Property.PLAYING)).as("no release is added that a preset cannot say").isEmpty();
        assertThat(pack(list).items()).extracting(PackingSlip.Item::outcome).containsExactly("packed");
    }
}
