package ablecrate.planner.place;

import ablecrate.change.CardChange;
import ablecrate.change.Verdict;
import ablecrate.destination.DestinationSheet;
import ablecrate.destination.DeviceLimits;
import ablecrate.option.PackOptions;
import ablecrate.plan.PackingItem;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// The memory that a device has for all it loads, shared out in the order of the list. What has no room is blocked; something smaller behind it may go.
/// Instruments of one file were made to fit by [ablecrate.fit] before, as if they were alone.
public final class CardMemory {
    private CardMemory() {}

    /// What lines take of the memory.
    static long bytes(DeviceLimits limits, List<PackingItem> items) {
        return items.stream().filter(i -> i.verdict() != Verdict.BLOCKED).mapToLong(i -> i.memoryBytes(limits.sampleOverheadBytes(), false)).sum();
    }

    /// @param whole what is known of making all sounds fit
    public static List<PackingItem> shared(DestinationSheet sheet, PackOptions options, List<PackingItem> placed, Optional<CardChange.AllFitted> whole) {
        DeviceLimits limits = options.instruments().limits(sheet);
        if (limits.totalBytes() == 0 || sheet.loadsBankByBank()) return placed;
        List<PackingItem> out = new ArrayList<>();
        long free = limits.totalBytes();
        for (PackingItem item : placed) {
            // Where instruments are loaded, loose sounds are not.
            long bytes = sheet.sharesMemory() || item.isInstruments() ? bytes(limits, List.of(item)) : 0;
            if (bytes <= free) {
                free -= bytes;
                out.add(item);
            } else {
                CardChange.MemoryFull full = new CardChange.MemoryFull(item.source().fileName(), bytes, free, limits.totalBytes(), whole);
                out.add(item.isInstruments() ? item.with(full, item.parts(), item.maps()) : item.with(full, List.of()));
            }
        }
        return out;
    }
}
