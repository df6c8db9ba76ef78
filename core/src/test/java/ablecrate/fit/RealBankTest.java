package ablecrate.fit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import ablecrate.format.InstrumentFile;
import ablecrate.format.InstrumentFormats;
import ablecrate.instrument.Instrument;
import ablecrate.play.FluidSynth;
import ablecrate.play.KeptSounds;
import ablecrate.play.Voices;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

/// A bank of General MIDI, as we read and play it, sounds as it does with FluidSynth's library: envelopes, filters, loops and tuning together.
class RealBankTest {
    private static final Path BANK = Path.of("/usr/share/sounds/sf2/TimGM6mb.sf2");
    private static final int KEY = 60, VELOCITY = 100, HALF = NoteAnalyser.RATE_HZ, EVERY = 3;

    /// How loud a preset is as a whole does not count: FluidSynth takes two fifths of an attenuation. What stays apart most has envelopes for its pitch, which we
    /// do not play.
    @Test void presetsSoundAsInAnotherPlayer() throws Exception {
        Optional<FluidSynth> fluid = FluidSynth.find();
        assumeTrue(fluid.isPresent() && Files.exists(BANK), "libfluidsynth3 and timgm6mb-soundfont are not installed");
        InstrumentFile bank = InstrumentFormats.of(BANK).orElseThrow().read(BANK);
        Voices.Sounds sounds = new KeptSounds().of(n -> bank.sound(n).map(s -> () -> FitSound.load(s)));
        List<Instrument> melodic = bank.instruments().stream().filter(i -> i.program().filter(p -> !p.isPercussion()).isPresent()).toList();
        List<Double> apart = IntStream.range(0, melodic.size()).filter(i -> i % EVERY == 0).mapToObj(melodic::get).map(instrument -> {
            Instrument.Program program = instrument.program().orElseThrow();
            HeardNote theirs = heard(fluid.get().render(BANK, program.bank(), program.number(), KEY, VELOCITY, NoteAnalyser.RATE_HZ, 2 * HALF));
            return theirs.alignedHarm(heard(ours(instrument, sounds)));
        }).sorted().toList();
        assertThat(apart.get(apart.size() / 2)).as("dB, of %d presets", apart.size()).isLessThan(0.3);
        assertThat(apart.get(apart.size() * 4 / 5)).isLessThan(1.5);
    }

    private static HeardNote heard(double[][] sides) { return NoteAnalyser.ofThread().heard(sides, HeardNote.BLOCKS); }

    /// Held for a second, and let go.
    private static double[][] ours(Instrument instrument, Voices.Sounds sounds) {
        Voices voices = new Voices(instrument, sounds, NoteAnalyser.RATE_HZ, new Random(1));
        double[][] out = new double[2][2 * HALF];
        voices.noteOn(KEY, VELOCITY);
        voices.add(out, 0, HALF);
        voices.noteOff(KEY);
        voices.add(out, HALF, HALF);
        return out;
    }
}
