package ablecrate.play;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import ablecrate.Sounds;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.audio.MemorySource;
import ablecrate.codec.OutputShape;
import ablecrate.format.BankFormat;
import ablecrate.format.InstrumentFile;
import ablecrate.format.InstrumentFormats;
import ablecrate.instrument.About;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.FilterKind;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.SoundMetadata;
import ablecrate.instrument.Span;
import ablecrate.instrument.Zone;
import ablecrate.instrument.ZoneGroup;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/// A bank that we write sounds alike under FluidSynth's library, the JDK's synthesizer and our own player.
class PlayersAgreeTest {
    private static final int RATE = 48_000, SECOND = RATE;

    private static final Zone FALLING = Zone.of(0).with(Parameter.ROOT_KEY, 69).with(Parameter.DECAY, 2.0).with(Parameter.SUSTAIN, -24.0);

    @TempDir Path folder;

    /// A looped tone on its own key, above, below, tuned, soft, and to one side. FluidSynth reads a sustain of n centibels as 0.96 n, and for the JDK a decay
    /// lasts as long as it says, however far it falls: the one here is over early in any case.
    private static List<Zone> zones() {
        Loop loop = Loop.sustain(new FrameRange(4410, 8820), LoopMode.FORWARD);
        Zone tone = Zone.of(0).with(Parameter.ROOT_KEY, 69).with(Parameter.LOOPS, List.of(loop)).with(Parameter.VIBRATO_WHEEL, 50.0);
        List<UnaryOperator<Zone>> kinds = List.of(z -> z, z -> z.with(Parameter.ROOT_KEY, 62), z -> z.with(Parameter.ROOT_KEY, 80),
                z -> z.with(Parameter.TUNING, 37.0),
                z -> z.with(Parameter.TUNING, -1234.0), z -> z.with(Parameter.PAN, 100.0),
                z -> z.with(Parameter.KEY_TRACKING, 50.0).with(Parameter.ROOT_KEY, 60),
                z -> z.with(Parameter.SUSTAIN, -6.0).with(Parameter.DECAY, 0.002), z -> z.with(Parameter.LOOP_UNTIL_RELEASE, true));
        List<Zone> out = new ArrayList<>();
        for (int i = 0; i < kinds.size(); i++)
            out.add(kinds.get(i).apply(tone.with(Parameter.KEYS, new Span(64 + i, 64 + i))));
        return out;
    }

    private interface Player {
        double[][] render(Path file, int key, int velocity) throws Exception;
    }

    /// FluidSynth's reader of DLS knows no articulators: of those zones it plays the ones that need none.
    @ParameterizedTest @CsvSource({"sf2, 9", "dls, 5"}) void pitchAndLevelAgreeWithFluidSynth(String id, int zones) throws Exception {
        Optional<FluidSynth> fluid = FluidSynth.find();
        assumeTrue(fluid.isPresent(), "libfluidsynth3 is not installed");
        agree(id, zones, (file, key, velocity) -> fluid.get().render(file, 0, 0, key, velocity, RATE, SECOND));
    }

    @ParameterizedTest @CsvSource({"sf2", "dls"}) void pitchAndLevelAgreeWithTheJdk(String id) throws Exception {
        agree(id, 9, (file, key, velocity) -> JdkSynthesizer.render(file, key, velocity, RATE, SECOND));
    }

    /// A bank says how long a fall to silence would take (SoundFont 2.04, section 8.1.2, generator 36): two seconds to -24 dB are more than eight of that.
    @ParameterizedTest @ValueSource(strings = {"sf2", "dls"}) void aDecayLastsAsLongWhenItIsReadAgain(String id) throws Exception {
        InstrumentFile read = write(folder.resolve("falling." + id), List.of(FALLING));
        assertThat(read.instruments().getFirst().zones().getFirst().get(Parameter.DECAY)).isCloseTo(2, within(0.002));
        assertThat(fall(render(read, 69, 127)[0])).isCloseTo(-24 * 0.35 / 2, within(0.1));
    }

    @Test void aDecayFallsAsFastForFluidSynth() throws Exception {
        Optional<FluidSynth> fluid = FluidSynth.find();
        assumeTrue(fluid.isPresent(), "libfluidsynth3 is not installed");
        Path file = folder.resolve("falling.sf2");
        write(file, List.of(FALLING));
        assertThat(fall(fluid.get().render(file, 0, 0, 69, 127, RATE, SECOND)[0])).isCloseTo(-24 * 0.96 * 0.35 / 2, within(0.1));
    }

