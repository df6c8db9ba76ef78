package ablecrate.desktop.list;

import ablecrate.library.Gathered;
import ablecrate.plan.PackingItem;
import java.util.ArrayList;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import javafx.collections.ModifiableObservableListBase;

/// The lines of the packing list. Renewed as a whole with one change told, whatever number of lines it touches: ten thousand changes would each be
/// followed by everything that depends on the list.
final class Lines extends ModifiableObservableListBase<PackingItem> {
    private final List<PackingItem> lines = new ArrayList<>();
    /// Made once it is asked for.
    private Map<PackingItem, Integer> places;

    /// Line for line where files stay the same: selection, scroll and focus stay with them.
    void renew(List<PackingItem> items) {
        places = null;
        boolean samePaths = lines.size() == items.size();
        for (int i = 0; samePaths && i < lines.size(); i++)
            samePaths = isSame(lines.get(i).source(), items.get(i).source());
        beginChange();
        if (samePaths)
            for (int i = 0; i < lines.size(); i++) {
                if (lines.get(i) != items.get(i)) set(i, items.get(i));
            }
        else {
            // The base class would take lines out one by one, and move all that are behind each time.
            List<PackingItem> before = List.copyOf(lines);
            lines.clear();
            lines.addAll(items);
            nextReplace(0, lines.size(), before);
        }
        endChange();
    }

    /// Where this very line stands.
    int place(PackingItem item) {
        if (places == null) {
            places = new IdentityHashMap<>(lines.size());
            for (int i = 0; i < lines.size(); i++)
                places.put(lines.get(i), i);
        }
        return places.getOrDefault(item, -1);
    }

    private static boolean isSame(Gathered a, Gathered b) { return a == b || a.path().equals(b.path()); }

    @Override public PackingItem get(int index) { return lines.get(index); }

    @Override public int size() { return lines.size(); }

    @Override protected void doAdd(int index, PackingItem item) { lines.add(index, item); }

    @Override protected PackingItem doSet(int index, PackingItem item) { return lines.set(index, item); }

    @Override protected PackingItem doRemove(int index) { return lines.remove(index); }
}
