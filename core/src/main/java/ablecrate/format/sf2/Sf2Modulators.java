package ablecrate.format.sf2;

import ablecrate.format.Carried;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;
import java.util.ArrayList;
import java.util.List;

/// The modulators that express what the model has (section 8.2; defaults in 8.4).
///
/// Velocity to level, wheel and pressure to vibrato take the place of the default modulators of the same source and destination. The bend range
/// cannot be replaced in a portable way, as the destination of the default has no number; what is bent beyond its two semitones is added instead.
final class Sf2Modulators {
    static final int BYTES = 10;
    private static final int VELOCITY_LINEAR_DOWN = 0x0102, VELOCITY_SWITCH = 0x0D02, VELOCITY_CONCAVE_DOWN = 0x0502, VELOCITY_LINEAR_UP = 0x0002,
            WHEEL = 0x0081, PRESSURE = 0x000D, PITCH_WHEEL = 0x020E;
    private static final double FULL_VELOCITY = 960;
    private static final int DEFAULT_WHEEL = 50, DEFAULT_PRESSURE = 50, DEFAULT_BEND = 200;

    record Modulator(int source, int destination, int amount, int amountSource, int transform) {
        boolean isSameKind(Modulator other) {
            return source == other.source && destination == other.destination && amountSource == other.amountSource && transform == other.transform;
        }
    }

    private Sf2Modulators() {}

    static List<Modulator> of(Zone zone) {
        List<Modulator> out = new ArrayList<>();
        int velocity = (int) Math.rint(zone.get(Parameter.VELOCITY_TRACKING) * FULL_VELOCITY / 100);
        if (velocity != FULL_VELOCITY) out.add(modulator(VELOCITY_CONCAVE_DOWN, Generator.ATTENUATION, velocity));
        int wheel = (int) Math.rint(zone.get(Parameter.VIBRATO_WHEEL));
        if (wheel != DEFAULT_WHEEL) out.add(modulator(WHEEL, Generator.VIB_LFO_TO_PITCH, wheel));
        int pressure = (int) Math.rint(zone.get(Parameter.VIBRATO_PRESSURE));
        if (pressure != DEFAULT_PRESSURE) out.add(modulator(PRESSURE, Generator.VIB_LFO_TO_PITCH, pressure));
        int bend = (int) Math.rint(zone.get(Parameter.BEND_UP));
        if (bend != DEFAULT_BEND) out.add(modulator(PITCH_WHEEL, Generator.FINE_TUNE, bend - DEFAULT_BEND));
        int filter = (int) Math.rint(zone.get(Parameter.FILTER_VELOCITY));
        // The default that closes the filter for soft notes, which not all players have (8.4.2), takes the place of what is said.
        if (zone.said(Parameter.FILTER_VELOCITY).isPresent())
            out.add(new Modulator(VELOCITY_LINEAR_DOWN, Generator.FILTER_FC.number(), 0, VELOCITY_SWITCH, 0));
        if (filter != 0) out.add(modulator(VELOCITY_LINEAR_UP, Generator.FILTER_FC, filter));
        return out;
    }

    private static Modulator modulator(int source, Generator destination, int amount) { return new Modulator(source, destination.number(), amount, 0, 0); }

    /// @param unknown told of each modulator that the model has nothing for
    static Zone into(Zone zone, List<Modulator> modulators, Runnable unknown) {
        Zone out = zone.with(Parameter.VIBRATO_WHEEL, (double) DEFAULT_WHEEL).with(Parameter.VIBRATO_PRESSURE, (double) DEFAULT_PRESSURE);
        for (Modulator m : modulators) {
            boolean isPlain = m.amountSource() == 0 && m.transform() == 0;
            if (isPlain && m.source() == VELOCITY_CONCAVE_DOWN && m.destination() == Generator.ATTENUATION.number())
                out = out.with(Parameter.VELOCITY_TRACKING, Math.clamp(m.amount() * 100 / FULL_VELOCITY, -100, 100));
            else
                if (isPlain && m.source() == WHEEL && m.destination() == Generator.VIB_LFO_TO_PITCH.number())
                    out = out.with(Parameter.VIBRATO_WHEEL, (double) Math.clamp(m.amount(), -12_000, 12_000));
                else
                    if (isPlain && m.source() == PRESSURE && m.destination() == Generator.VIB_LFO_TO_PITCH.number())
                        out = out.with(Parameter.VIBRATO_PRESSURE, (double) Math.clamp(m.amount(), -12_000, 12_000));
                    else
                        if (isPlain && m.source() == PITCH_WHEEL && m.destination() == Generator.FINE_TUNE.number()) {
                            double bend = Math.clamp(DEFAULT_BEND + m.amount(), -9600, 9600);
                            out = out.with(Parameter.BEND_UP, bend).with(Parameter.BEND_DOWN, -bend);
                        } else
                            if (isPlain && m.source() == VELOCITY_LINEAR_UP && m.destination() == Generator.FILTER_FC.number())
                                out = out.with(Parameter.FILTER_VELOCITY, (double) Math.clamp(m.amount(), -12_000, 12_000));
                            else
                                if (m.amount() != 0)
                                    unknown.run();
                                else
                                    if (m.source() == VELOCITY_LINEAR_DOWN && m.destination() == Generator.FILTER_FC.number()
                                            && out.said(Parameter.FILTER_VELOCITY).isEmpty())
                                        out = out.with(Parameter.FILTER_VELOCITY, 0.0);
        }
        return out;
    }

    /// What [#of] and [#into] make of a zone together.
    static Zone fit(Zone zone) {
        Zone out = zone;
        if (zone.said(Parameter.BEND_UP).isPresent() || zone.said(Parameter.BEND_DOWN).isPresent())
            out = out.with(Parameter.BEND_DOWN, -out.get(Parameter.BEND_UP));
        return out;
    }

    static Carried<Double> velocity() { return Carried.as("steps of 0.1 %", v -> Math.rint(v * FULL_VELOCITY / 100) * 100 / FULL_VELOCITY); }
}
