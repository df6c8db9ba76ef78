package ablecrate.pack;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import ablecrate.Fixtures;
import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.change.ChangeEntry;
import ablecrate.codec.SoundFile;
import ablecrate.codec.SoundFormats;
import ablecrate.destination.SheetCatalogue;
import ablecrate.dsp.PitchDetector;
import ablecrate.format.InstrumentFile;
import ablecrate.format.InstrumentFormats;
import ablecrate.format.Sample;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Loop;
import ablecrate.instrument.NoteName;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.Span;
import ablecrate.instrument.Zone;
import ablecrate.library.Gathered;
import ablecrate.library.Gatherer;
import ablecrate.option.Banks;
import ablecrate.option.Choice;
import ablecrate.option.ExistingFiles;
import ablecrate.format.sfz.SfzFormat;
import ablecrate.instrument.KeySwitch;
import ablecrate.option.InstrumentOptions;
import ablecrate.option.PackOptions;
import ablecrate.option.Playing;
import ablecrate.plan.PackingList;
import ablecrate.planner.ListeningPlanner;
import ablecrate.play.FluidSynth;
import ablecrate.signal.Measurements;
import ablecrate.signal.SoundPath;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/// A real bank, and instruments of our own, through whole runs of packing.
class BanksTest {
    /// General MIDI bank of the Debian package `timgm6mb-soundfont`; used where it is installed.
    private static final Path REAL = Path.of("/usr/share/sounds/sf2/TimGM6mb.sf2");

    @TempDir Path temp;

    private PackingSlip pack(Path source, Path into, PackOptions options) throws Exception {
        List<Gathered> gathered = Gatherer.readAll(Gatherer.find(List.of(source), () -> false));
        PackingList list = ListeningPlanner.plan(gathered, new SheetCatalogue().find("files"), options, Map.of(), new Measurements(new SoundPath()),
                () -> false,
                (_, _) -> {});
        PackingSlip slip = new Packer(list, new SoundPath(), 2, new StopSignal(), _ -> {}, InstantSource.system()).packInto(into);
        assertThat(slip.items()).allSatisfy(i -> assertThat(i.outcome()).as(i.source() + " " + i.error()).isIn("packed", "skipped"));
        return slip;
    }

    private static InstrumentFile read(String format, Path file) throws Exception { return InstrumentFormats.byId(format).orElseThrow().read(file); }

    private static PackOptions to(String container) {
        return PackOptions.DEFAULT.withContainer(Choice.of(container))
                .withInstruments(InstrumentOptions.DEFAULT.withPlaying(Playing.USUAL.withDefaults(false)));
    }

    /// Every preset through SFZ and WAV and back: key and velocity ranges, roots, loops, tunings, and the samples bit for bit.
    @Test void aRealBankComesBackFromSfz() throws Exception {
        assumeTrue(Files.exists(REAL), "timgm6mb-soundfont is not installed");
        Path source = Files.copy(REAL, Files.createDirectories(temp.resolve("in")).resolve("general.sf2"));
        pack(source, temp.resolve("sfz"), to("sfz"));
        pack(temp.resolve("sfz"), temp.resolve("bank"),
                to("sf2").withInstruments(InstrumentOptions.DEFAULT.withPlaying(Playing.USUAL.withDefaults(false)).withBanks(Banks.ONE)));
        List<Path> banks = Gatherer.find(List.of(temp.resolve("bank")), () -> false).stream().map(Gathered::path).toList();
        assertThat(banks).hasSize(1);
        InstrumentFile before = read("sf2", source), after = read("sf2", banks.getFirst());
        assertThat(before.instruments()).hasSizeGreaterThan(130);
        assertThat(after.instruments()).hasSameSizeAs(before.instruments());
        Map<String, List<Instrument>> byName = new HashMap<>();
        after.instruments().forEach(i -> byName.computeIfAbsent(i.name(), _ -> new ArrayList<>()).add(i));
        assertThat(after.instruments()).extracting(Instrument::program).as("numbers, percussion and order")
                .containsExactlyElementsOf(before.instruments().stream().map(Instrument::program).toList());
        for (Instrument wanted : before.instruments()) {
            List<Instrument> candidates = byName.get(wanted.name());
            assertThat(candidates).as(wanted.name()).isNotNull();
            assertThat(candidates).as(wanted.name()).anySatisfy(found -> assertSameMap(before, wanted, after, found));
        }
        Optional<FluidSynth> player = FluidSynth.find();
        if (player.isPresent()) assertSoundsAlike(player.get(), source, before, banks.getFirst(), after);
    }

