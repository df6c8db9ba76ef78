package ablecrate.standins;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import javax.sound.midi.MetaMessage;
import javax.sound.midi.MidiEvent;
import javax.sound.midi.MidiSystem;
import javax.sound.midi.Sequence;
import javax.sound.midi.ShortMessage;
import javax.sound.midi.Track;
import javax.sound.sampled.AudioSystem;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/// Notes of a sine of 440 Hz on key 69: pitch by equal temperament, levels by what is said.
class DevicePlayerTest {
    private static final int RATE = 44_100;

    @TempDir Path folder;

    private record Held(double[] plane) implements HostSound {
        @Override public int rateHz() { return RATE; }

        @Override public int channels() { return 1; }

        @Override public long frames() { return plane.length; }

        @Override public double[][] read(long from, int count) { return new double[][]{Arrays.copyOfRange(plane, (int) from, (int) from + count)}; }
    }

    private static CardWave sine(int frames) {
        double[] plane = new double[frames];
        Arrays.setAll(plane, n -> 0.5 * Math.sin(2 * Math.PI * 440 * n / RATE));
        return new CardWave(Path.of("sine.wav"), new Held(plane), 16, WaveFile.Own.NONE);
    }

    private static Preset.Slot slot(CardWave sound, boolean isOneShot, Preset.Loop loop, int group) {
        return new Preset.Slot(0, 127, 1, 127, 69, 0, 100, 0, 0, 100, 0, sound.frames(), isOneShot, loop, group, Preset.Shape.PLAIN, sound);
    }

    private static double[] play(DevicePlayer player, int frames) {
        double[][] out = new double[2][frames];
        player.render(out, 0, frames);
        return out[0];
    }

    /// By its zero crossings.
    private static double hertz(double[] x) { return hertz(x, 2000, x.length); }

    private static double hertz(double[] x, int from, int to) {
        double first = -1, last = 0;
        int count = 0;
        for (int n = from; n < to - 1; n++)
            if (x[n] < 0 && x[n + 1] >= 0) {
                last = n - x[n] / (x[n + 1] - x[n]);
                if (first < 0) first = last;
                count++;
            }
        return RATE * (count - 1) / (last - first);
    }

    private static double peak(double[] x, int from, int to) { return Arrays.stream(x, from, to).map(Math::abs).max().orElse(0); }

    /// 441 frames are 4.4 periods; ten of 4410 are 44 whole ones, so the loop is in tune.
    private static final Preset.Loop WHOLE = new Preset.Loop(4410, 8820, false, 0);

    @Test void keysAreInTuneAndLoopsGoOn() {
        for (int key : new int[]{57, 69, 70, 81}) {
            DevicePlayer player = new DevicePlayer(new Preset("p", Path.of("p"), List.of(slot(sine(10_000), false, WHOLE, 0))), RATE);
            player.noteOn(key, 127);
            double cents = 1200 * Math.log(hertz(play(player, 3 * RATE)) / (440 * Math.pow(2, (key - 69) / 12.0))) / Math.log(2);
            assertThat(cents).as("key %d", key).isCloseTo(0, within(1.0));
        }
    }

    @Test void velocityIsSquaredAndNotesEnd() {
        Preset preset = new Preset("p", Path.of("p"), List.of(slot(sine(10_000), false, WHOLE, 0)));
        DevicePlayer player = new DevicePlayer(preset, RATE);
        player.noteOn(69, 64);
        assertThat(peak(play(player, RATE), 0, RATE)).isCloseTo(0.5 * Math.sqrt(0.5) * 64 * 64 / (127.0 * 127), within(0.002));
        player.sustain(true);
        player.noteOff(69);
        assertThat(peak(play(player, RATE / 2), 0, RATE / 2)).as("the pedal holds it").isGreaterThan(0.05);
        player.sustain(false);
        play(player, RATE / 2);
        assertThat(player.isSilent()).isTrue();
    }

