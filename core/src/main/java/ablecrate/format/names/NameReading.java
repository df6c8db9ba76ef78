package ablecrate.format.names;

import java.util.Map;
import java.util.OptionalInt;
import java.util.TreeMap;

/// What the user says about the names of a set, beside what is found by comparing them.
/// @param parts meanings of parts, by the numbers of [NamePlace]
/// @param shiftKeys what is added to every key that a name says where middle C, key 60, is C4; empty: by what is heard
public record NameReading(Map<Integer, NamePart> parts, OptionalInt shiftKeys) {
    public static final NameReading FOUND = new NameReading(Map.of(), OptionalInt.empty());

    public NameReading {
        parts = java.util.Collections.unmodifiableSortedMap(new TreeMap<>(parts));
        parts.keySet().forEach(NamePlace::ofNumber);
    }

    public NameReading withPart(NamePlace place, NamePart meaning) {
        Map<Integer, NamePart> more = new TreeMap<>(parts);
        // A meaning has one place.
        if (meaning != NamePart.NOTHING) more.values().removeIf(m -> m == meaning);
        more.put(place.number(), meaning);
        return new NameReading(more, shiftKeys);
    }

    public NameReading withShift(OptionalInt keys) { return new NameReading(parts, keys); }
}
