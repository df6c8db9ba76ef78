package ablecrate.fit;

import ablecrate.instrument.About;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Zone;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.IntStream;

/// A kit that is more than a device holds, in parts that fit as they are: each has as many keys as there is room for, from the lowest up.
final class KitParts {
    private final FitTask task;
    private final Instrument kit;

    private KitParts(FitTask task, Instrument kit) {
        this.task = task;
        this.kit = kit;
    }

    /// Empty where even one key is too much.
    static List<Instrument> of(FitTask task, Instrument kit) { return new KitParts(task, kit).parts(); }

    private List<Instrument> parts() {
        int[] keys = IntStream.range(0, 128).filter(key -> kit.zones().stream().anyMatch(z -> z.get(Parameter.KEYS).contains(key))).toArray();
        List<Instrument> out = new ArrayList<>();
        for (int first = 0; first < keys.length;) {
            int last = first;
            while (last + 1 < keys.length && fits(part(keys[first], keys[last + 1])))
                last++;
            Instrument part = part(keys[first], keys[last]);
            if (!fits(part)) return List.of();
            out.add(part.withAbout(part.about().with(About.Field.NAME, kit.name() + " " + (out.size() + 1))));
            first = last + 1;
        }
        return out;
    }

    private boolean fits(Instrument part) { return task.need(part).fits(task.limits()); }

    private Instrument part(int low, int high) {
        return kit.mapZones(z -> on(z, low, high));
    }

    private static List<Zone> on(Zone zone, int low, int high) {
        Span keys = zone.get(Parameter.KEYS);
        int from = Math.max(low, keys.low()), to = Math.min(high, keys.high());
        return from > to ? List.of() : List.of(zone.with(Parameter.KEYS, new Span(from, to)));
    }
}
