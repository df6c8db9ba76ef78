package ablecrate.pack;

import ablecrate.codec.SoundFormats;
import ablecrate.library.Gathered;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PlannedMap;
import ablecrate.plan.PlannedOutput;
import ablecrate.plan.PlannedSidecar;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/// Outputs take the places of their sources, whose originals are put aside first. A file of another name is never overwritten.
final class InPlaceTargets implements Targets {
    private final Originals originals;
    private final Set<Path> numbered = new HashSet<>();

    InPlaceTargets(Originals originals) { this.originals = originals; }

    @Override public Target targetFor(PackingItem item, PlannedOutput output) throws ItemFault {
        Gathered source = item.source();
        if (item.isInstruments()) throw isInstruments();
        if (output.isVerbatim()) return target(source.path(), Fate.PRESENT);
        String channel = item.outputs().size() == 1 ? "" : "-" + channelName(item.outputs().indexOf(output), item.outputs().size());
        Path wanted = source.path().resolveSibling(source.stem() + channel + "." + SoundFormats.byId(output.formatId()).orElseThrow().extensions().getFirst());
        if (wanted.equals(source.path())) return target(wanted, Fate.REPLACED);
        return Files.exists(wanted) ? target(FolderTargets.nextFree(wanted, numbered), Fate.NUMBERED) : target(wanted, Fate.WRITTEN);
    }

    @Override public Target targetFor(PlannedMap map) throws ItemFault {
        throw isInstruments();
    }

    @Override public Target targetFor(PlannedSidecar sidecar) throws ItemFault {
        throw isInstruments();
    }

    private static ItemFault isInstruments() {
        return new ItemFault("instruments are packed into a folder, not in place: several files would take the place of one");
    }

    private static String channelName(int index, int count) { return count == 2 ? index == 0 ? "L" : "R" : Integer.toString(index + 1); }

    private Target target(Path path, Fate fate) { return new Target(path, originals.root().relativize(path).toString(), fate); }

    @Override public void beforePublishing(PackingItem item, List<Originals.Result> results) throws IOException {
        originals.putAside(item.source().path(), results);
    }
}
