package ablecrate.instrument;

import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedSet;
import java.util.TreeSet;

/// The turns of round robins that stay where fewer are played, place by place on the keys: those that are wanted first, and where a place does not have
/// them, the next of its own, so that no key falls silent.
public final class TurnsLeft {
    /// Positions of turns.
    private final Map<Robin, TreeSet<Integer>> there = new HashMap<>();
    private final Map<Integer, List<Integer>> order;
    private final int most;

    /// Where a sound plays.
    public record Place(Span keys, Span velocities, Trigger trigger) {
        public static Place of(Zone zone) { return new Place(zone.get(Parameter.KEYS), zone.get(Parameter.VELOCITIES), zone.get(Parameter.TRIGGER)); }
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
        instrument.zones().forEach(z -> there.computeIfAbsent(Robin.of(z), _ -> new TreeSet<>()).add(z.get(Parameter.TURN).position()));
    }

    /// The zone with the turn that it has now; empty where it goes.
    /// @param zone of the instrument
    public Optional<Zone> of(Zone zone) {
        Turn turn = zone.get(Parameter.TURN);
        if (turn.length() <= most) return Optional.of(zone);
        TreeSet<Integer> own = there.get(Robin.of(zone));
        Collection<Integer> wanted = order.getOrDefault(turn.length(), List.copyOf(own));
        SortedSet<Integer> stay = new TreeSet<>(wanted.stream().filter(own::contains).limit(most).toList());
        if (!stay.contains(turn.position())) return Optional.empty();
        return Optional.of(most == 1 ? zone.without(Parameter.TURN) : zone.with(Parameter.TURN, new Turn(stay.headSet(turn.position()).size() + 1, most)));
    }
}