    /// Twenty presets, a note in the middle of each, before and after under another player.
    private static void assertSoundsAlike(FluidSynth player, Path source, InstrumentFile before, Path result, InstrumentFile after) throws IOException {
        List<Instrument> some = before.instruments().stream().filter(i -> after.instruments().stream().filter(a -> a.name().equals(i.name())).count() == 1)
                .toList();
        // What the bank does with its second oscillator has no counterpart and is listed as lost; it may be heard in one of them.
        List<Double> apart = new ArrayList<>(), cents = new ArrayList<>();
        for (int i = 0; i < 20; i++) {
            Instrument wanted = some.get(i * some.size() / 20),
                    found = after.instruments().stream().filter(a -> a.name().equals(wanted.name())).findFirst().orElseThrow();
            Instrument.Program p = wanted.program().orElseThrow(), q = found.program().orElseThrow();
            double[][] a = player.render(source, bank(p), p.number(), 60, 100, 44_100, 44_100),
                    b = player.render(result, bank(q), q.number(), 60, 100, 44_100, 44_100);
            double before60 = Sounds.rms(a[0], 0, 44_100), after60 = Sounds.rms(b[0], 0, 44_100);
            apart.add(Math.abs(Sounds.db((after60 + 1e-6) / (before60 + 1e-6))));
            Optional<PitchDetector.Pitch> was = pitch(a[0]), is = pitch(b[0]);
            // Some of them are noises, or too many tones at once to have one pitch.
            if (was.filter(x -> x.clarity() > 0.9).isPresent() && is.isPresent()) cents.add(100 * Math.abs(is.get().key() - was.get().key()));
        }
        // Two of them are two tones that beat, whose common pitch wavers with the oscillator.
        assertThat(cents).as("notes with a clear pitch").hasSizeGreaterThan(15).allMatch(c -> c < 1.2).filteredOn(c -> c > 0.02).hasSizeLessThanOrEqualTo(2);
        assertThat(apart).filteredOn(db -> db > 0.5).as("%s", apart).hasSizeLessThanOrEqualTo(1).allMatch(db -> db < 0.6);
    }

    private static int bank(Instrument.Program program) { return program.isPercussion() ? 128 : program.bank(); }

    private static Optional<PitchDetector.Pitch> pitch(double[] held) throws IOException {
        return PitchDetector.detect(Sounds.source(44_100, java.util.Arrays.copyOfRange(held, 4410, 22_050)));
    }

    private static void assertSameMap(InstrumentFile before, Instrument wanted, InstrumentFile after, Instrument found) {
        assertThat(found.zones()).hasSameSizeAs(wanted.zones());
        for (int i = 0; i < wanted.zones().size(); i++) {
            Zone a = wanted.zones().get(i), b = found.zones().get(i);
            for (Parameter<?> p : List.of(Parameter.KEYS, Parameter.VELOCITIES, Parameter.ROOT_KEY, Parameter.LOOPS, Parameter.LOOP_UNTIL_RELEASE,
                    Parameter.START, Parameter.END))
                assertThat((Object) b.get(p)).as(wanted.name() + ", zone " + i + ", " + p).isEqualTo(a.get(p));
            // Both hold whole cents; corrections of samples that keys count otherwise are finer.
            assertThat(b.get(Parameter.TUNING)).isCloseTo(a.get(Parameter.TUNING), within(0.5));
            assertThat(b.get(Parameter.GAIN)).isCloseTo(a.get(Parameter.GAIN), within(0.051));
            assertThat(after.sound(b.sample()).orElseThrow().frames()).isEqualTo(before.sound(a.sample()).orElseThrow().frames());
        }
    }

