package ablecrate.desktop.list;

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
    private Map<PackingItem, Integer> places = new IdentityHashMap<>();

    /// Line for line where files stay the same: selection, scroll and focus stay with them.
    void renew(List<PackingItem> items) {
        places = new IdentityHashMap<>();
        for (int i = 0; i < items.size(); i++)
            places.put(items.get(i), i);
        boolean samePaths = lines.size() == items.size();
        for (int i = 0; samePaths && i < lines.size(); i++)
            samePaths = lines.get(i).source().path().equals(items.get(i).source().path());
        beginChange();
        if (samePaths)
            for (int i = 0; i < lines.size(); i++) {
                if (lines.get(i) != items.get(i)) set(i, items.get(i));
            }
        else
            setAll(items);
        endChange();
    }

    /// Where this very line stands.
    int place(PackingItem item) { return places.getOrDefault(item, -1); }

    @Override public PackingItem get(int index) { return lines.get(index); }

    @Override public int size() { return lines.size(); }

    @Override protected void doAdd(int index, PackingItem item) { lines.add(index, item); }

    @Override protected PackingItem doSet(int index, PackingItem item) { return lines.set(index, item); }

    @Override protected PackingItem doRemove(int index) { return lines.remove(index); }
}
