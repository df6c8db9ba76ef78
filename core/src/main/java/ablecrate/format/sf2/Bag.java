package ablecrate.format.sf2;

import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/// A zone as it is written.
record Bag(Map<Generator, Integer> generators, List<Sf2Modulators.Modulator> modulators) {
    int get(Generator generator) { return generators.getOrDefault(generator, generator.usual()); }

    /// What it has more of than another one, of what presets can add to.
    Map<Generator, Integer> over(Bag other) {
        Map<Generator, Integer> out = new EnumMap<>(Generator.class);
        for (Generator generator : Generator.values())
            if (generator.isAdditive() && get(generator) != other.get(generator)) out.put(generator, get(generator) - other.get(generator));
        return out;
    }

    /// All that presets cannot add to.
    Map<Generator, Integer> fixed() {
        Map<Generator, Integer> out = new EnumMap<>(Generator.class);
        generators.forEach((generator, amount) -> {
            if (!generator.isAdditive()) out.put(generator, amount);
        });
        return out;
    }

    /// As it differs from the first of its group: groups of the same shapes can share an instrument.
    Object shape(Bag first) { return List.of(over(first), fixed(), modulators); }

    /// What most zones have, where that is worth saying once: the global zone, beside which each says only what differs (section 7.7).
    static Map<Generator, Integer> usual(List<Bag> zones) {
        Map<Generator, Integer> out = new EnumMap<>(Generator.class);
        for (Generator generator : Generator.values()) {
            if (!generator.isShared()) continue;
            Map<Integer, Integer> counts = new TreeMap<>();
            for (Bag zone : zones)
                counts.merge(zone.get(generator), 1, Integer::sum);
            int most = counts.entrySet().stream().max(Map.Entry.comparingByValue()).map(Map.Entry::getKey).orElse(generator.usual());
            if (most != generator.usual()) out.put(generator, most);
        }
        return out;
    }

    /// What it says beside a global zone.
    Map<Generator, Integer> beside(Map<Generator, Integer> usual) {
        Map<Generator, Integer> out = new EnumMap<>(Generator.class);
        out.putAll(generators);
        usual.forEach((generator, amount) -> {
            int own = get(generator);
            if (own == amount)
                out.remove(generator);
            else
                out.put(generator, own);
        });
        out.entrySet().removeIf(e -> e.getKey().isShared() && !usual.containsKey(e.getKey()) && e.getValue() == e.getKey().usual());
        return out;
    }
}
