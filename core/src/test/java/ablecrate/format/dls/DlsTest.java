package ablecrate.format.dls;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import ablecrate.audio.FrameRange;
import ablecrate.codec.FormatException;
import ablecrate.codec.Problem;
import ablecrate.codec.chunk.ChunkBuilder;
import ablecrate.format.InstrumentFile;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Loop;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Zone;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/// Banks put together by hand from MIDI Manufacturers Association, *Downloadable Sounds level 1* (1997) and *level 2* (1999).
class DlsTest {
    private static final int FRAMES = 400;

    @TempDir Path folder;

    private static ChunkBuilder little() { return new ChunkBuilder(ByteOrder.LITTLE_ENDIAN); }

    private static byte[] list(String kind, ChunkBuilder inside) { return little().id(kind).bytes(inside.toArray()).toArray(); }

    /// A sample chunk: unity note, cents, gain in 655,360ths of a dB, at most one loop of start and length.
    private static byte[] wsmp(int unity, int cents, int gain, long loopStart, long loopLength) {
        ChunkBuilder out = little().u32(20).u16(unity).u16(cents & 0xFFFF).u32(gain).u32(0).u32(loopLength > 0 ? 1 : 0);
        if (loopLength > 0) out.u32(16).u32(0).u32(loopStart).u32(loopLength);
        return out.toArray();
    }

    /// Articulators: source, control, destination, transform, scale.
    private static byte[] art(int... numbers) {
        ChunkBuilder out = little().u32(8).u32(numbers.length / 4);
        for (int i = 0; i < numbers.length; i += 4)
            out.u16(numbers[i]).u16(numbers[i + 1]).u16(numbers[i + 2]).u16(0).u32(numbers[i + 3]);
        return list("lar2", little().chunk("art2", out.toArray()));
    }

    private static ChunkBuilder region(int lowKey, int highKey, int wave, Optional<byte[]> wsmp, Optional<byte[]> articulators) {
        ChunkBuilder out = little().chunk("rgnh", little().u16(lowKey).u16(highKey).u16(0).u16(127).u16(0).u16(0).u16(0).toArray());
        wsmp.ifPresent(w -> out.chunk("wsmp", w));
        out.chunk("wlnk", little().u16(0).u16(0).u32(1).u32(wave).toArray());
        articulators.ifPresent(a -> out.chunk("LIST", a));
        return out;
    }

    private static byte[] wave(byte[] wsmp) {
        return list("wave", little().chunk("fmt ", little().u16(1).u16(1).u32(22_050).u32(44_100).u16(2).u16(16).toArray()).chunk("wsmp", wsmp)
                .chunk("data", new byte[2 * FRAMES]).chunk("LIST", list("INFO", little().chunk("INAM", "reed\0\0".getBytes()))));
    }

    private InstrumentFile read(ChunkBuilder... regions) throws Exception {
        ChunkBuilder all = little();
        for (ChunkBuilder region : regions)
            all.chunk("LIST", list("rgn2", region));
        byte[] instrument = list("ins ", little().chunk("insh", little().u32(regions.length).u32(0).u32(19).toArray()).chunk("LIST", list("lrgn", all))
                .chunk("LIST", list("INFO", little().chunk("INAM", "Organ\0".getBytes()))));
        byte[] wave = wave(wsmp(64, 10, 0, 100, 200));
        byte[] file = little().id("DLS ").chunk("colh", little().u32(1).toArray()).chunk("LIST", list("lins", little().chunk("LIST", instrument)))
                .chunk("ptbl", little().u32(8).u32(1).u32(0).toArray()).chunk("LIST", list("wvpl", little().chunk("LIST", wave))).toArray();
        return new DlsFormat().read(Files.write(folder.resolve("a.dls"), little().chunk("RIFF", file).toArray()));
    }

    private Zone zone(ChunkBuilder region) throws Exception { return read(region).instruments().getFirst().zones().getFirst(); }

    @Test void aRegionWithoutASampleChunkPlaysAsItsWaveSays() throws Exception {
        InstrumentFile file = read(region(36, 59, 0, Optional.empty(), Optional.empty()));
        Zone zone = file.instruments().getFirst().zones().getFirst();
        assertThat(file.instruments().getFirst().program()).hasValue(new Instrument.Program(0, 19, false));
        assertThat(file.instruments().getFirst().name()).isEqualTo("Organ");
        assertThat(zone.get(Parameter.KEYS)).isEqualTo(new Span(36, 59));
        assertThat(zone.get(Parameter.ROOT_KEY)).isEqualTo(64);
        assertThat(zone.get(Parameter.TUNING)).isEqualTo(10);
        assertThat(zone.get(Parameter.LOOPS)).extracting(Loop::frames).containsExactly(new FrameRange(100, 300));
        assertThat(file.sound(0).orElseThrow().frames()).isEqualTo(FRAMES);
        assertThat(file.sound(0).orElseThrow().rateHz()).isEqualTo(22_050);
    }

    /// Level 1, section 1.14.4: gain in 32-bit relative units of 1/655,360 dB; −6 dB is −3,932,160.
    @Test void aRegionsOwnSampleChunkGoesBeforeItsWaves() throws Exception {
        Zone zone = zone(region(60, 60, 0, Optional.of(wsmp(60, -25, -3_932_160, 0, 0)), Optional.empty()));
        assertThat(zone.get(Parameter.ROOT_KEY)).isEqualTo(60);
        assertThat(zone.get(Parameter.TUNING)).isEqualTo(-25);
        assertThat(zone.get(Parameter.GAIN)).isEqualTo(-6);
        assertThat(zone.get(Parameter.LOOPS)).isEmpty();
    }