    @Test void oneShotsPlayOnAndGroupsEndEachOther() {
        DevicePlayer player = new DevicePlayer(new Preset("p", Path.of("p"), List.of(slot(sine(RATE), true, Preset.Loop.NONE, 0))), RATE);
        player.noteOn(69, 127);
        player.noteOff(69);
        assertThat(peak(play(player, RATE / 2), RATE / 4, RATE / 2)).isGreaterThan(0.3);
        DevicePlayer choked = new DevicePlayer(new Preset("p", Path.of("p"), List.of(slot(sine(RATE), true, Preset.Loop.NONE, 1))), RATE);
        choked.noteOn(69, 127);
        play(choked, 1000);
        choked.noteOn(81, 127);
        double[] out = play(choked, RATE / 4);
        assertThat(hertz(out)).as("the second alone").isCloseTo(880, within(2.0));
    }

    @Test void aPresetSaysItsWheelItsVoicesAndItsChannel() throws Exception {
        Preset preset = new Preset("p", Path.of("p"), List.of(slot(sine(10_000), false, WHOLE, 0)), new Preset.Playing(2, true, 12, false));
        DevicePlayer player = new DevicePlayer(preset, RATE);
        player.bend(-1);
        player.noteOn(69, 127);
        assertThat(hertz(play(player, RATE))).isCloseTo(220, within(0.5));
        player.bend(0);
        player.noteOn(81, 127);
        play(player, RATE / 10);
        assertThat(hertz(play(player, RATE))).as("the second note alone").isCloseTo(880, within(0.5));
        Sequence sequence = new Sequence(Sequence.PPQ, 480);
        Track track = sequence.createTrack();
        track.add(new MidiEvent(new ShortMessage(ShortMessage.NOTE_ON, 0, 69, 127), 0));
        track.add(new MidiEvent(new ShortMessage(ShortMessage.NOTE_ON, 1, 81, 127), 480));
        Path midi = folder.resolve("channels.mid");
        MidiSystem.write(sequence, 1, midi.toFile());
        Performance performance = Performance.of(preset, midi, RATE);
        assertThat(performance.keysAt(0.4)).isEmpty();
        assertThat(performance.keysAt(0.6)).as("channel 2 alone").containsExactly(81);
    }

    @Test void theBendWheelReachesTwoKeys() {
        DevicePlayer player = new DevicePlayer(new Preset("p", Path.of("p"), List.of(slot(sine(10_000), false, WHOLE, 0))), RATE);
        player.bend(1);
        player.noteOn(69, 127);
        assertThat(hertz(play(player, RATE))).isCloseTo(440 * Math.pow(2, 2 / 12.0), within(0.5));
    }

    /// By the crossings of one second at 5 Hz: up by 100 cents a quarter of a turn in, down by as much half a turn later.
    @Test void theModulationWheelAddsVibrato() throws Exception {
        Preset.Slot still = slot(sine(10_000), false, WHOLE, 0);
        Preset preset = new Preset("p", Path.of("p"), List.of(still.with(still.shape().with(Preset.Vibrato.ofWheel(100)))));
        DevicePlayer player = new DevicePlayer(preset, RATE);
        player.noteOn(69, 127);
        assertThat(hertz(play(player, RATE))).as("at rest").isCloseTo(440, within(0.1));
        player.wheel(1);
        double[] out = play(player, RATE);
        int turn = RATE / 5, near = RATE / 50;
        assertThat(hertz(out, turn / 4 - near / 2, turn / 4 + near / 2)).isCloseTo(440 * Math.pow(2, 85 / 1200.0), within(440 * 0.01));
        assertThat(hertz(out, 3 * turn / 4 - near / 2, 3 * turn / 4 + near / 2)).isCloseTo(440 * Math.pow(2, -85 / 1200.0), within(440 * 0.01));
        assertThat(hertz(out)).as("on the whole it stays where it is").isCloseTo(440, within(2.0));

        Sequence sequence = new Sequence(Sequence.PPQ, 480);
        Track track = sequence.createTrack();
        track.add(new MidiEvent(new ShortMessage(ShortMessage.CONTROL_CHANGE, 0, 1, 127), 0));
        track.add(new MidiEvent(new ShortMessage(ShortMessage.NOTE_ON, 0, 69, 127), 0));
        Path midi = folder.resolve("wheel.mid");
        MidiSystem.write(sequence, 1, midi.toFile());
        double[][] sides = new double[2][RATE];
        Performance.of(preset, midi, RATE).read(sides, 0, RATE);
        assertThat(hertz(sides[0], turn / 4 - near / 2, turn / 4 + near / 2)).as("from a file").isCloseTo(440 * Math.pow(2, 85 / 1200.0), within(440 * 0.01));
    }

