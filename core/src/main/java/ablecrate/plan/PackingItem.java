package ablecrate.plan;

import ablecrate.change.Change;
import ablecrate.change.FitChange;
import ablecrate.change.Property;
import ablecrate.change.Verdict;
import ablecrate.format.BankFormat;
import ablecrate.instrument.Zone;
import ablecrate.library.Gathered;
import ablecrate.signal.Measurement;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// One line of the packing list: a sound, or instruments with their sounds.
/// @param outputs the sounds that are written, of all parts
/// @param wanted what has to be listened to before all of the line is known
/// @param isSettled whether the outputs are; what is wanted yet may add to the reasons only
/// @param parts the sounds of instruments, one by one; empty for a sound
/// @param maps files of instruments that are written; none where the sounds go alone
/// @param sidecars small files beside them
public record PackingItem(Gathered source, Verdict verdict, List<Change> changes, List<PlannedOutput> outputs, List<Measurement.Request> wanted,
        boolean isSettled, List<PackingItem> parts, List<PlannedMap> maps, List<PlannedSidecar> sidecars) {
    public PackingItem {
        changes = List.copyOf(changes);
        outputs = List.copyOf(outputs);
        wanted = List.copyOf(wanted);
        parts = List.copyOf(parts);
        maps = List.copyOf(maps);
        sidecars = List.copyOf(sidecars);
    }

    public static PackingItem of(Gathered source, List<Change> changes, List<PlannedOutput> outputs, List<Measurement.Request> wanted, boolean isSettled) {
        Verdict worst = worst(changes);
        return new PackingItem(source, worst, changes, worst == Verdict.BLOCKED ? List.of() : outputs, wanted, isSettled, List.of(), List.of(),
                List.of());
    }

    public static PackingItem of(Gathered source, List<Change> changes, List<PackingItem> parts, List<PlannedMap> maps) {
        Verdict worst = worst(changes);
        boolean goes = worst != Verdict.BLOCKED;
        return new PackingItem(source, worst, changes, goes ? parts.stream().flatMap(p -> p.outputs().stream()).toList() : List.of(),
                parts.stream().flatMap(p -> p.wanted().stream()).toList(), parts.stream().allMatch(PackingItem::isSettled), parts, goes ? maps : List.of(),
                List.of());
    }

    private static Verdict worst(List<Change> changes) { return changes.stream().map(Change::verdict).reduce(Verdict.KEPT, Verdict::worse); }

    public PackingItem with(Change change, List<PlannedOutput> placed) {
        List<Change> more = new ArrayList<>(changes);
        more.add(change);
        return of(source, more, placed, wanted, isSettled).withSidecars(sidecars);
    }

    /// The same, told first.
    public PackingItem explained(Change change, List<PlannedOutput> placed) {
        List<Change> more = new ArrayList<>(List.of(change));
        more.addAll(changes);
        return of(source, more, placed, wanted, isSettled).withSidecars(sidecars);
    }

    public PackingItem with(Change change, List<PackingItem> placedParts, List<PlannedMap> placedMaps) {
        List<Change> more = new ArrayList<>(changes);
        more.add(change);
        PackingItem placed = of(source, more, placedParts, placedMaps);
        return new PackingItem(source, placed.verdict, placed.changes, placed.outputs, wanted, isSettled, placed.parts, placed.maps,
                sidecars);
    }

    /// Where it goes, with these beside it.
    public PackingItem withSidecars(List<PlannedSidecar> others) {
        return new PackingItem(source, verdict, changes, outputs, wanted, isSettled, parts, maps, verdict == Verdict.BLOCKED ? List.of() : others);
    }

    /// While a map is not known, neither is what becomes of it.
    public PackingItem wanting(List<Measurement.Request> more) {
        List<Measurement.Request> all = new ArrayList<>(wanted);
        all.addAll(more);
        return new PackingItem(source, verdict, changes, outputs, all, false, parts, maps, sidecars);
    }

    /// Whether it will become smaller than its outputs say, once it is known how.
    public boolean isNotFittedYet() { return changes.stream().anyMatch(FitChange.NotFittedYet.class::isInstance); }

    /// Whether damage was found in it that is still there when it was packed.
    public boolean isDamaged() { return changes.stream().anyMatch(c -> c.property() == Property.DAMAGE && c.verdict() != Verdict.CONVERTED); }

    /// What is written of a sound; empty for instruments, and where nothing is.
    public Optional<PlannedOutput> output() { return source.sound().flatMap(_ -> outputs.stream().findFirst()); }

    public boolean isInstruments() { return source.instruments().isPresent(); }

    /// Memory that a device takes for it.
    /// @param overheadBytes of each sample beside its audio
    /// @param isBankByBank whether it has one bank in memory at a time: then the largest counts
    public long memoryBytes(int overheadBytes, boolean isBankByBank) {
        if (isBankByBank && maps.size() > 1)
            return maps.stream().mapToLong(m -> m.instruments().stream().flatMap(i -> i.zones().stream()).map(Zone::sample).distinct()
                    .mapToLong(place -> memoryBytes(outputs.get(place), overheadBytes)).sum()).max().orElse(0);
        return outputs.stream().mapToLong(o -> memoryBytes(o, overheadBytes)).sum();
    }

    private long memoryBytes(PlannedOutput output, int overheadBytes) {
        boolean hasSidesApart = maps.stream().anyMatch(m -> m.format() instanceof BankFormat bank && bank.hasSidesApart());
        return output.audioBytes() + (long) overheadBytes * (hasSidesApart ? output.shape().channels() : 1);
    }

    public Optional<Change> change(Property property) {
        for (Change change : changes)
            if (change.property() == property) return Optional.of(change);
        return Optional.empty();
    }

    /// The reason of the worst change, the one line that says what happens.
    public String reason() {
        for (Change c : changes) {
            if (c.verdict() != verdict) continue;
            Change.Text text = c.text();
            if (!text.reason().isEmpty())
                return c.property() == Property.KIND && verdict == Verdict.BLOCKED ? text.before() + ": " + text.reason() : text.reason();
        }
        return "";
    }
}
