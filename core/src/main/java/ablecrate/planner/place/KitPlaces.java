package ablecrate.planner.place;

import ablecrate.plan.Card;
import ablecrate.plan.PackingItem;
import ablecrate.plan.PlannedOutput;
import ablecrate.option.Kits;
import ablecrate.option.NameGlob;
import ablecrate.library.Gathered;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;

/// Which kit and which pad every output gets, at destinations that number their folders: what lies on the card already stays in its place, new sounds come
/// into new kits, folder by folder.
final class KitPlaces {
    /// One sound to be placed.
    private record Slot(PackingItem item, int output) {
        PlannedOutput planned() { return item.outputs().get(output); }
    }

    private final Kits kits;
    private final Card card;
    private final int size;
    private final boolean isNumbered;
    /// By the items themselves: equal ones are not the same.
    private final Map<PackingItem, Map<Integer, Card.Place>> places = new IdentityHashMap<>();
    private final Set<Integer> taken;
    private int next, made;

    /// @param size sounds of a kit at most; 0 for no limit
    /// @param isNumbered whether folders of the destination have numbers
    KitPlaces(Kits kits, Card card, int size, boolean isNumbered) {
        this.kits = kits;
        this.card = card;
        this.size = size;
        this.isNumbered = isNumbered;
        taken = new HashSet<>(card.kits());
        next = kits.first().orElse(isNumbered ? card.highest() + 1 : 1);
    }

    void assign(List<PackingItem> items) {
        Map<String, List<Slot>> folders = new LinkedHashMap<>();
        for (PackingItem item : items)
            for (int i = 0; i < item.outputs().size(); i++) {
                Slot slot = new Slot(item, i);
                List<Card.Place> known = isNumbered ? card.places().getOrDefault(item.source().path(), List.of()) : List.of();
                if (i < known.size())
                    put(slot, known.get(i));
                else
                    folders.computeIfAbsent(folder(item.source()), _ -> new ArrayList<>()).add(slot);
            }
        folders.values().forEach(this::intoKits);
    }

    /// Without a limit all sounds are one group.
    private String folder(Gathered source) { return size > 0 ? String.valueOf(source.relative().getParent()) : ""; }

    private void intoKits(List<Slot> slots) {
        List<Slot> waiting = new ArrayList<>(slots);
        switch (kits.order()) {
            case LISTED -> {}
            case ROOT -> waiting.sort(Comparator.comparing(s -> s.planned().metadata().mapping().rootKey().orElse(Integer.MAX_VALUE)));
            case LENGTH -> waiting.sort(Comparator.comparing(s -> s.planned().shape().frames() / (double) s.planned().shape().rateHz()));
        }
        Map<Integer, Slot> said = new TreeMap<>();
        kits.pads().forEach((pad, glob) -> waiting.stream().filter(s -> new NameGlob(glob).matches(s.item().source().relative())).findFirst().ifPresent(s -> {
            said.put(pad, s);
            waiting.remove(s);
        }));
        while (!waiting.isEmpty() || !said.isEmpty()) {
            int kit = number();
            String name = made < kits.names().size() ? kits.names().get(made) : "";
            made++;
            int most = size > 0 ? size : Integer.MAX_VALUE;
            for (int pad = 1; pad <= most && (!waiting.isEmpty() || !said.isEmpty()); pad++) {
                Slot slot = said.remove(pad);
                if (slot == null && !waiting.isEmpty()) slot = waiting.removeFirst();
                if (slot != null) put(slot, new Card.Place(kit, name, pad));
            }
            // A pad that no kit has: its sound goes with the others.
            waiting.addAll(said.values());
            said.clear();
        }
    }

    private int number() {
        while (isNumbered && taken.contains(next))
            next++;
        taken.add(next);
        return next++;
    }

    private void put(Slot slot, Card.Place place) { places.computeIfAbsent(slot.item(), _ -> new HashMap<>()).put(slot.output(), place); }

    Card.Place of(PackingItem item, int output) { return places.get(item).get(output); }
}
