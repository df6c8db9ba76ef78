package ablecrate.plan;

import ablecrate.change.Change;
import ablecrate.change.Property;
import ablecrate.change.Verdict;
import ablecrate.option.PackOptions;
import ablecrate.destination.DestinationSheet;
import ablecrate.signal.Measurement;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/// What packing would do. A value: nothing is written by making one.
/// @param session what becomes of the session's document, where a recording session is packed into
public record PackingList(DestinationSheet destination, PackOptions options, List<PackingItem> items, Optional<SessionPlan> session) {
    public PackingList {
        items = List.copyOf(items);
    }

    public PackingList(DestinationSheet destination, PackOptions options, List<PackingItem> items) { this(destination, options, items, Optional.empty()); }

    /// How many items have each verdict; all verdicts are there.
    public Map<Verdict, Integer> totals() {
        Map<Verdict, Integer> totals = new EnumMap<>(Verdict.class);
        for (Verdict verdict : Verdict.values())
            totals.put(verdict, 0);
        items.forEach(i -> totals.merge(i.verdict(), 1, Integer::sum));
        return totals;
    }

    /// How many items are touched, and the worst that is done to one of them.
    public record Touched(int items, Verdict worst) {
        public static final Touched NONE = new Touched(0, Verdict.KEPT);
    }

    /// What changes of each property touch; damage counts also where it is left as it is.
    public Map<Property, Touched> touched() {
        // There may be a hundred thousand lines: nothing is made for each of them.
        int[] touched = new int[Property.values().length];
        Map<Property, Verdict> worst = new EnumMap<>(Property.class);
        Set<Property> counted = EnumSet.noneOf(Property.class);
        for (PackingItem item : items) {
            counted.clear();
            for (Change c : item.changes()) {
                worst.merge(c.property(), c.verdict(), Verdict::worse);
                if (c.isOfNote() && counted.add(c.property())) touched[c.property().ordinal()]++;
            }
        }
        Map<Property, Touched> all = new EnumMap<>(Property.class);
        worst.forEach((property, verdict) -> all.put(property, new Touched(touched[property.ordinal()], verdict)));
        return all;
    }

    /// What has to be listened to before all of the list is known.
    public List<Measurement.Request> wanted() { return items.stream().flatMap(i -> i.wanted().stream()).distinct().toList(); }

    /// Whether all outputs are known.
    public boolean isSettled() { return items.stream().allMatch(PackingItem::isSettled); }

    /// Bytes of audio that would be written, headers aside.
    public long audioBytes() {
        return items.stream().flatMap(i -> i.outputs().stream()).mapToLong(PlannedOutput::audioBytes).sum();
    }
}
