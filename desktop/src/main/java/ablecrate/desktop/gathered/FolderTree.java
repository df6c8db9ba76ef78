package ablecrate.desktop.gathered;

import ablecrate.plan.PackingItem;
import ablecrate.change.Verdict;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/// Folders of a gathering with what lies in and below each. A value made from the packing list.
/// @param folder as in [ablecrate.library.Gathered#relative]
/// @param files in and below it
/// @param blocked of these
record FolderTree(Path folder, int files, int blocked, List<FolderTree> below) {
    static List<FolderTree> of(List<PackingItem> items) {
        Node root = new Node(null);
        for (PackingItem item : items) {
            Path parent = item.source().relative().getParent();
            Node at = root;
            for (int i = 0; parent != null && i < parent.getNameCount(); i++) {
                Path folder = parent.subpath(0, i + 1);
                at = at.below.computeIfAbsent(folder, Node::new);
                at.files++;
                if (item.verdict() == Verdict.BLOCKED) at.blocked++;
            }
        }
        return root.value().below();
    }

    String name() { return folder.getFileName().toString(); }

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
