package ablecrate.cli;

import ablecrate.dump.MidiCable;
import ablecrate.standins.CableFaults;
import ablecrate.standins.RackOnCable;
import ablecrate.standins.SimulatedCable;
import java.util.Random;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;

/// The simulated cable, with the stand-in for a rack sampler at its end.
final class Cables {
    static final String STANDIN = "rack-sampler";
    private static final double MOST_SPEED = 1000;

    @Option(names = "--speed", paramLabel = "N", defaultValue = "0", description = "Of the simulated cable, times real time; as fast as can be without it.") private double speed;
    @Option(names = "--faults", paramLabel = "SHARE", defaultValue = "0", description = "Messages that the simulated cable spoils, 0 to 1.") private double faults;
    @Option(names = "--mute", description = "The stand-in answers nothing, as devices without handshake.") private boolean isMute;

    RackOnCable device() { return new RackOnCable(new RackOnCable.Manner(!isMute, true, 0, 0)); }

    /// @param spec whose options these are
    MidiCable to(RackOnCable device, CommandSpec spec) {
        if (!(faults >= 0 && faults <= 1)) throw new ParameterException(spec.commandLine(), "--faults: a share from 0 to 1");
        if (!(speed >= 0 && speed <= MOST_SPEED)) throw new ParameterException(spec.commandLine(), "--speed: 0 (as fast as can be) to 1000 times real time");
        return simulated(new SimulatedCable(device, faults > 0 ? new CableFaults(faults, 1, new Random(1)) : CableFaults.NONE, speed));
    }

    static MidiCable simulated(SimulatedCable cable) { return MidiCable.of(cable::send, cable::receive, cable::time); }
}
