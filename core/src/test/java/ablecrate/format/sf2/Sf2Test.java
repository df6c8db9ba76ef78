package ablecrate.format.sf2;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import ablecrate.Fixtures;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.audio.MemorySource;
import ablecrate.codec.FormatException;
import ablecrate.codec.OutputShape;
import ablecrate.codec.Quality;
import ablecrate.codec.chunk.ChunkBuilder;
import ablecrate.format.BankFormat;
import ablecrate.format.InstrumentFile;
import ablecrate.instrument.About;
import ablecrate.instrument.FilterKind;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Loop;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.Span;
import ablecrate.instrument.Zone;
import ablecrate.instrument.ZoneGroup;
import java.io.OutputStream;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/// Units and structure of *SoundFont Technical Specification* 2.04 (values of its sections 8.1.1 and 8.5, from memory).
class Sf2Test {
    @TempDir Path folder;

    @ParameterizedTest @CsvSource({"1, 0", "0.5, -1200", "2.5, 1586", "0.001, -11959", "10, 3986"}) void secondsAreTimecents(double seconds, int timecents) {
        assertThat(Sf2Units.timecents(seconds)).isEqualTo(timecents);
        assertThat(Sf2Units.seconds(timecents)).isCloseTo(seconds, within(seconds * 0.0006));
    }

    @ParameterizedTest @CsvSource({"8.176, 0", "440, 6900", "1000, 8321", "19914, 13500"}) void hertzAreAbsoluteCents(double hertz, int cents) {
        assertThat(Sf2Units.absoluteCents(hertz)).isCloseTo(cents, within(1));
    }

    /// A bank of one sample, by hand: `zones` are pairs of generator and amount.
    private Path bank(int[][] presetZones, int[][] instrumentZones) throws Exception {
        ChunkBuilder pbag = little(), pgen = little(), ibag = little(), igen = little();
        int p = fill(pbag, pgen, presetZones), i = fill(ibag, igen, instrumentZones);
        pbag.u16(p).u16(0);
        ibag.u16(i).u16(0);
        pgen.u32(0);
        igen.u32(0);
        byte[] pdta = little().id("pdta")
                .chunk("phdr",
                        little().text("Preset", 20).u16(3).u16(0).u16(0).u32(0).u32(0).u32(0).text("EOP", 20).u16(0).u16(0).u16(presetZones.length).u32(0)
                                .u32(0).u32(0)
                                .toArray())
                .chunk("pbag", pbag.toArray()).chunk("pmod", new byte[10]).chunk("pgen", pgen.toArray())
                .chunk("inst", little().text("Inst", 20).u16(0).text("EOI", 20).u16(instrumentZones.length).toArray()).chunk("ibag", ibag.toArray())
                .chunk("imod", new byte[10])
                .chunk("igen", igen.toArray())
                .chunk("shdr", little().text("Tone", 20).u32(0).u32(1000).u32(100).u32(900).u32(44_100).u8(69).u8(-3).u16(0).u16(1).text("EOS", 20)
                        .bytes(new byte[26]).toArray())
                .toArray();
        byte[] sdta = little().id("sdta").chunk("smpl", new byte[2092]).toArray(),
                info = little().id("INFO").chunk("ifil", little().u16(2).u16(4).toArray()).toArray();
        byte[] all = little().id("sfbk").chunk("LIST", info).chunk("LIST", sdta).chunk("LIST", pdta).toArray();
        return Files.write(folder.resolve("hand.sf2"), little().chunk("RIFF", all).toArray());
    }

    private static ChunkBuilder little() { return new ChunkBuilder(ByteOrder.LITTLE_ENDIAN); }

    private static int fill(ChunkBuilder bags, ChunkBuilder generators, int[][] zones) {
        int count = 0;
        for (int[] zone : zones) {
            bags.u16(count).u16(0);
            for (int g = 0; g < zone.length; g += 2, count++)
                generators.u16(zone[g]).u16(zone[g + 1] & 0xFFFF);
        }
        return count;
    }

    private static int range(int low, int high) { return low | high << 8; }

    /// The instrument's global zone is the ground of its zones; what the preset says is added; ranges meet in what both have.
    @Test void globalZonesAreTheGroundAndPresetsAdd() throws Exception {
        Path file = bank(new int[][]{{48, 10}, {43, range(40, 80), 48, 25, 52, 5, 41, 0}},
                new int[][]{{38, 0, 48, 100}, {43, range(0, 60), 52, 10, 53, 0}, {43, range(61, 127), 48, 30, 53, 0}});
        Instrument read = new Sf2Format().read(file).instruments().getFirst();
        assertThat(read.program()).hasValue(new Instrument.Program(0, 3, false));
        List<Zone> zones = read.zones();
        assertThat(zones).extracting(z -> z.get(Parameter.KEYS)).containsExactly(new Span(40, 60), new Span(61, 80));
        // Attenuation in centibels: the global 100, or the zone's own 30, and 25 of the preset's zone (its global 10 is replaced).
        assertThat(zones).extracting(z -> z.get(Parameter.GAIN)).containsExactly(-12.5, -5.5);
        assertThat(zones).extracting(z -> z.get(Parameter.RELEASE)).containsExactly(1.0, 1.0);
        // Fine tuning 10 and 5, and the sample's own correction of −3.
        assertThat(zones).extracting(z -> z.get(Parameter.TUNING)).containsExactly(12.0, 2.0);
        assertThat(zones).allMatch(z -> z.get(Parameter.ROOT_KEY) == 69);
    }

