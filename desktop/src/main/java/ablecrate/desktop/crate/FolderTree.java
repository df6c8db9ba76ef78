package ablecrate.desktop.crate;

import ablecrate.plan.PackingItem;
import ablecrate.change.Verdict;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/// Folders of a gathering with what lies in and below each. A value made from the packing list.
/// @param folder as in [ablecrate.library.Gathered#relative]
/// @param files in and below it; a folder that is one line counts as one
/// @param blocked of these
public record FolderTree(Path folder, int files, int blocked, List<FolderTree> below) {
    static List<FolderTree> of(List<PackingItem> items) {
        Map<Path, int[]> counts = new LinkedHashMap<>();
        for (PackingItem item : items) {
            Path place = item.source().relative(), folder = item.source().isFolder() ? place : place.getParent();
            if (folder == null) continue;
            int[] count = counts.computeIfAbsent(folder, _ -> new int[2]);
            count[0]++;
            if (item.verdict() == Verdict.BLOCKED) count[1]++;
        }
        Node root = new Node(null);
        counts.forEach((folder, count) -> {
            Node at = root;
            for (int i = 0; i < folder.getNameCount(); i++) {
                at = at.below.computeIfAbsent(folder.subpath(0, i + 1), Node::new);
                at.files += count[0];
                at.blocked += count[1];
            }
        });
        return root.value().below();
    }

    public String name() { return folder.getFileName().toString(); }

    private static final class Node {
        private final Path folder;
        private final Map<Path, Node> below = new LinkedHashMap<>();
        private int files, blocked;

        Node(Path folder) { this.folder = folder; }

        FolderTree value() {
            List<FolderTree> children = new ArrayList<>();
            below.values().forEach(n -> children.add(n.value()));
            return new FolderTree(folder, files, blocked, children);
        }
    }
}
