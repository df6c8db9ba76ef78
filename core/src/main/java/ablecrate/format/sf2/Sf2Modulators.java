package ablecrate.format.sf2;

import ablecrate.format.Precision;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;

/// The modulators that express what the model has (section 8.2; defaults in 8.4).
///
/// Velocity to level, wheel and pressure to vibrato take the place of the default modulators of the same source and destination. The bend range
/// cannot be replaced in a portable way, as the destination of the default has no number; what is bent beyond its two semitones is added instead.
final class Sf2Modulators {
    static final int BYTES = 10;
    private static final int VELOCITY_LINEAR_DOWN = 0x0102, VELOCITY_CONCAVE_DOWN = 0x0502, VELOCITY_LINEAR_UP = 0x0002,
            WHEEL = 0x0081, PRESSURE = 0x000D, PITCH_WHEEL = 0x020E, VOLUME = 0x0587, EXPRESSION = 0x058B, PAN = 0x028A, REVERB = 0x00DB, CHORUS = 0x00DD;
    private static final double FULL_VELOCITY = 960;
    private static final int DEFAULT_WHEEL = 50, DEFAULT_PRESSURE = 50, DEFAULT_BEND = 200;

    /// Sources and destinations of the defaults, with their amounts, but for those whose destination has no number.
    private static final Map<List<Integer>, Integer> DEFAULTS = Map.of(List.of(VELOCITY_CONCAVE_DOWN, Generator.ATTENUATION.number()), 960,
            List.of(PRESSURE, Generator.VIB_LFO_TO_PITCH.number()), DEFAULT_PRESSURE, List.of(WHEEL, Generator.VIB_LFO_TO_PITCH.number()), DEFAULT_WHEEL,
            List.of(VOLUME, Generator.ATTENUATION.number()), 960, List.of(EXPRESSION, Generator.ATTENUATION.number()), 960,
            List.of(PAN, Generator.PAN.number()), 1000, List.of(REVERB, Generator.REVERB.number()), 200, List.of(CHORUS, Generator.CHORUS.number()), 200);

    record Modulator(int source, int destination, int amount, int amountSource, int transform) {
        boolean isSameKind(Modulator other) {
            return source == other.source && destination == other.destination && amountSource == other.amountSource && transform == other.transform;
        }

        boolean is(int wanted, Generator to) { return source == wanted && destination == to.number() && amountSource == 0 && transform == 0; }

        Modulator withAmount(int other) {
            return new Modulator(source, destination, Math.clamp(other, Short.MIN_VALUE, Short.MAX_VALUE), amountSource, transform);
        }

        /// Whether it takes the place of the default that closes the filter for soft notes, which not all players have and no other format (8.4.2).
        boolean isFilterByVelocity() { return source == VELOCITY_LINEAR_DOWN && destination == Generator.FILTER_FC.number(); }

        /// Of the default of its kind (8.4); 0 where there is none.
        int usual() { return amountSource != 0 || transform != 0 ? 0 : DEFAULTS.getOrDefault(List.of(source, destination), 0); }
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
        if (filter != 0) out.add(modulator(VELOCITY_LINEAR_UP, Generator.FILTER_FC, filter));
        out.addAll(Sf2Extras.modulators(zone));
        return out;
    }

    private static Modulator modulator(int source, Generator destination, int amount) { return new Modulator(source, destination.number(), amount, 0, 0); }

    /// A zone's modulators: what its preset has is added to what its instrument has, or to the default (9.5.1).
    static List<Modulator> together(List<Modulator> own, List<Modulator> added) {
        List<Modulator> out = new ArrayList<>(own);
        for (Modulator m : added) {
            Optional<Modulator> same = out.stream().filter(m::isSameKind).findFirst();
            same.ifPresent(out::remove);
            out.add(m.withAmount(m.amount() + same.map(Modulator::amount).orElseGet(m::usual)));
        }
        return out;
    }

    /// @param others gets each modulator that no parameter stands for
    static Zone into(Zone zone, List<Modulator> modulators, Consumer<Modulator> others) {
        Zone out = zone.with(Parameter.VIBRATO_WHEEL, (double) DEFAULT_WHEEL).with(Parameter.VIBRATO_PRESSURE, (double) DEFAULT_PRESSURE);
        for (Modulator m : modulators) {
            if (m.is(VELOCITY_CONCAVE_DOWN, Generator.ATTENUATION))
                out = out.with(Parameter.VELOCITY_TRACKING, Math.clamp(m.amount() * 100 / FULL_VELOCITY, -100, 100));
            else
                if (m.is(WHEEL, Generator.VIB_LFO_TO_PITCH))
                    out = out.with(Parameter.VIBRATO_WHEEL, (double) Math.clamp(m.amount(), -12_000, 12_000));
                else
                    if (m.is(PRESSURE, Generator.VIB_LFO_TO_PITCH))
                        out = out.with(Parameter.VIBRATO_PRESSURE, (double) Math.clamp(m.amount(), -12_000, 12_000));
                    else
                        if (m.is(PITCH_WHEEL, Generator.FINE_TUNE)) {
                            double bend = Math.clamp(DEFAULT_BEND + m.amount(), -9600, 9600);
                            out = out.with(Parameter.BEND_UP, bend).with(Parameter.BEND_DOWN, -bend);
                        } else
                            if (m.is(VELOCITY_LINEAR_UP, Generator.FILTER_FC))
                                out = out.with(Parameter.FILTER_VELOCITY, (double) Math.clamp(m.amount(), -12_000, 12_000));
                            else
                                if (m.amount() != m.usual() || m.isFilterByVelocity()) others.accept(m);
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

    static Precision<Double> velocity() { return Precision.as("steps of 0.1 %", v -> Math.rint(v * FULL_VELOCITY / 100) * 100 / FULL_VELOCITY); }
}