    /// What needs no change is copied, and a second run finds it done.
    @Test void aBankThatFitsIsCopiedBitForBit() throws Exception {
        Path source = Files.copy(Fixtures.path("metadata/sf2_tiny_valid.sf2"), Files.createDirectories(temp.resolve("in")).resolve("tiny.sf2"));
        PackingSlip first = pack(source, temp.resolve("out"), PackOptions.DEFAULT);
        assertThat(first.items().getFirst().verdict()).isEqualTo("kept");
        assertThat(Files.mismatch(source, temp.resolve("out/tiny.sf2"))).isEqualTo(-1);
        assertThat(pack(source, temp.resolve("out"), PackOptions.DEFAULT).items().getFirst().outcome()).isEqualTo("skipped");
    }

    /// The loop of the tiny bank, 1000 frames at 441 Hz, goes to 48 kHz: 1088.435 frames are no whole number, and the zone's tuning pays.
    @Test void aLoopInABankKeepsItsPitchThroughARateChange() throws Exception {
        Path source = Fixtures.path("metadata/sf2_tiny_valid.sf2");
        pack(source, temp.resolve("out"), to("sf2").withRate(Choice.of(48_000)));
        InstrumentFile read = read("sf2", temp.resolve("out/sf2_tiny_valid.sf2"));
        Zone zone = read.instruments().getFirst().zones().getFirst();
        SoundFile sound = read.sound(zone.sample()).orElseThrow();
        assertThat(sound.rateHz()).isEqualTo(48_000);
        long length = zone.get(Parameter.LOOPS).getFirst().frames().length();
        assertThat(length).isBetween(1088L, 1089L);
        double cents = 1200 * Math.log(1000.0 * 48_000 / 44_100 / length) / Math.log(2) + zone.get(Parameter.TUNING);
        assertThat(Math.abs(1200 * Math.log(length / (1000.0 * 48_000 / 44_100)) / Math.log(2) - zone.get(Parameter.TUNING))).as("%s", cents).isLessThan(0.5);
    }

    @Test void looseSoundsBecomeInstrumentsByTheirNamesOrAsAKit() throws Exception {
        Path harp = Files.createDirectories(temp.resolve("in/harp")), kit = Files.createDirectories(temp.resolve("in/kitchen"));
        for (int key : new int[]{48, 55, 60})
            for (int layer = 1; layer <= 2; layer++)
                Sounds.wav(harp.resolve("harp " + NoteName.of(key) + " v" + layer + ".wav"), 44_100, Depth.INT_16,
                        Sounds.sine(440 * Math.pow(2, (key - 69) / 12.0), 0.3 * layer, 44_100, 22_050));
        for (String name : List.of("ladle", "lid", "spoon"))
            Sounds.wav(kit.resolve(name + ".wav"), 44_100, Depth.INT_16, Sounds.sine(200, 0.5, 44_100, 4410));
        pack(temp.resolve("in"), temp.resolve("out"), to("sfz"));
        Instrument mapped = read("sfz", temp.resolve("out/harp.sfz")).instruments().getFirst(),
                drums = read("sfz", temp.resolve("out/kitchen.sfz")).instruments().getFirst();
        assertThat(mapped.zones()).hasSize(6);
        assertThat(mapped.zones().stream().map(z -> z.get(Parameter.ROOT_KEY)).distinct()).containsExactlyInAnyOrder(48, 55, 60);
        for (int key = 0; key <= 127; key++)
            for (int velocity : new int[]{1, 63, 64, 127}) {
                int k = key;
                assertThat(mapped.zones().stream().filter(z -> z.covers(k, velocity))).as("key %d velocity %d", key, velocity).hasSize(1);
            }
        assertThat(drums.zones().stream().map(z -> z.get(Parameter.KEYS))).containsExactlyInAnyOrder(new Span(36, 36), new Span(37, 37), new Span(38, 38));
        assertThat(drums.zones()).allMatch(z -> z.get(Parameter.ONE_SHOT));
    }

