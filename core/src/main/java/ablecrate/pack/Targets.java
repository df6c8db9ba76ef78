package ablecrate.pack;

import ablecrate.plan.PackingItem;
import ablecrate.plan.PlannedMap;
import ablecrate.plan.PlannedOutput;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;

/// Where outputs go, and what has to happen before they take their names.
interface Targets {
    /// @param shownPath as the slip has it
    /// @param state `written`, `replaced`, `numbered` or `skipped`
    record Target(Path path, String shownPath, String state) {}

    Target targetFor(PackingItem item, PlannedOutput output) throws IOException, Packer.ItemFault;

    /// The place of a file of instruments.
    Target targetFor(PlannedMap map) throws IOException, Packer.ItemFault;

    /// All outputs of an item lie verified under temporary names.
    /// @param paths the names they are about to get
    void beforePublishing(PackingItem item, List<Path> paths) throws IOException;
}