    /// What is not the sine itself, at half a key up: a curve leaves less of it than a straight line.
    @Test void aSmoothCurveIsNearerToTheSineThanAStraightLine() {
        double straight = off(false), smooth = off(true);
        assertThat(straight).isBetween(-70.0, -50.0);
        assertThat(smooth).isLessThan(straight - 25);
    }

    private static double off(boolean isSmooth) {
        CardWave sound = sine(RATE);
        Preset.Slot slot = new Preset.Slot(0, 127, 1, 127, 69, 50, 100, 0, -100, 100, 0, RATE, true, Preset.Loop.NONE, 0, Preset.Shape.PLAIN, sound);
        DevicePlayer player = new DevicePlayer(new Preset("p", Path.of("p"), List.of(slot), new Preset.Playing(0, false, 2, isSmooth)), RATE);
        player.noteOn(69, 127);
        double[] out = play(player, RATE / 2);
        double sum = 0, all = 0, turn = 2 * Math.PI * 440 * Math.pow(2, 50 / 1200.0) / RATE;
        for (int n = 1; n < out.length; n++) {
            double ideal = 0.5 * Math.sin(turn * n);
            sum += (out[n] - ideal) * (out[n] - ideal);
            all += ideal * ideal;
        }
        return 10 * Math.log10(sum / all);
    }

    @Test void aMidiFilePlaysAtItsTempo() throws Exception {
        Sequence sequence = new Sequence(Sequence.PPQ, 480);
        Track track = sequence.createTrack();
        track.add(new MidiEvent(new MetaMessage(0x51, new byte[]{0x0F, 0x42, 0x40}, 3), 0));
        track.add(new MidiEvent(new ShortMessage(ShortMessage.NOTE_ON, 0, 69, 127), 480));
        track.add(new MidiEvent(new ShortMessage(ShortMessage.NOTE_OFF, 0, 69, 0), 960));
        Path midi = folder.resolve("a.mid");
        MidiSystem.write(sequence, 0, midi.toFile());
        Preset preset = new Preset("p", Path.of("p"), List.of(slot(sine(10_000), false, WHOLE, 0)));
        Performance performance = Performance.of(preset, midi, RATE);
        double[][] sides = new double[2][4 * RATE];
        int length = performance.read(sides, 0, 4 * RATE);
        double[] out = Arrays.copyOf(sides[0], length);
        assertThat(performance.keysAt(0.99)).isEmpty();
        assertThat(performance.keysAt(1.01)).containsExactly(69);
        assertThat(performance.keysAt(2.01)).isEmpty();
        assertThat(peak(out, 0, RATE - 1)).as("a beat of one second first").isZero();
        assertThat(peak(out, RATE, RATE + 2000)).isGreaterThan(0.3);
        assertThat(out.length).isBetween(2 * RATE, 2 * RATE + 3000);
        Path wav = folder.resolve("a.wav");
        Performance.of(preset, midi, RATE).write(wav);
        assertThat(AudioSystem.getAudioFileFormat(wav.toFile()).getFrameLength()).isEqualTo(out.length);
    }
}