    /// Names an octave off are put right by what is heard.
    @Test void pitchSettlesTheOctaveOfTheNames() throws Exception {
        Path harp = Files.createDirectories(temp.resolve("in/harp"));
        for (int key : new int[]{48, 52, 55, 60})
            Sounds.wav(harp.resolve("harp_" + NoteName.of(key - 12) + ".wav"), 44_100, Depth.INT_16,
                    Sounds.sine(440 * Math.pow(2, (key - 69) / 12.0), 0.5, 44_100, 22_050));
        pack(temp.resolve("in"), temp.resolve("out"), to("sfz"));
        assertThat(read("sfz", temp.resolve("out/harp.sfz")).instruments().getFirst().zones().stream().map(z -> z.get(Parameter.ROOT_KEY)))
                .containsExactlyInAnyOrder(48, 52, 55, 60);
    }

    /// A bank's zones play no louder than their sounds are. A sound with headroom is made louder in their place; what is still missing, all zones of the instrument go without.
    @ParameterizedTest @CsvSource({"0.25, 6.0, 0", "0.8, 1.9, -4.1"}) void aGainThatABankCannotSayGoesIntoTheSound(double peak, double raised, double lowered)
            throws Exception {
        Path in = Files.createDirectories(temp.resolve("in"));
        Sounds.wav(in.resolve("reed.wav"), 44_100, Depth.INT_16, Sounds.sine(440, peak, 44_100, 44_100));
        Files.writeString(in.resolve("reed.sfz"), "<region> sample=reed.wav hikey=59 volume=6 <region> sample=reed.wav lokey=60 volume=-2");
        PackingSlip slip = pack(in.resolve("reed.sfz"), temp.resolve("out"), to("sf2"));
        InstrumentFile bank = read("sf2", temp.resolve("out/reed.sf2"));
        double[] sound = Sounds.readAll(bank.sound(0).orElseThrow().open())[0];
        assertThat(20 * Math.log10(Arrays.stream(sound).map(Math::abs).max().orElseThrow() / peak)).isCloseTo(raised, within(0.01));
        assertThat(bank.instruments().getFirst().zones()).extracting(z -> z.get(Parameter.GAIN) + raised).satisfiesExactly(
                low -> assertThat(low).isCloseTo(6 + lowered, within(0.051)), high -> assertThat(high).isCloseTo(-2 + lowered, within(0.051)));
        assertThat(slip.items().getFirst().changes()).extracting(ChangeEntry::reason).anyMatch(r -> r.startsWith("gain +" + raised + " dB, and as much less"));
    }

    /// Where sounds get numbers because others of their names are there, the map points at the numbered ones.
    @Test void aMapPointsAtItsOwnSoundsWhateverTheyAreCalledAtLast() throws Exception {
        Path source = Fixtures.path("metadata/sf2_tiny_valid.sf2");
        PackOptions number = to("sfz").withExisting(ExistingFiles.NUMBER);
        pack(source, temp.resolve("out"), number);
        PackingSlip again = pack(source, temp.resolve("out"), number);
        PackingSlip.Item item = again.items().getFirst();
        assertThat(item.outputs().getFirst().path()).endsWith("-2.wav");
        InstrumentFile map = read("sfz", temp.resolve("out").resolve(item.maps().getFirst().path()));
        assertThat(map.sound(0).orElseThrow().path()).isEqualTo(temp.resolve("out").resolve(item.outputs().getFirst().path()).toAbsolutePath());
    }

    /// Some characters of file names mean something else in a map that is a text.
    @Test void namesOfSoundsDoNotReadAsSettings() throws Exception {
        for (String name : List.of("low key=60 pan=3", "harp $1", "G#3 = high"))
            Sounds.wav(Files.createDirectories(temp.resolve("in/a=b harp")).resolve(name + ".wav"), 44_100, Depth.INT_16, Sounds.sine(300, 0.5, 44_100, 2000));
        pack(temp.resolve("in"), temp.resolve("out"), to("sfz"));
        InstrumentFile map = read("sfz", temp.resolve("out/a_b harp.sfz"));
        assertThat(map.samples()).hasSize(3).allMatch(Sample.Found.class::isInstance);
    }

