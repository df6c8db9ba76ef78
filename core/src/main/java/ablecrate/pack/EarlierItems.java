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
        ofThisRun.forEach(item -> item.files().forEach(f -> now.add(f.path())));
        List<PackingSlip.Item> kept = new ArrayList<>();
        for (PackingSlip.Item item : slip.get().items()) {
            PackingSlip.Item left = item.with(f -> !now.contains(f.path()) && Files.exists(root.resolve(f.path())), slip.get().packedAt());
            if (!left.files().isEmpty()) kept.add(left);
        }
        return kept;
    }
}
