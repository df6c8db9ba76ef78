package ablecrate.format.sf2;

import ablecrate.format.BankDecay;
import ablecrate.format.Precision;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.IntFunction;
import java.util.function.ToIntFunction;

/// The generators that stand for one parameter each, both ways.
final class Sf2Generators {
    /// Below 0 a sum is heard where something else, as velocity does, makes it softer; as far down as the model goes up.
    private static final int LOUDEST = -480, SILENT = 1440;

    record Setting<T>(Generator generator, Parameter<T> parameter, IntFunction<T> read, ToIntFunction<T> write, String how) {
        Precision<T> carried() { return Precision.as(how, v -> read.apply(write.applyAsInt(v))); }
    }

    static final List<Setting<?>> ALL = List.of(tenths(Generator.PAN, Parameter.PAN, 500, 5, "steps of 0.2 %"),
            new Setting<>(Generator.ATTENUATION, Parameter.GAIN, cb -> -Math.clamp(cb, LOUDEST, SILENT) / 10.0 + 0.0,
                    db -> (int) Math.clamp(Math.rint(-db * 10), 0, SILENT),
                    "softer only, 0.1 dB"),
            new Setting<>(Generator.SCALE_TUNING, Parameter.KEY_TRACKING, c -> (double) Math.clamp(c, 0, 1200),
                    c -> (int) Math.clamp(Math.rint(c), 0, 1200),
                    "whole cents"),
            time(Generator.DELAY_VOL_ENV, Parameter.DELAY), time(Generator.ATTACK_VOL_ENV, Parameter.ATTACK), time(Generator.HOLD_VOL_ENV, Parameter.HOLD),
            time(Generator.DECAY_VOL_ENV, Parameter.DECAY), time(Generator.RELEASE_VOL_ENV, Parameter.RELEASE),
            new Setting<>(Generator.SUSTAIN_VOL_ENV, Parameter.SUSTAIN, cb -> -Math.clamp(cb, 0, SILENT) / 10.0, db -> (int) Math.rint(-db * 10), "0.1 dB"),
            new Setting<>(Generator.FILTER_FC, Parameter.CUTOFF, c -> Sf2Units.hertz(Math.clamp(c, 0, Sf2Units.OPEN_FILTER)),
                    hz -> Math.clamp(Sf2Units.absoluteCents(hz), 0, Sf2Units.OPEN_FILTER), "whole cents"),
            new Setting<>(Generator.FILTER_Q, Parameter.RESONANCE, cb -> Math.clamp(cb, 0, 960) / 10.0, db -> (int) Math.clamp(Math.rint(db * 10), 0, 960),
                    "0.1 dB"),
            whole(Generator.MOD_ENV_TO_FC, Parameter.FILTER_ENVELOPE), time(Generator.ATTACK_MOD_ENV, Parameter.FILTER_ATTACK),
            time(Generator.HOLD_MOD_ENV, Parameter.FILTER_HOLD), time(Generator.DECAY_MOD_ENV, Parameter.FILTER_DECAY),
            time(Generator.RELEASE_MOD_ENV, Parameter.FILTER_RELEASE),
            new Setting<>(Generator.SUSTAIN_MOD_ENV, Parameter.FILTER_SUSTAIN, v -> 100 - Math.clamp(v, 0, 1000) / 10.0,
                    v -> (int) Math.rint((100 - v) * 10),
                    "steps of 0.1 %"),
            new Setting<>(Generator.FREQ_VIB_LFO, Parameter.VIBRATO_RATE, c -> Sf2Units.hertz(Math.clamp(c, -16_000, 4500)),
                    hz -> Math.clamp(Sf2Units.absoluteCents(hz), -15_999, 4500), "whole cents"),
            time(Generator.DELAY_VIB_LFO, Parameter.VIBRATO_DELAY), whole(Generator.VIB_LFO_TO_PITCH, Parameter.VIBRATO_DEPTH));

    private static final BankDecay DECAY = new BankDecay(100);

    private Sf2Generators() {}

    /// Decays on whole timecents.
    static Zone fitDecays(Zone zone) { return DECAY.fit(zone, seconds -> Sf2Units.seconds(Sf2Units.timecents(seconds))); }

    private static Setting<Double> time(Generator generator, Parameter<Double> parameter) {
        return new Setting<>(generator, parameter, Sf2Units::seconds, Sf2Units::timecents, "whole timecents");
    }

    private static Setting<Double> whole(Generator generator, Parameter<Double> parameter) {
        return new Setting<>(generator, parameter, c -> (double) Math.clamp(c, -12_000, 12_000), c -> (int) Math.rint(c), "whole cents");
    }

    private static Setting<Double> tenths(Generator generator, Parameter<Double> parameter, int most, double parts, String how) {
        return new Setting<>(generator, parameter, v -> Math.clamp(v, -most, most) / parts, v -> (int) Math.rint(v * parts), how);
    }

    static Zone into(Zone zone, Settings set) {
        Zone out = zone;
        for (Setting<?> setting : ALL)
            out = put(out, setting, set);
        out = DECAY.read(out);
        int exclusive = set.get(Generator.EXCLUSIVE_CLASS);
        if (exclusive > 0) out = out.with(Parameter.EXCLUSIVE_GROUP, exclusive).with(Parameter.SILENCED_BY, exclusive);
        return out;
    }

    private static <T> Zone put(Zone zone, Setting<T> setting, Settings set) {
        return set.sum(setting.generator()).map(setting.read()::apply).map(v -> zone.with(setting.parameter(), v)).orElse(zone);
    }

    /// The generators of a zone, by their numbers.
    static Map<Generator, Integer> of(Zone zone) {
        Map<Generator, Integer> out = new EnumMap<>(Generator.class);
        Zone said = DECAY.written(zone);
        for (Setting<?> setting : ALL)
            write(said, setting).ifPresent(amount -> out.put(setting.generator(), amount));
        out.putAll(Sf2Extras.generators(zone));
        if (zone.get(Parameter.EXCLUSIVE_GROUP) > 0) out.put(Generator.EXCLUSIVE_CLASS, zone.get(Parameter.EXCLUSIVE_GROUP));
        return out;
    }

    private static <T> Optional<Integer> write(Zone zone, Setting<T> setting) {
        return zone.said(setting.parameter()).map(v -> setting.write().applyAsInt(v));
    }
}