    /// Noise through a low-pass that closes from 8,000 to 500 Hz within a second.
    @Test void aFilterClosesAsFastForFluidSynth() throws Exception {
        Optional<FluidSynth> fluid = FluidSynth.find();
        assumeTrue(fluid.isPresent(), "libfluidsynth3 is not installed");
        Path file = folder.resolve("closing.sf2");
        double[] noise = new Random(3).doubles(44_000, -0.3, 0.3).toArray();
        InstrumentFile read = write(file,
                List.of(Zone.of(0).with(Parameter.ROOT_KEY, 69).with(Parameter.FILTER, FilterKind.LOW_PASS).with(Parameter.CUTOFF, 500.0)
                        .with(Parameter.FILTER_ENVELOPE, 4800.0).with(Parameter.FILTER_DECAY, 1.0).with(Parameter.FILTER_SUSTAIN, 0.0)),
                noise);
        double[] theirs = fluid.get().render(file, 0, 0, 69, 127, RATE, SECOND)[0];
        assertThat(fall(theirs)).isLessThan(-2);
        assertThat(fall(render(read, 69, 127)[0])).isCloseTo(fall(theirs), within(0.5));
    }

    /// In the last of the 0.35 seconds that are compared, against the first, in dB.
    private static double fall(double[] x) { return Sounds.db(Sounds.rms(x, SECOND * 9 / 20, SECOND / 2) / Sounds.rms(x, SECOND / 10, SECOND * 3 / 20)); }

    private void agree(String id, int zones, Player player) throws Exception {
        Path file = folder.resolve("tone." + id);
        InstrumentFile read = write(file, zones());
        double reference = 0;
        for (int i = 0; i < zones; i++) {
            for (int velocity : new int[]{127, 64}) {
                double[][] theirs = player.render(file, 64 + i, velocity), ours = render(read, 64 + i, velocity);
                int louder = rms(ours[0]) >= rms(ours[1]) ? 0 : 1;
                double hz = frequency(ours[louder]);
                assertThat(1200 * Math.log(frequency(theirs[louder]) / hz) / Math.log(2)).as("pitch of zone %d", i).isCloseTo(0, within(1.0));
                double apart = Sounds.db(rms(theirs[louder]) / rms(ours[louder]));
                // The two have another idea of full scale: the first zone tells which, the rest have to agree with it.
                if (i == 0 && velocity == 127) reference = apart;
                assertThat(apart - reference).as("level of zone %d at velocity %d", i, velocity).isCloseTo(0, within(0.5));
            }
        }
    }

    private static InstrumentFile write(Path file, List<Zone> zones) throws Exception { return write(file, zones, Sounds.sine(440, 0.5, 44_000, 13_200)); }

    private static InstrumentFile write(Path file, List<Zone> zones, double[] tone) throws Exception {
        BankFormat format = (BankFormat) InstrumentFormats.byId(file.getFileName().toString().replaceAll(".*\\.", "")).orElseThrow();
        Instrument made = new Instrument(About.named("Tone"), Optional.of(new Instrument.Program(0, 0, false)), List.of(new ZoneGroup("", zones)));
        Instrument fitted = made.mapZones(
                z -> List.of(format.capabilities().fit(z.with(Parameter.LOOPS, List.of(Loop.sustain(new FrameRange(4400, 8800), LoopMode.FORWARD))))));
        try (OutputStream out = Files.newOutputStream(file)) {
            format.write(out, About.named("Tone"), List.of(fitted),
                    List.of(new BankFormat.BankSound("tone", new OutputShape(44_000, 1, Depth.INT_16, tone.length), SoundMetadata.NONE)),
                    _ -> new MemorySource(44_000, new double[][]{tone}));
        }
        return format.read(file);
    }

    static double[][] render(InstrumentFile file, int key, int velocity) throws IOException {
        Map<Integer, LoadedSound> sounds = new HashMap<>();
        for (int i = 0; i < file.samples().size(); i++)
            sounds.put(i, LoadedSound.of(file.sound(i).orElseThrow().open()));
        Voices voices = new Voices(file.instruments().getFirst(), i -> Optional.ofNullable(sounds.get(i)), RATE, new Random(1));
        voices.noteOn(key, velocity);
        double[][] out = new double[2][SECOND], block = new double[2][SECOND / 2];
        for (int half = 0; half < 2; half++) {
            if (half == 1) voices.noteOff(key);
            voices.render(block, SECOND / 2);
            for (int channel = 0; channel < 2; channel++)
                System.arraycopy(block[channel], 0, out[channel], half * SECOND / 2, SECOND / 2);
        }
        return out;
    }

    /// Of the held part, past any attack and decay.
    private static double rms(double[] x) { return Sounds.rms(x, SECOND / 5, SECOND * 2 / 5); }

    /// By the rising zero crossings of the held part.
    private static double frequency(double[] x) {
        double first = -1, last = -1;
        int count = 0;
        for (int i = SECOND / 5; i < SECOND * 2 / 5; i++)
            if (x[i] <= 0 && x[i + 1] > 0) {
                last = i - x[i] / (x[i + 1] - x[i]);
                if (first < 0)
                    first = last;
                else
                    count++;
            }
        return count * RATE / (last - first);
    }
}
