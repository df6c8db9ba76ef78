package ablecrate.planner.instrument;

import ablecrate.option.KeyGaps;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Zone;
import java.util.List;
import java.util.SortedSet;

/// Gives keys to zones that have roots: between two roots as chosen, to the ends of the keyboard at the outermost.
final class KeySpread {
    private KeySpread() {}

    static List<Zone> spread(List<Zone> zones, KeyGaps gaps) {
        List<Integer> roots = zones.stream().map(z -> z.get(Parameter.ROOT_KEY)).distinct().sorted().toList();
        return zones.stream().map(z -> z.with(Parameter.KEYS, keys(roots, roots.indexOf(z.get(Parameter.ROOT_KEY)), gaps))).toList();
    }

    private static Span keys(List<Integer> roots, int i, KeyGaps gaps) {
        return new Span(i == 0 ? 0 : last(roots.get(i - 1), roots.get(i), gaps) + 1, i == roots.size() - 1 ? 127 : last(roots.get(i), roots.get(i + 1), gaps));
    }

    /// The last key of the lower of two roots.
    private static int last(int lower, int higher, KeyGaps gaps) {
        return switch (gaps) {
            case HALF -> (lower + higher) / 2;
            case UP -> higher - 1;
            case DOWN -> lower;
        };
    }

    /// Velocities of layers 0…count − 1, in equal steps.
    static Span layer(int layer, int count) { return new Span(127 * layer / count + 1, 127 * (layer + 1) / count); }

    /// Velocities up to each of the stated ones, the loudest to the end.
    static Span upTo(int stated, SortedSet<Integer> all) {
        SortedSet<Integer> below = all.headSet(stated);
        return new Span(below.isEmpty() ? 1 : below.last() + 1, stated == all.last() ? 127 : stated);
    }
}
