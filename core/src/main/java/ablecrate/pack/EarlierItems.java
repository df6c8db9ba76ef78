package ablecrate.pack;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/// What a folder's slip keeps of earlier runs: the lines of files that are still there and were none of this run's.
final class EarlierItems {
    private EarlierItems() {}

    static List<PackingSlip.Item> of(Optional<PackingSlip> slip, List<PackingSlip.Item> ofThisRun, Path root) {
        if (slip.isEmpty()) return List.of();
        Set<String> now = new HashSet<>();
        for (PackingSlip.Item item : ofThisRun) {
            item.outputs().forEach(o -> now.add(o.path()));
            item.maps().forEach(m -> now.add(m.path()));
        }
        List<PackingSlip.Item> kept = new ArrayList<>();
        for (PackingSlip.Item item : slip.get().items()) {
            List<PackingSlip.Output> outputs = item.outputs().stream().filter(o -> !now.contains(o.path()) && Files.exists(root.resolve(o.path()))).toList();
            List<PackingSlip.MapFile> maps = item.maps().stream().filter(m -> !now.contains(m.path()) && Files.exists(root.resolve(m.path()))).toList();
            if (!outputs.isEmpty() || !maps.isEmpty()) kept.add(item.with(outputs, maps, slip.get().packedAt()));
        }
        return kept;
    }
}
