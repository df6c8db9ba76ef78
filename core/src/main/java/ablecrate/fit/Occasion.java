package ablecrate.fit;

import ablecrate.instrument.Chance;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.KeySwitch;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Trigger;
import ablecrate.instrument.Zone;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeSet;

/// What decides, besides key and velocity, which zones of an instrument sound.
/// @param press how often the key was struck before, for the turns of a round robin
/// @param chosen by the range of keys that choose, the one that was pressed last
/// @param drawn the random number, 0…1
record Occasion(int press, Map<Span, Integer> chosen, double drawn) {
    /// More turns, articulations or draws than these do not make more occasions.
    private static final int MOST = 12;
    /// How much a release sample counts beside what it follows: a note's release is shorter and softer than the note.
    private static final double RELEASE_SHARE = 0.25;

    /// Occasions on which every zone of an instrument sounds at least once, where there are not too many of them.
    static List<Occasion> of(Instrument instrument) {
        List<Zone> zones = instrument.zones();
        int presses = 1;
        for (int length : zones.stream().mapToInt(z -> z.get(Parameter.TURN).length()).distinct().toArray()) {
            int both = presses;
            while (both % length != 0)
                both += presses;
            if (both <= MOST) presses = both;
        }
        List<KeySwitch> switches = zones.stream().flatMap(z -> z.get(Parameter.SWITCH).stream()).toList();
        int articulations = Math.clamp(switches.stream().map(KeySwitch::key).distinct().count(), 1, MOST);
        List<Double> draws = draws(zones);
        int all = presses * articulations * draws.size();
        // Of too many, each turn, articulation and draw is met, but not with each of the others.
        boolean isEach = all <= MOST;
        List<Occasion> out = new ArrayList<>();
        for (int i = 0; i < (isEach ? all : Math.max(presses, Math.max(articulations, draws.size()))); i++)
            out.add(new Occasion(i % presses, chosen(switches, isEach ? i / presses : i),
                    draws.get((isEach ? i / presses / articulations : i) % draws.size())));
        return out;
    }

    Occasion at(int other) { return new Occasion(other, chosen, drawn); }

    /// A number within each stretch in which the same zones are drawn.
    private static List<Double> draws(List<Zone> zones) {
        TreeSet<Double> edges = new TreeSet<>(List.of(0.0, 1.0));
        zones.forEach(z -> edges.addAll(List.of(z.get(Parameter.CHANCE).low(), z.get(Parameter.CHANCE).high())));
        List<Double> at = new ArrayList<>(edges), out = new ArrayList<>();
        for (int i = 0; i + 1 < at.size() && i < MOST; i++)
            out.add((at.get(i) + at.get(i + 1)) / 2);
        return out;
    }

    private static Map<Span, Integer> chosen(List<KeySwitch> switches, int number) {
        Map<Span, List<Integer>> keys = new HashMap<>();
        switches.stream().distinct().sorted(Comparator.comparing(KeySwitch::key)).forEach(s -> {
            List<Integer> ofRange = keys.computeIfAbsent(s.keys(), _ -> new ArrayList<>());
            if (!ofRange.contains(s.key())) ofRange.add(s.key());
        });
        Map<Span, Integer> out = new HashMap<>();
        keys.forEach((range, choices) -> out.put(range, choices.get(number % choices.size())));
        return out;
    }

    /// The zones that sound, with nothing left to decide but key and velocity.
    List<Zone> sounding(Instrument instrument, int key, int velocity) {
        return instrument.zones().stream().filter(z -> z.covers(key, velocity) && isMet(z)).map(Occasion::decided).toList();
    }

    private boolean isMet(Zone zone) {
        Optional<KeySwitch> key = zone.get(Parameter.SWITCH);
        // What is chosen by keys that the source does not have sounds always.
        return zone.get(Parameter.TURN).isDueAfter(press) && zone.get(Parameter.CHANCE).contains(drawn)
                && key.map(s -> chosen.getOrDefault(s.keys(), s.key()) == s.key()).orElse(true);
    }

    private static Zone decided(Zone zone) {
        return zone.without(Parameter.TURN).without(Parameter.CHANCE).without(Parameter.SWITCH);
    }

    /// A zone as it sounds by itself, as soon as its key is struck.
    static Zone alone(Zone zone) {
        return zone.get(Parameter.TRIGGER) == Trigger.RELEASE ? decided(zone).with(Parameter.TRIGGER, Trigger.ATTACK) : decided(zone);
    }

    /// How much of the time a zone is heard where its key and velocity are played.
    static double share(Zone zone) {
        Chance chance = zone.get(Parameter.CHANCE);
        return (chance.high() - chance.low()) / zone.get(Parameter.TURN).length() * (zone.get(Parameter.TRIGGER) == Trigger.RELEASE ? RELEASE_SHARE : 1);
    }
}