    /// Times are 16.16 timecents, 1200·log2(seconds): 0.5 s is −1200, 2 s is 1200; sustain is 0…1000 in 0.1 %; cutoff is absolute cents, 440 Hz is 6900.
    @ParameterizedTest @CsvSource({"0x206,-1200,0.5", "0x207,1200,2.0", "0x209,0,1.0", "0x500,6900,440.0"}) void articulatorsAreReadInTheirUnits(
            String destination,
            int scale, double value) throws Exception {
        Zone zone = zone(region(60, 60, 0, Optional.empty(), Optional.of(art(0, 0, Integer.decode(destination), scale << 16))));
        Parameter<Double> p = switch (destination) {
            case "0x206" -> Parameter.ATTACK;
            case "0x207" -> Parameter.DECAY;
            case "0x209" -> Parameter.RELEASE;
            default -> Parameter.CUTOFF;
        };
        assertThat(zone.get(p)).isCloseTo(value, within(1e-9));
    }

    /// A key's pitch is counted from key 0: with 50 cents a key (half of 12,800) and unity note 60, the root sounds 3000 cents low unless that is added.
    @Test void keysThatAreNoSemitoneApartCountFromKeyZero() throws Exception {
        Zone low = zone(region(0, 127, 0, Optional.of(wsmp(60, 0, 0, 0, 0)), Optional.of(art(3, 0, 3, 6400 << 16))));
        assertThat(low.get(Parameter.KEY_TRACKING)).isEqualTo(50);
        assertThat(low.get(Parameter.TUNING)).isEqualTo(-3000);
        Zone made = zone(region(0, 127, 0, Optional.of(wsmp(60, 0, 0, 0, 0)), Optional.of(art(3, 0, 3, 6400 << 16, 0, 0, 3, 3000 << 16))));
        assertThat(made.get(Parameter.TUNING)).isZero();
    }

    /// Keys that fall by 250 cents each, around the highest root: 44,450 cents are more than one connection holds.
    @Test void theFarthestPivotIsSharedByTwoConnections() {
        Zone zone = Zone.of(0).with(Parameter.ROOT_KEY, 127).with(Parameter.KEY_TRACKING, -250.0);
        Zone read = DlsConnections.into(Zone.of(0).with(Parameter.ROOT_KEY, 127), DlsConnections.of(zone));
        assertThat(read.get(Parameter.KEY_TRACKING)).isEqualTo(-250);
        assertThat(read.get(Parameter.TUNING)).isZero();
        assertThat(DlsConnections.of(zone)).as("two for the pivot, one for the keys").hasSize(3);
    }

    /// A tuning of an octave and 34 cents down is told by the root: some players read a byte of cents only.
    @Test void semitonesOfATuningGoToTheRoot() {
        Zone zone = Zone.of(0).with(Parameter.ROOT_KEY, 69).with(Parameter.TUNING, -1234.0), fitted = new DlsFormat().capabilities().fit(zone);
        assertThat(fitted.get(Parameter.ROOT_KEY)).isEqualTo(81);
        assertThat(fitted.get(Parameter.TUNING)).isEqualTo(-34);
        for (int key : new int[]{0, 60, 127})
            assertThat(100 * (key - fitted.get(Parameter.ROOT_KEY)) + fitted.get(Parameter.TUNING)).as("the same pitch on key %d", key)
                    .isEqualTo(100 * (key - 69) - 1234.0);
        assertThat(new DlsFormat().capabilities().fit(Zone.of(0).with(Parameter.TUNING, 80.0)).get(Parameter.TUNING)).as("less than a semitone stays")
                .isEqualTo(80);
    }

    @Test void aRegionThatAsksForAWaveThatIsNotThereIsLeftOutAndTold() throws Exception {
        InstrumentFile file = read(region(36, 59, 7, Optional.empty(), Optional.empty()), region(60, 84, 0, Optional.empty(), Optional.empty()));
        assertThat(file.instruments().getFirst().zones()).hasSize(1);
        assertThat(file.problems()).anyMatch(p -> p.effect() == Problem.Effect.LOST && p.text().contains("asks for wave 7 of 1"));
    }

    @Test void aLoopPastTheEndIsLeftOutAndTold() throws Exception {
        InstrumentFile file = read(region(60, 60, 0, Optional.of(wsmp(60, 0, 0, 300, 101)), Optional.empty()));
        assertThat(file.instruments().getFirst().zones().getFirst().get(Parameter.LOOPS)).isEmpty();
        assertThat(file.problems()).anyMatch(p -> p.text().contains("ends at 401, past its 400 frames"));
        assertThat(read(region(60, 60, 0, Optional.of(wsmp(60, 0, 0, 300, 100)), Optional.empty())).problems()).as("up to the end is well").isEmpty();
    }

    /// What no parameter stands for is counted: here the pitch envelope (EG2 to pitch).
    @Test void connectionsThatAreNotUnderstoodAreCounted() throws Exception {
        assertThat(read(region(60, 60, 0, Optional.empty(), Optional.of(art(5, 0, 3, 100 << 16)))).instruments().getFirst().zones().getFirst()
                .get(Parameter.EXTRAS)).hasToString("connection 5 0 3 0 6553600");
    }

    @ParameterizedTest @ValueSource(ints = {12, 40, 100, 200}) void aBankThatIsCutIsReadOrRefusedWithAReason(int length) throws Exception {
        read(region(60, 60, 0, Optional.empty(), Optional.empty()));
        Path cut = Files.write(folder.resolve("cut.dls"), java.util.Arrays.copyOf(Files.readAllBytes(folder.resolve("a.dls")), length));
        assertThatThrownBy(() -> {
            InstrumentFile file = new DlsFormat().read(cut);
            throw new FormatException(file.problems().toString(), "", "");
        }).isInstanceOf(FormatException.class).message().isNotBlank();
    }
}