    @Test void loopsAndOffsetsCountFromTheSampleAndTheRootOfTheZoneWins() throws Exception {
        Path file = bank(new int[][]{{41, 0}}, new int[][]{{54, 1, 2, 10, 3, -20, 0, 5, 58, 60, 53, 0}, {54, 3, 51, -12, 53, 0}, {53, 0}});
        List<Zone> zones = new Sf2Format().read(file).instruments().getFirst().zones();
        assertThat(zones.getFirst().get(Parameter.LOOPS)).extracting(Loop::frames).containsExactly(new FrameRange(110, 880));
        assertThat(zones.getFirst().get(Parameter.START)).isEqualTo(5);
        assertThat(zones.getFirst().get(Parameter.ROOT_KEY)).isEqualTo(60);
        assertThat(zones.get(1).get(Parameter.LOOP_UNTIL_RELEASE)).isTrue();
        assertThat(zones.get(1).get(Parameter.TUNING)).isEqualTo(-1203);
        assertThat(zones.get(2).get(Parameter.LOOPS)).as("sample mode 0").isEmpty();
    }

    @Test void indexesThatLeadNowhereCostThemselvesOnly() throws Exception {
        InstrumentFile file = new Sf2Format().read(bank(new int[][]{{41, 9}, {41, 0}}, new int[][]{{53, 7}, {53, 0}}));
        assertThat(file.instruments().getFirst().zones()).hasSize(1);
        assertThat(file.problems()).anyMatch(p -> p.text().contains("instrument 9 of 1")).anyMatch(p -> p.text().contains("sample 7 of 1"));
    }

