package ablecrate.format.sf2;

import ablecrate.instrument.Extras;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;

/// Generators and modulators that no parameter stands for, as they are.
final class Sf2Extras {
    private static final String MODULATOR = "modulator";
    private static final Set<Generator> GENERATORS = EnumSet.copyOf(Stream.of(Generator.values()).filter(Generator::isExtra).toList());
    /// They count in frames, whose number changes with the rate.
    private static final Set<Integer> IN_FRAMES = Set.of(Generator.START_OFFSET.number(), Generator.END_OFFSET.number(), Generator.LOOP_START_OFFSET.number(),
            Generator.LOOP_END_OFFSET.number(), Generator.START_COARSE.number(), Generator.END_COARSE.number(), Generator.LOOP_START_COARSE.number(),
            Generator.LOOP_END_COARSE.number());

    private Sf2Extras() {}

    static boolean canStay(Sf2Modulators.Modulator modulator) { return !IN_FRAMES.contains(modulator.destination()); }

    /// @param modulators that no parameter stands for
    static Extras of(Settings set, List<Sf2Modulators.Modulator> modulators) {
        Map<Generator, Integer> amounts = new EnumMap<>(Generator.class);
        for (Generator g : GENERATORS)
            set.sum(g).filter(amount -> amount != g.usual()).ifPresent(amount -> amounts.put(g, amount));
        set.sum(Generator.MOD_ENV_TO_FC).ifPresent(amount -> amounts.put(Generator.MOD_ENV_TO_FC, amount));
        List<Extras.Setting> out = new ArrayList<>();
        // A modulator may set in motion what stands still by itself.
        amounts.forEach((g, amount) -> {
            if (g.isExtra()) out.add(new Extras.Setting(g.documentName(), Integer.toString(amount), g.isHeard(amounts) || !modulators.isEmpty()));
        });
        for (Sf2Modulators.Modulator m : modulators)
            out.add(new Extras.Setting(MODULATOR, m.source() + " " + m.destination() + " " + m.amount() + " " + m.amountSource() + " " + m.transform(),
                    m.amount() != 0 || !m.isFilterByVelocity()));
        return out.isEmpty() ? Extras.NONE : new Extras(Sf2Format.ID, out);
    }

    static Map<Generator, Integer> generators(Zone zone) {
        Map<Generator, Integer> out = new EnumMap<>(Generator.class);
        for (Extras.Setting setting : settings(zone))
            Generator.extra(setting.name()).ifPresent(g -> out.put(g, Math.clamp(Long.parseLong(setting.value()), Short.MIN_VALUE, Short.MAX_VALUE)));
        return out;
    }

    static List<Sf2Modulators.Modulator> modulators(Zone zone) {
        return settings(zone).stream().filter(s -> s.name().equals(MODULATOR)).map(s -> s.value().split(" "))
                .map(n -> new Sf2Modulators.Modulator(Integer.parseInt(n[0]), Integer.parseInt(n[1]), Integer.parseInt(n[2]), Integer.parseInt(n[3]),
                        Integer.parseInt(n[4])))
                .toList();
    }

    private static List<Extras.Setting> settings(Zone zone) {
        return zone.get(Parameter.EXTRAS).in(Sf2Format.ID).settings();
    }
}
