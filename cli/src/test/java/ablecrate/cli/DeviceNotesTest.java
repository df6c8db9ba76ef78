package ablecrate.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.codec.FileKind;
import ablecrate.codec.WholeSound;
import ablecrate.audio.Depth;
import ablecrate.audio.FrameRange;
import ablecrate.codec.SoundFormats;
import ablecrate.format.InstrumentFile;
import ablecrate.format.InstrumentFormats;
import ablecrate.instrument.Loop;
import ablecrate.instrument.LoopMode;
import ablecrate.instrument.SoundMetadata;
import ablecrate.play.LoadedSound;
import ablecrate.play.Voices;
import ablecrate.standins.Device;
import ablecrate.standins.DevicePlayer;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/// The device plays what was packed for it as the source plays: two players that share no line of code, notes within a cent and half a decibel.
class DeviceNotesTest {
    private static final int RATE = 48_000, HELD = 48_000, ROOT = 57;

    @TempDir Path folder;

    /// @param settings of the soft zone and of the hard one, as far as the device knows them
    private void pack(String device, String soft, String hard) throws Exception {
        Path in = Files.createDirectories(folder.resolve("in"));
        for (int layer = 0; layer < 2; layer++) {
            double[] plane = new double[30_000];
            for (int n = 0; n < plane.length; n++)
                plane[n] = (0.2 + 0.3 * layer) * Math.sin(2 * Math.PI * 220 * n / 96_000.0) * Math.min(1, n / 500.0);
            // Half the rate of its tone's clock: the rate is converted, and the loop has to stay in tune.
            WholeSound.write(in.resolve("glass" + layer + ".wav"), SoundFormats.written("wav").orElseThrow(), 96_000, Depth.INT_24,
                    SoundMetadata.NONE.withLoops(List.of(Loop.sustain(new FrameRange(12_000, 12_000 + 48_000 / 11), LoopMode.FORWARD))), List.of(),
                    new double[][]{plane});
        }
        Files.writeString(in.resolve("glass.sfz"), """
                <global> pitch_keycenter=57 loop_mode=loop_continuous loop_start=12000 loop_end=16363 ampeg_release=0.1
                <region> sample=glass0.wav lokey=48 hikey=72 lovel=1 hivel=80 volume=-3 tune=7 %s
                <region> sample=glass1.wav lokey=48 hikey=72 lovel=81 hivel=127 %s
                """.formatted(soft, hard));
        StringWriter told = new StringWriter();
        assertThat(Main.run(new PrintWriter(told), new PrintWriter(told), "pack", in.toString(), "--for", device, "--into",
                folder.resolve("card").toString(),
                "--quiet")).as(told.toString()).isZero();
    }

    private double[][] source(int key, int velocity, double bend, double wheel) throws Exception {
        Path map = folder.resolve("in/glass.sfz");
        InstrumentFile file = InstrumentFormats.of(map).orElseThrow().read(map);
        LoadedSound[] sounds = {LoadedSound.of(file.sound(0).orElseThrow().open()), LoadedSound.of(file.sound(1).orElseThrow().open())};
        Voices voices = new Voices(file.instruments().getFirst(), i -> Optional.of(sounds[i]), RATE, new Random(1));
        voices.bend(bend);
        voices.wheel(wheel);
        voices.noteOn(key, velocity);
        double[][] out = new double[2][HELD];
        voices.render(out, HELD);
        return out;
    }

    private double[][] device(String device, int key, int velocity, double bend, double wheel) throws Exception {
        Device.Loaded loaded = Device.byId(device).orElseThrow().load(folder.resolve("card"));
        assertThat(loaded.refusals()).isEmpty();
        DevicePlayer player = new DevicePlayer(loaded.presets().getFirst(), RATE);
        player.bend(bend);
        player.wheel(wheel);
        player.noteOn(key, velocity);
        double[][] out = new double[2][HELD];
        player.render(out, 0, HELD);
        return out;
    }

    @ParameterizedTest @CsvSource({"keyboard-sampler, amp_veltrack=60, pan=-40", "bank-player, amp_veltrack=60, pan=-40",
        "card-sampler, '', ''"}) void notesAreInTuneAndAsLoud(
                String name, String soft, String hard) throws Exception {
        pack(name, soft, hard);
        Optional<Path> written = Files.walk(folder.resolve("card")).filter(f -> f.toString().endsWith(".wav")).findFirst();
        if (written.isPresent())
            assertThat(((FileKind.Sound) FileKind.of(written.get())).read(written.get()).rateHz()).as("converted").isEqualTo(48_000);
        for (int key : new int[]{48, ROOT, 64, 72})
            for (int velocity : new int[]{20, 80, 81, 127}) {
                double[][] source = source(key, velocity, 0, 0), device = device(name, key, velocity, 0, 0);
                double cents = 1200 * Math.log(hertz(device[0]) / hertz(source[0])) / Math.log(2);
                assertThat(cents).as("cents on key %d at velocity %d", key, velocity).isCloseTo(0, within(1.0));
                for (int side = 0; side < 2; side++)
                    assertThat(20 * Math.log10(rms(device[side]) / rms(source[side]))).as("level of side %d on key %d at velocity %d", side, key, velocity)
                            .isCloseTo(0, within(0.5));
            }
    }

    /// The bend is two keys, that of devices that know no other; how far the wheel's vibrato reaches is carried, how fast it goes is the device's.
    @ParameterizedTest @ValueSource(strings = {"keyboard-sampler", "bank-player", "card-sampler"}) void theWheelsReachAsFar(String name) throws Exception {
        pack(name, "pitchlfo_depthcc1=60", "pitchlfo_depthcc1=60");
        for (double bend : new double[]{-1, 1})
            assertThat(1200 * Math.log(hertz(device(name, 60, 100, bend, 0)[0]) / hertz(source(60, 100, bend, 0)[0])) / Math.log(2)).isCloseTo(0, within(1.0));
        assertThat(swing(source(72, 100, 0, 1)[0])).isCloseTo(120, within(6.0));
        assertThat(swing(device(name, 72, 100, 0, 1)[0])).isCloseTo(120, within(6.0));
        assertThat(swing(device(name, 72, 100, 0, 0)[0])).as("at rest").isLessThan(6);
    }

    /// From the lowest pitch of a period to the highest, in cents.
    private static double swing(double[] x) {
        double last = -1, shortest = Double.MAX_VALUE, longest = 0;
        for (int n = 4000; n < x.length - 1; n++)
            if (x[n] < 0 && x[n + 1] >= 0) {
                double now = n - x[n] / (x[n + 1] - x[n]);
                if (last > 0) {
                    shortest = Math.min(shortest, now - last);
                    longest = Math.max(longest, now - last);
                }
                last = now;
            }
        return 1200 * Math.log(longest / shortest) / Math.log(2);
    }

    private static double rms(double[] x) {
        double sum = 0;
        for (double v : x)
            sum += v * v;
        return Math.sqrt(sum / x.length);
    }

    /// By its zero crossings, over as many whole periods as there are.
    private static double hertz(double[] x) {
        double first = -1, last = 0;
        int periods = -1;
        for (int n = 4000; n < x.length - 1; n++)
            if (x[n] < 0 && x[n + 1] >= 0) {
                last = n - x[n] / (x[n + 1] - x[n]);
                if (first < 0) first = last;
                periods++;
            }
        return RATE * periods / (last - first);
    }
}
