package ablecrate.planner.place;

import ablecrate.change.FileChange;
import ablecrate.change.Verdict;
import ablecrate.destination.DestinationSheet;
import ablecrate.destination.DeviceLimits;
import ablecrate.plan.PackingItem;
import java.util.ArrayList;
import java.util.List;

/// The memory of devices that take sounds alone, shared out in the order of the list. What has no room is blocked; a smaller sound behind it may go.
/// Instruments have their memory from [ablecrate.fit].
public final class CardMemory {
    private CardMemory() {}

    public static List<PackingItem> shared(DestinationSheet sheet, List<PackingItem> placed) {
        DeviceLimits limits = sheet.limits();
        if (limits.totalBytes() == 0 || !sheet.accepts().instruments().isEmpty()) return placed;
        List<PackingItem> out = new ArrayList<>();
        long free = limits.totalBytes();
        for (PackingItem item : placed) {
            long bytes = item.verdict() == Verdict.BLOCKED ? 0 : item.outputs().stream().mapToLong(o -> o.audioBytes() + limits.sampleOverheadBytes()).sum();
            if (bytes <= free) {
                free -= bytes;
                out.add(item);
            } else {
                FileChange.MemoryFull full = new FileChange.MemoryFull(item.source().fileName(), bytes, free, limits.totalBytes());
                out.add(item.isInstruments() ? item.with(full, item.parts(), item.maps()) : item.with(full, List.of()));
            }
        }
        return out;
    }
}
