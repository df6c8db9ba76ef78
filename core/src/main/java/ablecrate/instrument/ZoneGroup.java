package ablecrate.instrument;

import java.util.List;

/// Zones that belong together: a layer, an articulation.
/// @param name empty where it has none
public record ZoneGroup(String name, List<Zone> zones) {
    public ZoneGroup {
        zones = List.copyOf(zones);
    }

    public ZoneGroup withZones(List<Zone> others) { return new ZoneGroup(name, others); }
}
