package ablecrate.play;

import static java.lang.foreign.ValueLayout.ADDRESS;
import static java.lang.foreign.ValueLayout.JAVA_FLOAT;
import static java.lang.foreign.ValueLayout.JAVA_INT;

import ablecrate.NativeLibrary;
import java.lang.foreign.Arena;
import java.lang.foreign.MemorySegment;
import java.nio.file.Path;
import java.util.Optional;

/// FluidSynth's library, where the system has it (Debian: `libfluidsynth3`): another player to hold ours against.
public final class FluidSynth {
    private final NativeLibrary library;

    private FluidSynth(NativeLibrary library) { this.library = library; }

    public static Optional<FluidSynth> find() { return NativeLibrary.find("libfluidsynth.so.3").map(FluidSynth::new); }

    /// One note, held for half of the time.
    /// @return left and right, with a gain of 1 and neither reverberation nor chorus
    public double[][] render(Path bank, int bankNumber, int program, int key, int velocity, int rateHz, int frames) {
        try (Arena arena = Arena.ofConfined()) {
            MemorySegment settings = (MemorySegment) library.call("new_fluid_settings", ADDRESS);
            library.call("fluid_settings_setnum", JAVA_INT, settings, arena.allocateFrom("synth.sample-rate"), (double) rateHz);
            library.call("fluid_settings_setnum", JAVA_INT, settings, arena.allocateFrom("synth.gain"), 1.0);
            library.call("fluid_settings_setint", JAVA_INT, settings, arena.allocateFrom("synth.reverb.active"), 0);
            library.call("fluid_settings_setint", JAVA_INT, settings, arena.allocateFrom("synth.chorus.active"), 0);
            MemorySegment synth = (MemorySegment) library.call("new_fluid_synth", ADDRESS, settings);
            int id = (int) library.call("fluid_synth_sfload", JAVA_INT, synth, arena.allocateFrom(bank.toString()), 1);
            if (id < 0) throw new AssertionError("FluidSynth does not open " + bank);
            if ((int) library.call("fluid_synth_program_select", JAVA_INT, synth, 0, id, bankNumber, program) != 0)
                throw new AssertionError("FluidSynth finds no preset " + bankNumber + ":" + program);
            library.call("fluid_synth_noteon", JAVA_INT, synth, 0, key, velocity);
            MemorySegment left = arena.allocate(JAVA_FLOAT, frames), right = arena.allocate(JAVA_FLOAT, frames);
            library.call("fluid_synth_write_float", JAVA_INT, synth, frames / 2, left, 0, 1, right, 0, 1);
            library.call("fluid_synth_noteoff", JAVA_INT, synth, 0, key);
            library.call("fluid_synth_write_float", JAVA_INT, synth, frames - frames / 2, left, frames / 2, 1, right, frames / 2, 1);
            double[][] out = new double[2][frames];
            for (int i = 0; i < frames; i++) {
                out[0][i] = left.getAtIndex(JAVA_FLOAT, i);
                out[1][i] = right.getAtIndex(JAVA_FLOAT, i);
            }
            library.call("delete_fluid_synth", null, synth);
            library.call("delete_fluid_settings", null, settings);
            return out;
        }
    }
}
