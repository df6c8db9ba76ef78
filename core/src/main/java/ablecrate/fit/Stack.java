package ablecrate.fit;

import ablecrate.instrument.Instrument;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Trigger;
import ablecrate.instrument.Turn;
import ablecrate.instrument.Zone;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.IntStream;

/// Zones that sound together, on the same keys and velocities: the two sides of a pair, a sound and its attack. They stay, or go, as one.
record Stack(Span keys, Span velocities, List<Zone> zones) {
    static final Span ALL = new Span(0, 127);

    private record Place(Span keys, Span velocities, Trigger trigger, Turn turn, Object keyswitch) {}

    Stack {
        zones = List.copyOf(zones);
    }

    /// The stacks of an instrument in layers: within each no two of them sound on the same note. What lies over all keys at once, or follows in turn, is a layer of its own.
    static List<List<Stack>> layers(Instrument instrument) {
        Map<Place, List<Zone>> byPlace = new LinkedHashMap<>();
        for (Zone zone : instrument.zones())
            byPlace.computeIfAbsent(
                    new Place(zone.get(Parameter.KEYS), zone.get(Parameter.VELOCITIES), zone.get(Parameter.TRIGGER), zone.get(Parameter.TURN),
                            zone.get(Parameter.SWITCH)),
                    _ -> new ArrayList<>()).add(zone);
        Map<Object, List<List<Stack>>> apart = new LinkedHashMap<>();
        byPlace.entrySet().stream()
                .sorted(Comparator.comparing((Map.Entry<Place, List<Zone>> e) -> e.getKey().velocities().low()).thenComparing(e -> e.getKey().keys().low()))
                .forEach(e -> {
                    Place place = e.getKey();
                    Stack stack = new Stack(place.keys(), place.velocities(), e.getValue());
                    List<List<Stack>> layers = apart.computeIfAbsent(List.of(place.trigger(), place.turn(), place.keyswitch()), _ -> new ArrayList<>());
                    layers.stream().filter(l -> l.stream().noneMatch(stack::overlaps)).findFirst().orElseGet(() -> {
                        List<Stack> layer = new ArrayList<>();
                        layers.add(layer);
                        return layer;
                    }).add(stack);
                });
        return apart.values().stream().flatMap(List::stream).map(List::copyOf).toList();
    }

    private boolean overlaps(Stack other) { return keys.overlaps(other.keys) && velocities.overlaps(other.velocities); }

    boolean sharesKeys(Stack other) { return keys.overlaps(other.keys); }

    /// The key on which it sounds as it was recorded, or the nearest of its own.
    int root() {
        Zone first = zones.getFirst();
        double tracking = first.get(Parameter.KEY_TRACKING), tuning = tracking == 0 ? 0 : first.get(Parameter.TUNING) / tracking;
        return Math.clamp(Math.round(first.get(Parameter.ROOT_KEY) - tuning), keys.low(), keys.high());
    }

    /// Its zones as they sound by themselves, whatever has to be met before they do.
    List<Zone> alone() { return zones.stream().map(Occasion::alone).toList(); }

    /// Whether it sounds once its key is let go.
    boolean isReleased() { return zones.getFirst().get(Parameter.TRIGGER) == Trigger.RELEASE; }

    /// How much of the time it is heard where its keys and velocities are played.
    double share() { return Occasion.share(zones.getFirst()); }

    /// Whether its pitch follows the keys, so that it can stand in for its neighbours.
    boolean isPitched() { return zones.stream().allMatch(z -> z.get(Parameter.KEY_TRACKING) == 100); }

    Set<Integer> samples() {
        Set<Integer> out = new TreeSet<>();
        zones.forEach(z -> out.add(z.sample()));
        return out;
    }

    /// One of its zones.
    private record Piece(Stack stack, int zone) {}

    /// Its zones, each told from all others.
    List<Piece> pieces() { return IntStream.range(0, zones.size()).mapToObj(z -> new Piece(this, z)).toList(); }

    /// On other keys and velocities.
    Stack at(Span otherKeys, Span otherVelocities) {
        return new Stack(otherKeys, otherVelocities,
                zones.stream().map(z -> z.with(Parameter.KEYS, otherKeys).with(Parameter.VELOCITIES, otherVelocities)).toList());
    }

    /// On other keys.
    Stack on(Span otherKeys) { return at(otherKeys, velocities); }

    /// Louder by a number of dB.
    Stack louder(double db) {
        return Math.abs(db) < 0.05 ? this : new Stack(keys, velocities, zones.stream().map(z -> z.with(Parameter.GAIN, gain(z, db))).toList());
    }

    private static double gain(Zone zone, double db) { return Parameter.GAIN.nearest(Math.rint((zone.get(Parameter.GAIN) + db) * 100) / 100); }

    /// With another curve from velocity to level.
    Stack tracking(double percent) {
        return new Stack(keys, velocities, zones.stream().map(z -> z.with(Parameter.VELOCITY_TRACKING, (double) Math.round(percent))).toList());
    }

    /// Of its first zone, in per cent.
    double tracking() { return zones.getFirst().get(Parameter.VELOCITY_TRACKING); }

    int middleVelocity() { return Weights.middle(velocities); }
}
