package ablecrate.pack;

import ablecrate.codec.FormatException;
import ablecrate.codec.OutputShape;
import ablecrate.codec.SoundFile;
import ablecrate.disk.Checksums;
import ablecrate.format.InstrumentFile;
import ablecrate.instrument.Instrument;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Zone;
import ablecrate.plan.PlannedMap;
import ablecrate.plan.PlannedOutput;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;

/// Reads a written file of instruments again, as another program would, and compares it with what was planned.
final class MapVerifier {
    private static final double SAME = 1e-9;

    private MapVerifier() {}

    static List<PackingSlip.Check> checks(Path file, PlannedMap map, List<PlannedOutput> outputs, long wantedCrc) throws IOException {
        List<PackingSlip.Check> checks = new ArrayList<>();
        boolean isSame = Checksums.crc32c(file) == wantedCrc;
        checks.add(new PackingSlip.Check("bytesReadBack", isSame, isSame ? "identical" : "the disk gave back other bytes"));
        try {
            InstrumentFile read = map.format().read(file);
            if (map.verbatim().isEmpty()) checks.add(map(read, map, outputs));
            checks.add(new PackingSlip.Check("opens", true, read.instruments().size() + " instruments, " + read.zoneCount() + " zones"));
        } catch (FormatException e) {
            checks.add(new PackingSlip.Check("opens", false, e.getMessage()));
        }
        return checks;
    }

    private static PackingSlip.Check map(InstrumentFile read, PlannedMap map, List<PlannedOutput> outputs) {
        // Banks list their instruments by number, which may be another order.
        List<Instrument> wanted = map.instruments(), found = read.instruments();
        if (found.size() != wanted.size()) return new PackingSlip.Check("map", false, found.size() + " instruments, " + wanted.size() + " were planned");
        Map<Optional<Instrument.Program>, Instrument> byProgram = found.stream().collect(Collectors.toMap(Instrument::program, i -> i, (a, _) -> a));
        for (int i = 0; i < wanted.size(); i++) {
            Instrument w = wanted.get(i);
            Optional<String> fault = difference(read, byProgram.getOrDefault(w.program(), found.get(i)), w, outputs);
            if (fault.isPresent()) return new PackingSlip.Check("map", false, "'" + w.name() + "': " + fault.get());
        }
        return new PackingSlip.Check("map", true, wanted.stream().mapToInt(i -> i.zones().size()).sum() + " zones as planned");
    }

    private static Optional<String> difference(InstrumentFile file, Instrument read, Instrument wanted, List<PlannedOutput> outputs) {
        List<Zone> zones = read.zones(), planned = wanted.zones();
        if (zones.size() != planned.size()) return Optional.of(zones.size() + " zones, " + planned.size() + " were planned");
        for (int i = 0; i < zones.size(); i++) {
            Zone zone = zones.get(i), other = planned.get(i);
            OutputShape shape = outputs.get(other.sample()).shape();
            Optional<SoundFile> sound = file.sound(zone.sample());
            if (sound.isEmpty() || sound.get().frames() != shape.frames() || sound.get().rateHz() != shape.rateHz()
                    || sound.get().channels() != shape.channels())
                return Optional.of("zone " + (i + 1) + " has another sound");
            Optional<Parameter<?>> different = zone.differences(other).stream().filter(p -> !isNear(p, zone, other)).findFirst();
            if (different.isPresent())
                return Optional.of("zone " + (i + 1) + " reads back with " + zone.told(different.get()) + " instead of " + other.told(different.get()));
        }
        return Optional.empty();
    }

    private static <T> boolean isNear(Parameter<T> p, Zone a, Zone b) {
        return a.get(p) instanceof Double x && b.get(p) instanceof Double y && Math.abs(x - y) <= SAME * Math.max(1, Math.abs(y));
    }
}
