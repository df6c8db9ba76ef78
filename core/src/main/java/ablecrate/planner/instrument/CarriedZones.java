package ablecrate.planner.instrument;

import ablecrate.change.Change;
import ablecrate.change.InstrumentChange;
import ablecrate.change.Property;
import ablecrate.format.InstrumentCapabilities;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;

/// Fits zones to a target, and counts what that changes: dropped or moved, parameter by parameter.
final class CarriedZones {
    private static final class Tally {
        private int dropped, moved;
        private final List<String> each = new ArrayList<>();
        private String example = "";
        private double farthest = -1;
    }

    private final String target;
    private final InstrumentCapabilities capabilities;
    private final Map<Parameter<?>, Tally> tallies = new LinkedHashMap<>();

    CarriedZones(String target, InstrumentCapabilities capabilities) {
        this.target = target;
        this.capabilities = capabilities;
        Parameter.ALL.forEach(p -> tallies.put(p, new Tally()));
    }

    /// @param name of the zone, for people
    Zone fit(Zone zone, Supplier<String> name) {
        Zone fitted = capabilities.fit(zone);
        Zone before = Heard.of(zone), after = Heard.of(fitted);
        for (Parameter<?> p : before.differences(after))
            count(p, before, after, name);
        return fitted;
    }

    private <T> void count(Parameter<T> p, Zone before, Zone after, Supplier<String> name) {
        T from = before.get(p), to = after.get(p);
        double distance = from instanceof Double a && to instanceof Double b ? Math.abs(a - b) : 0;
        if (p.isSame(from, to)) return;
        Tally tally = tallies.get(p);
        boolean isDropped = after.said(p).isEmpty() && !capabilities.carries(p) || to.equals(p.usual()) && !(to instanceof Double);
        if (isDropped)
            tally.dropped++;
        else
            tally.moved++;
        String change = p.text(from) + " → " + (isDropped ? "none" : p.text(to));
        tally.each.add(name.get() + ": " + change);
        if (distance > tally.farthest) {
            tally.farthest = distance;
            tally.example = change;
        }
    }

    List<Change> changes() {
        List<Change> changes = new ArrayList<>();
        tallies.forEach((p, tally) -> {
            if (tally.dropped > 0)
                changes.add(new InstrumentChange.SettingDropped(property(p), p.label(), tally.dropped, tally.example, target,
                        capabilities.carries(p) ? Optional.of(capabilities.how(p)) : Optional.empty(), tally.each));
            else
                if (tally.moved > 0)
                    changes.add(new InstrumentChange.SettingMoved(property(p), p.label(), tally.moved, tally.example, capabilities.how(p), tally.each));
        });
        return changes;
    }

    private static Property property(Parameter<?> p) {
        if (p == Parameter.LOOPS || p == Parameter.LOOP_CROSSFADE || p == Parameter.LOOP_UNTIL_RELEASE) return Property.LOOPS;
        return p.area() == Parameter.Area.MAP || p.area() == Parameter.Area.PITCH ? Property.MAPPING : Property.PLAYING;
    }
}