    /// Real banks hold amounts beyond what section 8.1.3 allows, and presets add to them.
    @ParameterizedTest @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8}) void anyAmountOfAnyGeneratorIsRead(long seed) throws Exception {
        Random random = new Random(seed);
        int[] edges = {Short.MIN_VALUE, -12_001, -1, 0, 1, 4500, 8001, 13_501, Short.MAX_VALUE};
        for (int round = 0; round < 60; round++) {
            int[][] preset = new int[1][2 * 12 + 2], instrument = new int[1][2 * 12 + 2];
            for (int[][] zone : List.of(preset, instrument))
                for (int g = 0; g < 24; g += 2) {
                    int generator = random.nextInt(59);
                    zone[0][g] = generator == 41 || generator == 53 ? 24 : generator;
                    zone[0][g + 1] = random.nextBoolean() ? edges[random.nextInt(edges.length)] : random.nextInt(1 << 16) - (1 << 15);
                }
            preset[0][24] = 41;
            instrument[0][24] = 53;
            InstrumentFile file = new Sf2Format().read(bank(preset, instrument));
            for (Instrument read : file.instruments())
                for (Zone zone : read.zones())
                    assertThat(zone.get(Parameter.GAIN)).isBetween(-144.0, 48.0);
        }
    }

    @Test void mutilatedBanksAreRefusedWithTheReason() {
        assertThatThrownBy(() -> new Sf2Format().read(Fixtures.path("malformed/sf2_truncated_pdta.sf2"))).isInstanceOf(FormatException.class)
                .hasMessageContaining("shdr");
    }

    /// Small banks, each with one thing that was once read otherwise or dropped without a word (see the fixtures' page).
    private static List<Zone> finding(String name) throws Exception {
        return new Sf2Reader(Fixtures.path("findings/banks/" + name + ".sf2")).read().instruments().getFirst().zones();
    }

    @Test void anOpenFilterIsKeptWhereItDoesSomething() throws Exception {
        Zone resonant = finding("q60").getFirst(), closing = finding("env").getFirst();
        assertThat(resonant.get(Parameter.FILTER)).isEqualTo(FilterKind.LOW_PASS);
        assertThat(resonant.get(Parameter.RESONANCE)).isEqualTo(6);
        assertThat(closing.get(Parameter.FILTER)).isEqualTo(FilterKind.LOW_PASS);
        assertThat(closing.get(Parameter.FILTER_ENVELOPE)).isEqualTo(-6000);
        for (Zone zone : List.of(resonant, closing))
            assertThat(zone.get(Parameter.CUTOFF)).isCloseTo(19_914, within(20.0));
    }

    @Test void linkedSamplesThatAreNoStereoSoundStayTwo() throws Exception {
        assertThat(finding("pan0")).extracting(z -> z.get(Parameter.PAN)).containsExactly(0.0, 0.0);
        assertThat(finding("pan250")).extracting(z -> z.get(Parameter.PAN)).containsExactly(-50.0, 50.0);
        assertThat(finding("det30")).extracting(z -> z.get(Parameter.TUNING)).containsExactlyInAnyOrder(-15.0, 15.0);
    }

    @Test void aSumOfAttenuationsBelowZeroIsAGain() throws Exception { assertThat(finding("neg").getFirst().get(Parameter.GAIN)).isPositive(); }

    /// At 10 cents a key the header's −24 cents are −2.4: keys are counted from the sample's own pitch (FluidSynth 2 does so).
    @Test void theHeadersCorrectionIsScaledWithTheKeys() throws Exception {
        Zone zone = finding("corr10").getFirst();
        assertThat(zone.get(Parameter.KEY_TRACKING)).isEqualTo(10);
        assertThat(zone.get(Parameter.TUNING)).isEqualTo(-2.4);
    }

    @Test void aDefaultThatIsSwitchedOffStaysOff() throws Exception {
        assertThat(finding("press").getFirst().get(Parameter.VIBRATO_PRESSURE)).isZero();
        assertThat(finding("q60").getFirst().get(Parameter.VIBRATO_PRESSURE)).isEqualTo(50);
        assertThat(Sf2Modulators.of(finding("press").getFirst())).contains(new Sf2Modulators.Modulator(0x0D, 6, 0, 0, 0));
    }

    /// Presets that play the same share it; what a bank cannot count is told before anything is written.
    @Test void presetsShareWhatIsTheSameAndLimitsAreTold() throws Exception {
        BankFormat.BankSound sound = new BankFormat.BankSound("tone", new OutputShape(44_100, 1, Depth.INT_16, 1000, Quality.DEFAULT), SoundMetadata.NONE);
        List<Zone> zones = new ArrayList<>();
        for (int key = 0; key < 100; key++)
            zones.add(Zone.of(0).with(Parameter.KEYS, new Span(key, key)).with(Parameter.ROOT_KEY, key).with(Parameter.TUNING, (double) key));
        List<Instrument> same = new ArrayList<>(), different = new ArrayList<>();
        for (int i = 0; i < 300; i++) {
            double pan = i / 4.0;
            same.add(new Instrument(About.named("p" + i), Optional.empty(), List.of(new ZoneGroup("reed", zones))));
            different.add(new Instrument(About.named("p" + i), Optional.empty(),
                    List.of(new ZoneGroup("reed", zones.stream().map(z -> z.with(Parameter.PAN, z.get(Parameter.KEYS).low() == 0 ? pan : 0.0)).toList()))));
        }
        assertThat(new Sf2Format().tooMany(same, List.of(sound))).isEmpty();
        assertThat(new Sf2Format().tooMany(different, List.of(sound))).hasValueSatisfying(t -> assertThat(t).contains("65,535 settings", "one bank for each"));
    }

    /// Sections 7.7 and 8.5, read by [RawBank]: a global zone says what most zones have, a preset adds what all of them have more of; whoever differs says so.
    @Test void whatIsTheSameStandsOnce() throws Exception {
        BankFormat.BankSound sound = new BankFormat.BankSound("tone", new OutputShape(44_100, 1, Depth.INT_16, 1000, Quality.DEFAULT), SoundMetadata.NONE);
        List<Instrument> instruments = new ArrayList<>();
        for (int i = 0; i < 10; i++) {
            List<Zone> zones = new ArrayList<>();
            for (int key = 0; key < 100; key++)
                zones.add(Zone.of(0).with(Parameter.KEYS, new Span(key, key)).with(Parameter.GAIN, key == 7 ? -30.0 - i : -6.0 - i)
                        .with(Parameter.RELEASE, key == 3 ? 0.0 : 1.0));
            instruments.add(new Instrument(About.named("p" + i), Optional.of(new Instrument.Program(0, i, false)), List.of(new ZoneGroup("reed", zones))));
        }
        Path file = folder.resolve("same.sf2");
        try (OutputStream out = Files.newOutputStream(file)) {
            new Sf2Format().write(out, About.named("same"), instruments, List.of(sound), _ -> new MemorySource(44_100, new double[1][1000]));
        }
        for (RawBank.Zone zone : RawBank.zones(file)) {
            int key = zone.keys() & 0xFF, attenuation = (key == 7 ? 300 : 60) + 10 * zone.number();
            assertThat(zone.settings()).as("preset %d, key %d", zone.number(), key).containsEntry("generator 48", attenuation);
            assertThat(zone.settings().getOrDefault("generator 38", -12_000)).as("release of key %d", key).isEqualTo(key == 3 ? -12_000 : 0);
        }
        // Two settings of each zone, two that all share, two that one alone has, and the end.
        assertThat(new String(Files.readAllBytes(file), StandardCharsets.ISO_8859_1)).contains("igen" + words(4 * (2 * 100 + 2 + 2 + 1)));
    }

    private static String words(int size) {
        return new String(new byte[]{(byte) size, (byte) (size >> 8), (byte) (size >> 16), (byte) (size >> 24)}, StandardCharsets.ISO_8859_1);
    }
}
