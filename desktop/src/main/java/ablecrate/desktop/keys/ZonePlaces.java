package ablecrate.desktop.keys;

import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Zone;
import ablecrate.instrument.ZoneGroup;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;

/// Where zones lie on keys and velocities.
final class ZonePlaces {
    private ZonePlaces() {}

    /// From the lowest to the highest of all.
    static Span around(List<Zone> zones, Parameter<Span> p) {
        return new Span(zones.stream().mapToInt(z -> z.get(p).low()).min().orElseThrow(), zones.stream().mapToInt(z -> z.get(p).high()).max().orElseThrow());
    }

    /// As far as all of them can go.
    static int within(int by, List<Zone> moving, Parameter<Span> p) {
        int lowest = moving.stream().mapToInt(z -> z.get(p).low()).min().orElse(0), highest = moving.stream().mapToInt(z -> z.get(p).high()).max().orElse(0);
        return Math.clamp(by, Math.min(0, p.usual().low() - lowest), Math.max(0, p.usual().high() - highest));
    }

    /// A zone for the sample on one key; what lay there in its group and at its velocities gives way.
    static List<ZoneGroup> withOn(List<ZoneGroup> groups, int key, int velocity, int sample) {
        int home = 0;
        Optional<Zone> there = Optional.empty();
        for (int g = groups.size() - 1; g >= 0; g--)
            for (Zone zone : groups.get(g).zones())
                if (zone.get(Parameter.KEYS).contains(key) && zone.get(Parameter.VELOCITIES).contains(velocity)) {
                    home = g;
                    there = Optional.of(zone);
                }
        Span velocities = there.map(z -> z.get(Parameter.VELOCITIES)).orElse(new Span(1, 127));
        List<Zone> zones = new ArrayList<>();
        for (Zone zone : groups.get(home).zones()) {
            Span keys = zone.get(Parameter.KEYS);
            if (!keys.contains(key) || !zone.get(Parameter.VELOCITIES).overlaps(velocities)) {
                zones.add(zone);
                continue;
            }
            if (keys.low() < key) zones.add(zone.with(Parameter.KEYS, new Span(keys.low(), key - 1)));
            if (keys.high() > key) zones.add(zone.with(Parameter.KEYS, new Span(key + 1, keys.high())));
        }
        Zone added = Zone.of(sample).with(Parameter.KEYS, new Span(key, key)).with(Parameter.ROOT_KEY, key);
        zones.add(velocities.size() == 127 ? added : added.with(Parameter.VELOCITIES, velocities));
        List<ZoneGroup> out = new ArrayList<>(groups);
        out.set(home, groups.get(home).withZones(zones));
        return out;
    }

    /// The nearest zone along the keys or up the velocities.
    /// @return its number
    static OptionalInt next(List<Zone> zones, Zone from, int keys, int velocities) {
        double x = middle(from, Parameter.KEYS), y = middle(from, Parameter.VELOCITIES), best = Double.MAX_VALUE;
        OptionalInt found = OptionalInt.empty();
        for (int z = 0; z < zones.size(); z++) {
            double dx = middle(zones.get(z), Parameter.KEYS) - x, dy = middle(zones.get(z), Parameter.VELOCITIES) - y;
            double along = dx * keys + dy * velocities, aside = Math.abs(keys != 0 ? dy : dx);
            if (along > 0 && along + 3 * aside < best) {
                best = along + 3 * aside;
                found = OptionalInt.of(z);
            }
        }
        return found;
    }

    private static double middle(Zone zone, Parameter<Span> p) { return (zone.get(p).low() + zone.get(p).high()) / 2.0; }
}
