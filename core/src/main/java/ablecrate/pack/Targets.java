package ablecrate.pack;

import ablecrate.plan.PackingItem;
import ablecrate.plan.PlannedMap;
import ablecrate.plan.PlannedOutput;
import ablecrate.plan.PlannedSidecar;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;

/// Where outputs go, and what has to happen before they take their names.
interface Targets {
    /// What happens at a place.
    enum Fate {
        WRITTEN, REPLACED, NUMBERED,
        /// A file is there, and it has to be seen whether it is the result.
        PRESENT;

        String state() { return name().toLowerCase(Locale.ROOT); }
    }

    /// @param shownPath as the slip has it
    record Target(Path path, String shownPath, Fate fate) {}

    Target targetFor(PackingItem item, PlannedOutput output) throws IOException, ItemFault;

    /// The place of a file of instruments.
    Target targetFor(PlannedMap map) throws IOException, ItemFault;

    /// The place of a small file beside sounds.
    Target targetFor(PlannedSidecar sidecar) throws IOException, ItemFault;

    /// All outputs of an item lie verified under temporary names.
    /// @param results the names they are about to get, with their checksums
    void beforePublishing(PackingItem item, List<Originals.Result> results) throws IOException;
}
