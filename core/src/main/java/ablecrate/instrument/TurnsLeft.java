package ablecrate.instrument;

import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.SortedSet;
import java.util.TreeSet;

/// The turns of round robins that stay where fewer are played, place by place on the keys: those that are wanted first, and where a place does not have
/// them, the next of its own, so that no key falls silent.
public final class TurnsLeft {
    /// Positions of turns.
    private final Map<Robin, TreeSet<Integer>> there = new HashMap<>();
    /// By the length of a round robin: places of the turns that are wanted first.
    private final Map<Integer, Map<Integer, Set<Place>>> wantedFirst = new HashMap<>();
    private final Map<Integer, List<Integer>> order;
    private final int most;

    /// Where a sound plays.
    public record Place(Span keys, Span velocities, Trigger trigger) {
        public static Place of(Zone zone) { return new Place(zone.get(Parameter.KEYS), zone.get(Parameter.VELOCITIES), zone.get(Parameter.TRIGGER)); }

        boolean overlaps(Place other) { return keys.overlaps(other.keys) && velocities.overlaps(other.velocities) && trigger == other.trigger; }
    }

    private record Robin(Place place, int length) {
        static Robin of(Zone zone) { return new Robin(Place.of(zone), zone.get(Parameter.TURN).length()); }
    }

    /// The first turns.
    /// @param most that are played, from 1
    public TurnsLeft(Instrument instrument, int most) { this(instrument, most, Map.of()); }

    /// @param order by the length of a round robin: positions of its turns, the first to stay first
    public TurnsLeft(Instrument instrument, int most, Map<Integer, List<Integer>> order) {
        this.most = most;
        this.order = order;
        for (Zone zone : instrument.zones()) {
            Turn turn = zone.get(Parameter.TURN);
            if (turn.length() <= most) continue;
            there.computeIfAbsent(Robin.of(zone), _ -> new TreeSet<>()).add(turn.position());
            if (isWantedFirst(turn))
                wantedFirst.computeIfAbsent(turn.length(), _ -> new HashMap<>()).computeIfAbsent(turn.position(), _ -> new HashSet<>()).add(Place.of(zone));
        }
    }

    private boolean isWantedFirst(Turn turn) {
        return order.containsKey(turn.length()) ? order.get(turn.length()).indexOf(turn.position()) < most : turn.position() <= most;
    }

    /// Whether as many turns as are played sound on some of its keys, so that it would sound together with one of them.
    private boolean isCovered(Place place, int length) {
        return wantedFirst.getOrDefault(length, Map.of()).values().stream().filter(places -> places.stream().anyMatch(place::overlaps)).count() >= most;
    }

    /// The zone with the turn that it has now; empty where it goes.
    /// @param zone of the instrument
    public Optional<Zone> of(Zone zone) {
        Turn turn = zone.get(Parameter.TURN);
        if (turn.length() <= most) return Optional.of(zone);
        TreeSet<Integer> own = there.get(Robin.of(zone));
        Collection<Integer> wanted = order.getOrDefault(turn.length(), List.copyOf(own));
        SortedSet<Integer> stay = new TreeSet<>(wanted.stream().filter(own::contains).limit(most).toList());
        if (!stay.contains(turn.position()) || !isWantedFirst(turn) && isCovered(Place.of(zone), turn.length())) return Optional.empty();
        return Optional.of(most == 1 ? zone.without(Parameter.TURN) : zone.with(Parameter.TURN, new Turn(stay.headSet(turn.position()).size() + 1, most)));
    }
}