    /// Taken apart, each sound says of itself what its zone said.
    @Test void withoutAMapEachSoundCarriesItsOwn() throws Exception {
        Path source = Fixtures.path("metadata/sf2_tiny_valid.sf2");
        pack(source, temp.resolve("out"), to("wav"));
        Path file = Gatherer.find(List.of(temp.resolve("out")), () -> false).getFirst().path();
        SoundMetadata metadata = SoundFormats.byId("wav").orElseThrow().read(file).metadata();
        assertThat(metadata.mapping().rootKey()).hasValue(69);
        assertThat(metadata.loops()).extracting(Loop::frames).containsExactly(new FrameRange(500, 1500));
    }

    /// Many instruments in one bank keep each its own program; what two of them share lies there once.
    @Test void instrumentsOfAFolderBecomeOneBank() throws Exception {
        Path in = Files.createDirectories(temp.resolve("in"));
        for (int i = 0; i < 3; i++)
            Files.copy(Fixtures.path("metadata/sf2_tiny_valid.sf2"), in.resolve("tiny " + i + ".sf2"));
        pack(in, temp.resolve("out"), to("dls").withInstruments(InstrumentOptions.DEFAULT.withBanks(Banks.ONE)));
        InstrumentFile bank = read("dls", temp.resolve("out/in.dls"));
        assertThat(bank.instruments().stream().map(i -> i.program().orElseThrow().number())).containsExactly(0, 1, 2);
    }

    /// Bank, number and percussion of each instrument, through every format and back.
    @Test void numbersInABankComeBack() throws Exception {
        Path in = Files.createDirectories(temp.resolve("in"));
        List<Instrument.Program> programs = List.of(new Instrument.Program(0, 19, false), new Instrument.Program(3, 5, false),
                new Instrument.Program(0, 8, true));
        Instrument tiny = read("sf2", Fixtures.path("metadata/sf2_tiny_valid.sf2")).instruments().getFirst();
        for (int i = 0; i < programs.size(); i++)
            Files.write(in.resolve("reed " + i + ".sfz"), new SfzFormat().write(tiny.withProgram(Optional.of(programs.get(i))), List.of("tone.wav")));
        Sounds.wav(in.resolve("tone.wav"), 44_100, Depth.INT_16, Sounds.sine(440, 0.5, 44_100, 4410));
        Path at = in;
        for (String format : List.of("dls", "sfz", "sf2", "sfz", "sf2")) {
            Path out = temp.resolve(at.getFileName() + " " + format);
            pack(at, out, to(format).withInstruments(InstrumentOptions.DEFAULT.withPlaying(Playing.USUAL.withDefaults(false)).withBanks(Banks.ONE)));
            at = out;
        }
        Path bank = Gatherer.find(List.of(at), () -> false).getFirst().path();
        assertThat(read("sf2", bank).samples()).as("what all three play lies there once").hasSize(1);
        assertThat(read("sf2", bank).instruments()).extracting(i -> i.program().orElseThrow()).containsExactlyElementsOf(programs);
    }

