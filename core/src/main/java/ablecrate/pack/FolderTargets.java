package ablecrate.pack;

import ablecrate.option.ExistingFiles;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PlannedMap;
import ablecrate.plan.PlannedOutput;
import ablecrate.plan.PlannedSidecar;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/// Outputs into a folder of their own, at the paths the plan gives.
final class FolderTargets implements Targets {
    private final PackFolder folder;
    private final ExistingFiles existing;
    private final WriteGuard guard;
    /// Names given to numbered files in this run, so that two workers never take the same.
    private final Set<Path> numbered = new HashSet<>();

    private final Optional<Originals> originals;

    /// @param guard keeps sources from being written over
    /// @param originals where files are put that are written over; without them they are gone
    FolderTargets(PackFolder folder, ExistingFiles existing, WriteGuard guard, Optional<Originals> originals) {
        this.originals = originals;
        this.folder = folder;
        this.existing = existing;
        this.guard = guard;
    }

    @Override public Target targetFor(PackingItem item, PlannedOutput output) throws IOException, ItemFault {
        return target(folder.resolve(output.path()), output.path());
    }

    @Override public Target targetFor(PlannedMap map) throws IOException, ItemFault { return target(folder.resolve(map.path()), map.path()); }

    @Override public Target targetFor(PlannedSidecar sidecar) throws IOException, ItemFault { return target(folder.resolve(sidecar.path()), sidecar.path()); }

    private Target target(Path target, String shownPath) throws IOException, ItemFault {
        // A free name beside it is no source's.
        if (existing != ExistingFiles.NUMBER || !Files.exists(target)) guard.check(target);
        if (!Files.exists(target)) return new Target(target, shownPath, Fate.WRITTEN);
        return switch (existing) {
            case SKIP, UPDATE -> new Target(target, shownPath, Fate.PRESENT);
            case REPLACE -> new Target(target, shownPath, Fate.REPLACED);
            case NUMBER -> {
                Path free = nextFree(target, numbered);
                yield new Target(free, shownPath.substring(0, shownPath.lastIndexOf('/') + 1) + free.getFileName(), Fate.NUMBERED);
            }
        };
    }

    /// `name-2.wav`, `name-3.wav`… the first that neither the disk nor `reserved` has.
    static Path nextFree(Path target, Set<Path> reserved) {
        String name = target.getFileName().toString();
        int dot = name.lastIndexOf('.');
        String stem = dot < 0 ? name : name.substring(0, dot), extension = dot < 0 ? "" : name.substring(dot);
        synchronized (reserved) {
            for (int n = 2;; n++) {
                Path candidate = target.resolveSibling(stem + "-" + n + extension);
                if (!Files.exists(candidate) && reserved.add(candidate)) return candidate;
            }
        }
    }

    @Override public void beforePublishing(PackingItem item, List<Originals.Result> results) throws IOException {
        if (originals.isPresent())
            for (Originals.Result result : results)
                if (Files.exists(result.path())) originals.get().putAside(result.path(), List.of(result));
    }
}
