package ablecrate.format;

import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;
import java.util.List;
import java.util.function.UnaryOperator;

/// Decays as banks say them: as long as a fall through the whole range would take. In the model they last until the level that is held is reached.
/// Sources: SoundFont 2.04, section 8.1.2, generators 28 and 36, as FluidSynth has it; DLS, decay times of both envelopes (from memory). For the JDK's
/// synthesizer decays of both formats last as long as they say, whatever they fall to.
/// @param rangeDb from full level to silence
public record BankDecay(double rangeDb) {
    private static final List<Parameter<Double>> DECAYS = List.of(Parameter.DECAY, Parameter.FILTER_DECAY);
    /// A model's longest time.
    private static final double LONGEST_SECONDS = 1000;

    /// From what a bank says.
    public Zone read(Zone zone) { return each(zone, (seconds, part) -> seconds * part); }

    /// To what a bank says; what would be longer than any time is cut.
    public Zone written(Zone zone) { return each(zone, (seconds, part) -> Math.min(LONGEST_SECONDS, seconds / part)); }

    /// The decays that come back when these are written and read.
    /// @param step the time that comes back
    public Zone fit(Zone zone, UnaryOperator<Double> step) { return read(each(written(zone), (seconds, _) -> step.apply(seconds))); }

    /// They are rounded as a whole zone, by [#fit].
    public static void carry(InstrumentCapabilities.Builder capabilities, String how) {
        DECAYS.forEach(decay -> capabilities.with(decay, Precision.as(how, v -> v)));
    }

    private interface Change {
        double of(double seconds, double part);
    }

    private Zone each(Zone zone, Change change) {
        Zone out = zone;
        for (Parameter<Double> decay : DECAYS)
            if (zone.said(decay).isPresent()) out = out.with(decay, change.of(zone.get(decay), part(zone, decay)));
        return out;
    }

    /// Of the whole range, what a decay falls by; the time stays as it is where the full level is held and nothing falls.
    private double part(Zone zone, Parameter<Double> decay) {
        double part = decay == Parameter.DECAY ? Math.min(1, -zone.get(Parameter.SUSTAIN) / rangeDb) : 1 - zone.get(Parameter.FILTER_SUSTAIN) / 100;
        return part > 0 ? part : 1;
    }
}