    /// A target without keyswitches gets an instrument for each articulation: the one that sounds at first comes first, what needs no switch is in all.
    @Test void keyswitchesBecomeInstruments() throws Exception {
        Path in = Files.createDirectories(temp.resolve("in"));
        for (String name : List.of("bowed", "plucked", "noise"))
            Sounds.wav(in.resolve(name + ".wav"), 44_100, Depth.INT_16, Sounds.sine(200 + 10 * name.length(), 0.5, 44_100, 4410));
        String regions = """
                <global> sw_default=c1
                <region> sample=plucked.wav sw_last=b0 sw_label=plucked lokey=36
                <region> sample=bowed.wav sw_last=c1 sw_label=bowed lokey=36
                <region> sample=noise.wav lokey=36 trigger=attack
                """;
        Path sfz = Files.writeString(in.resolve("viola.sfz"), regions);
        assertThat(read("sfz", sfz).instruments().getFirst().zones()).extracting(z -> z.get(Parameter.SWITCH).map(KeySwitch::keys))
                .as("they span all switches").containsExactly(Optional.of(new Span(23, 24)), Optional.of(new Span(23, 24)), Optional.empty());
        for (String format : List.of("sf2", "dls")) {
            PackingSlip slip = pack(in, temp.resolve(format), to(format));
            List<Instrument> made = read(format, temp.resolve(format).resolve("viola." + format)).instruments();
            assertThat(made).extracting(Instrument::name).containsExactly("viola bowed", "viola plucked");
            assertThat(made).allSatisfy(i -> assertThat(i.zones()).hasSize(2));
            assertThat(slip.items().getFirst().changes()).anyMatch(c -> c.reason().contains("one instrument for each articulation")
                    && c.reason().contains("'viola' as bowed, plucked"));
        }
        pack(in, temp.resolve("again"), to("sfz"));
        assertThat(read("sfz", temp.resolve("again/viola.sfz")).instruments().getFirst().zones())
                .extracting(z -> z.get(Parameter.SWITCH).map(KeySwitch::toString).orElse("")).containsExactly("B0 (plucked)", "C1 (bowed)", "");
    }

    /// A bank of three comes apart into three banks, each with what it plays and no more; two of one name are told apart.
    @Test void aBankComesApartIntoOneEach() throws Exception {
        Path in = Files.createDirectories(temp.resolve("in/choir"));
        for (int i = 0; i < 3; i++)
            Files.copy(Fixtures.path("metadata/sf2_tiny_valid.sf2"), in.resolve("tiny " + i + ".sf2"));
        pack(in, temp.resolve("one"), to("sf2").withInstruments(InstrumentOptions.DEFAULT.withBanks(Banks.ONE)));
        PackingSlip slip = pack(temp.resolve("one/choir.sf2"), temp.resolve("out"), to("sf2").withInstruments(InstrumentOptions.DEFAULT.withBanks(Banks.EACH)));
        assertThat(slip.items().getFirst().maps()).extracting(PackingSlip.MapFile::path).containsExactly("choir/Tiny preset.sf2", "choir/Tiny preset-2.sf2",
                "choir/Tiny preset-3.sf2");
        for (PackingSlip.MapFile map : slip.items().getFirst().maps()) {
            InstrumentFile bank = read("sf2", temp.resolve("out").resolve(map.path()));
            assertThat(bank.instruments()).hasSize(1);
            assertThat(bank.samples()).hasSize(1);
            assertThat(Sounds.readAll(bank.sound(0).orElseThrow().open()))
                    .isDeepEqualTo(Sounds.readAll(read("sf2", in.resolve("tiny 0.sf2")).sound(0).orElseThrow()
                            .open()));
        }
        assertThat(pack(temp.resolve("one/choir.sf2"), temp.resolve("out"), to("sf2").withInstruments(InstrumentOptions.DEFAULT.withBanks(Banks.EACH))).items()
                .getFirst().outcome()).as("a second run finds them done").isEqualTo("skipped");
    }

    /// Names out of banks lead nowhere but into the folder.
    @Test void namesOfABankCannotLeaveTheFolder() throws Exception {
        byte[] bytes = Files.readAllBytes(Fixtures.path("metadata/sf2_tiny_valid.sf2"));
        String text = new String(bytes, StandardCharsets.ISO_8859_1);
        for (String name : List.of("Tiny preset", "Tone 441"))
            for (int at = text.indexOf(name); at >= 0; at = text.indexOf(name, at + 1))
                System.arraycopy("../../../x".getBytes(StandardCharsets.ISO_8859_1), 0, bytes, at, Math.min(10, name.length()));
        Files.write(Files.createDirectories(temp.resolve("in")).resolve("evil.sf2"), bytes);
        pack(temp.resolve("in"), temp.resolve("deep/out"), to("sfz"));
        try (var all = Files.walk(temp)) {
            assertThat(all.filter(Files::isRegularFile).filter(f -> !f.startsWith(temp.resolve("in")) && !f.startsWith(temp.resolve("deep/out")))).isEmpty();
        }
    }
}
