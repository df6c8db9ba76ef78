package ablecrate.fit;

import ablecrate.instrument.Instrument;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;
import java.util.List;

/// Kits: instruments whose keys are sounds of their own, which no neighbour can stand in for.
final class Kits {
    private static final double MOSTLY = 0.6;

    private Kits() {}

    /// Percussion by its number, or most zones on a key alone and far from their root, or at one pitch whatever the key.
    static boolean isKit(Instrument instrument) {
        if (instrument.program().filter(Instrument.Program::isPercussion).isPresent()) return true;
        List<Zone> zones = instrument.zones();
        long alone = zones.stream().filter(z -> z.get(Parameter.KEYS).size() == 1 && (z.get(Parameter.KEY_TRACKING) == 0 || z.get(Parameter.ONE_SHOT))).count();
        return zones.size() > 1 && alone >= MOSTLY * zones.size();
    }
}
