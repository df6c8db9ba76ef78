package ablecrate.option;

import java.util.List;
import java.util.Map;
import java.util.OptionalInt;
import java.util.TreeMap;

/// How sounds become numbered kits, at destinations that number their folders.
/// @param first number of the first new kit; empty to go on from what is there
/// @param names of the new kits in their order, instead of their folders' names
/// @param pads which sound comes onto a pad: a pattern of its name, see [NameGlob], by the pad's number
public record Kits(OptionalInt first, List<String> names, PadOrder order, Map<Integer, String> pads) {
    public static final Kits USUAL = new Kits(OptionalInt.empty(), List.of(), PadOrder.LISTED, Map.of());

    public Kits {
        names = List.copyOf(names);
        pads = Map.copyOf(new TreeMap<>(pads));
        if (first.isPresent() && first.getAsInt() < 0) throw new IllegalArgumentException("a kit's number is not negative, as " + first.getAsInt() + " is");
        pads.keySet().forEach(p -> {
            if (p < 1) throw new IllegalArgumentException("pads are counted from 1; there is no pad " + p);
        });
    }

    public Kits withFirst(OptionalInt number) { return new Kits(number, names, order, pads); }

    public Kits withNames(List<String> others) { return new Kits(first, others, order, pads); }

    public Kits withOrder(PadOrder other) { return new Kits(first, names, other, pads); }

    public Kits withPads(Map<Integer, String> others) { return new Kits(first, names, order, others); }
}
