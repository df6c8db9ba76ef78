package ablecrate.planner.instrument;

import ablecrate.change.Change;
import ablecrate.change.InstrumentChange;
import ablecrate.change.Told;
import ablecrate.format.InstrumentFile;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.NoteName;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Zone;
import ablecrate.instrument.ZoneGroup;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/// What is odd about a map itself, found before anything is packed: keys between others that nothing sounds on, zones that never can, the same
/// sample twice.
record MapProblems(InstrumentFile file, List<Instrument> instruments) {
    List<Change> changes() { return instruments.stream().flatMap(i -> odd(i).stream()).toList(); }

    private Optional<Change> odd(Instrument instrument) {
        List<String> told = new ArrayList<>();
        gaps(instrument).ifPresent(told::add);
        long unreachable = instrument.zones().stream().filter(z -> z.get(Parameter.CHANCE).low() >= z.get(Parameter.CHANCE).high()
                || z.get(Parameter.KEY_FADE_IN).filter(f -> f.low() > z.get(Parameter.KEYS).high()).isPresent()).count();
        if (unreachable > 0) told.add(Told.count(unreachable, "zone") + " can never sound");
        overlaps(instrument).ifPresent(told::add);
        duplicates(instrument).ifPresent(told::add);
        return told.isEmpty()
                ? Optional.empty()
                : Optional.of(new InstrumentChange.MapOdd(instruments.size() == 1 ? Optional.empty() : Optional.of(instrument.name()),
                        instrument.zones().size(), told));
    }

    private static Optional<String> gaps(Instrument instrument) {
        boolean[][] sounds = new boolean[128][128];
        int lowest = 127, highest = 0;
        for (Zone zone : instrument.zones()) {
            Span keys = zone.get(Parameter.KEYS), velocities = zone.get(Parameter.VELOCITIES);
            lowest = Math.min(lowest, keys.low());
            highest = Math.max(highest, keys.high());
            for (int key = keys.low(); key <= keys.high(); key++)
                Arrays.fill(sounds[key], velocities.low(), velocities.high() + 1, true);
        }
        List<Integer> silent = new ArrayList<>(), partly = new ArrayList<>();
        for (int key = lowest; key <= highest; key++) {
            int count = 0;
            for (int velocity = 1; velocity <= 127; velocity++)
                if (sounds[key][velocity]) count++;
            if (count == 0)
                silent.add(key);
            else
                if (count < 127) partly.add(key);
        }
        List<String> told = new ArrayList<>();
        if (!silent.isEmpty()) told.add(Told.count(silent.size(), "key") + " between others silent, first " + NoteName.of(silent.getFirst()));
        if (!partly.isEmpty()) told.add(Told.count(partly.size(), "key") + " silent at some velocities, first " + NoteName.of(partly.getFirst()));
        return told.isEmpty() ? Optional.empty() : Optional.of(String.join(", ", told));
    }

    /// Zones of one group that sound together though nothing says that they are layers.
    private static Optional<String> overlaps(Instrument instrument) {
        int overlapping = 0;
        for (ZoneGroup group : instrument.groups()) {
            List<Zone> zones = group.zones().stream().sorted(Comparator.comparingInt(z -> z.get(Parameter.KEYS).low())).toList();
            for (int i = 0; i < zones.size(); i++)
                for (int j = i + 1; j < zones.size() && zones.get(j).get(Parameter.KEYS).low() <= zones.get(i).get(Parameter.KEYS).high(); j++)
                    if (overlap(zones.get(i), zones.get(j))) overlapping++;
        }
        return overlapping == 0 ? Optional.empty() : Optional.of(Told.count(overlapping, "pair") + " of zones overlap in one group");
    }

    private static boolean overlap(Zone a, Zone b) {
        return a.get(Parameter.KEYS).overlaps(b.get(Parameter.KEYS)) && a.get(Parameter.VELOCITIES).overlaps(b.get(Parameter.VELOCITIES))
                && a.get(Parameter.TURN).equals(b.get(Parameter.TURN)) && a.get(Parameter.CHANCE).equals(b.get(Parameter.CHANCE))
                && a.get(Parameter.SWITCH).equals(b.get(Parameter.SWITCH)) && a.get(Parameter.TRIGGER) == b.get(Parameter.TRIGGER)
                && a.get(Parameter.PAN).equals(b.get(Parameter.PAN))
                && a.get(Parameter.VELOCITY_FADE_IN).isEmpty() && b.get(Parameter.VELOCITY_FADE_IN).isEmpty() && a.get(Parameter.KEY_FADE_IN).isEmpty()
                && b.get(Parameter.KEY_FADE_IN).isEmpty();
    }

    private Optional<String> duplicates(Instrument instrument) {
        Map<Object, Integer> sizes = new HashMap<>();
        Set<Integer> seen = new HashSet<>();
        for (Zone zone : instrument.zones())
            if (seen.add(zone.sample()))
                file.sound(zone.sample()).ifPresent(s -> sizes.merge(List.of(s.path().getFileName(), s.fileBytes(), s.audio()), 1, Integer::sum));
        long twice = sizes.values().stream().filter(n -> n > 1).count();
        return twice == 0 ? Optional.empty() : Optional.of(Told.count((int) twice, "sample") + " there twice under one name and size");
    }
}
