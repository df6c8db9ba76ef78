package ablecrate.plan;

import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Zone;
import java.util.List;
import java.util.SortedSet;

/// Gives keys to zones that have roots: from each root half-way to the next, to the ends of the keyboard at the outermost.
final class KeySpread {
    private KeySpread() {}

    static List<Zone> spread(List<Zone> zones) {
        List<Integer> roots = zones.stream().map(z -> z.get(Parameter.ROOT_KEY)).distinct().sorted().toList();
        return zones.stream().map(z -> z.with(Parameter.KEYS, keys(roots, roots.indexOf(z.get(Parameter.ROOT_KEY))))).toList();
    }

    private static Span keys(List<Integer> roots, int i) {
        int low = i == 0 ? 0 : (roots.get(i - 1) + roots.get(i)) / 2 + 1, high = i == roots.size() - 1 ? 127 : (roots.get(i) + roots.get(i + 1)) / 2;
        return new Span(low, high);
    }

    /// Velocities of layers 0…count − 1, in equal steps.
    static Span layer(int layer, int count) { return new Span(127 * layer / count + 1, 127 * (layer + 1) / count); }

    /// Velocities up to each of the stated ones, the loudest to the end.
    static Span upTo(int stated, SortedSet<Integer> all) {
        SortedSet<Integer> below = all.headSet(stated);
        return new Span(below.isEmpty() ? 1 : below.last() + 1, stated == all.last() ? 127 : stated);
    }
}
