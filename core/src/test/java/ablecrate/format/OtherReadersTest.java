package ablecrate.format;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.instrument.About;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Zone;
import ablecrate.instrument.ZoneGroup;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import javax.sound.midi.MidiSystem;
import javax.sound.midi.Soundbank;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/// Banks that we write, in the hands of the JDK's own readers of sound banks.
class OtherReadersTest {
    @TempDir Path folder;

    private static Zone zone(int sample, int low, int high, int root) {
        return Zone.of(sample).with(Parameter.KEYS, new Span(low, high)).with(Parameter.ROOT_KEY, root);
    }

    private List<Instrument> instruments() {
        Loop loop = Loop.sustain(new FrameRange(1000, 3000), LoopMode.FORWARD);
        Instrument organ = new Instrument(About.named("Bottle organ"), Optional.of(new Instrument.Program(0, 19, false)),
                List.of(new ZoneGroup("a", List.of(zone(0, 36, 59, 48).with(Parameter.LOOPS, List.of(loop)).with(Parameter.RELEASE, 0.3),
                        zone(1, 60, 84, 72).with(Parameter.TUNING, -12.0)))));
        Instrument kit = new Instrument(About.named("Tin kitchen"), Optional.of(new Instrument.Program(1, 5, false)),
                List.of(new ZoneGroup("b", List.of(zone(0, 36, 36, 36), zone(0, 37, 37, 37)))));
        return List.of(organ, kit);
    }

    @ParameterizedTest @ValueSource(strings = {"sf2", "dls"}) void theJdkOpensOurBanks(String id) throws Exception {
        BankFormat format = (BankFormat) InstrumentFormats.byId(id).orElseThrow();
        double[] tone = Sounds.sine(440, 0.5, 44_100, Instruments.FRAMES);
        Path file = Instruments.bank(folder.resolve("bank." + id), format, About.named("Orchestra pit"),
                instruments().stream().map(i -> i.mapZones(z -> List.of(format.capabilities().fit(z)))).toList(),
                List.of(new double[][]{tone}, new double[][]{tone, tone}), Depth.INT_16);
        Soundbank bank = MidiSystem.getSoundbank(file.toFile());
        assertThat(bank.getName()).isEqualTo("Orchestra pit");
        assertThat(Arrays.stream(bank.getInstruments()).map(i -> i.getPatch().getBank() + ":" + i.getPatch().getProgram() + " " + i.getName()))
                .containsExactlyInAnyOrder("0:19 Bottle organ", "128:5 Tin kitchen");
        // The stereo sound lies in the pool as two mono ones.
        assertThat(bank.getResources()).filteredOn(r -> r.getDataClass() != null && r.getName().startsWith("sound")).hasSize(3);
    }
}
