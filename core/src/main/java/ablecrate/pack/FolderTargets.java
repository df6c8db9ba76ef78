package ablecrate.pack;

import ablecrate.plan.ExistingFiles;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PlannedOutput;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/// Outputs into a folder of their own, at the paths the plan gives.
final class FolderTargets implements Targets {
    private final PackFolder folder;
    private final ExistingFiles existing;
    /// Names given to numbered files in this run, so that two workers never take the same.
    private final Set<Path> numbered = new HashSet<>();

    FolderTargets(PackFolder folder, ExistingFiles existing) {
        this.folder = folder;
        this.existing = existing;
    }

    @Override public Target targetFor(PackingItem item, PlannedOutput output) throws IOException, Packer.ItemFault {
        Path target = folder.resolve(output.path());
        if (target.equals(item.source().path().toAbsolutePath().normalize()))
            throw new Packer.ItemFault("the result would take the place of its own source; pack into another folder, or in place");
        if (!Files.exists(target)) return new Target(target, output.path(), "written");
        return switch (existing) {
            case SKIP -> new Target(target, output.path(), "skipped");
            case REPLACE -> new Target(target, output.path(), "replaced");
            case NUMBER -> {
                Path free = nextFree(target, numbered);
                yield new Target(free, output.path().substring(0, output.path().lastIndexOf('/') + 1) + free.getFileName(), "numbered");
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

    @Override public void beforePublishing(PackingItem item, List<Path> paths) {}
}
