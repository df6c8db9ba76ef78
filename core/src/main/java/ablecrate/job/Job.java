package ablecrate.job;

import ablecrate.option.ItemEdit;
import ablecrate.option.PackOptions;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;

/// What is open. Immutable; edits are copies.
/// @param sources files and folders that were gathered
/// @param removed files below them that the user took out again
/// @param edits what is wanted otherwise for single files, at every destination
/// @param deliveries where it goes, at least one and at most [#MOST_DELIVERIES]
/// @param shown number of the delivery that is looked at and changed, from 0; not kept in files
public record Job(List<Path> sources, Set<Path> removed, Map<Path, ItemEdit> edits, List<Delivery> deliveries, int shown) {
    /// More than anyone packs for at once; each is planned anew at every change.
    public static final int MOST_DELIVERIES = 8;

    public static final Job EMPTY = new Job(List.of(), Set.of(), "files", PackOptions.DEFAULT, Map.of(), Optional.empty());

    public Job {
        sources = List.copyOf(sources);
        removed = Set.copyOf(removed);
        edits = Map.copyOf(edits);
        deliveries = List.copyOf(deliveries);
        if (deliveries.isEmpty() || deliveries.size() > MOST_DELIVERIES)
            throw new IllegalArgumentException(deliveries.size() + " destinations; a job has 1 to " + MOST_DELIVERIES);
        if (shown < 0 || shown >= deliveries.size()) throw new IllegalArgumentException("no destination " + shown);
    }

    /// With one destination.
    public Job(List<Path> sources, Set<Path> removed, String destination, PackOptions options, Map<Path, ItemEdit> edits, Optional<Path> into) {
        this(sources, removed, edits, List.of(new Delivery(destination, options, into)), 0);
    }

    /// The one that is looked at.
    public Delivery delivery() { return deliveries.get(shown); }

    /// Of the delivery that is looked at.
    public String destination() { return delivery().destination(); }

    /// Of the delivery that is looked at.
    public PackOptions options() { return delivery().options(); }

    /// Of the delivery that is looked at.
    public Optional<Path> into() { return delivery().into(); }

    /// All folders that it is packed into.
    public List<Path> folders() { return deliveries.stream().flatMap(d -> d.into().stream()).toList(); }

    /// With further sources; what was removed below them comes back.
    public Job gathering(List<Path> more) {
        Set<Path> all = new LinkedHashSet<>(sources);
        all.addAll(more);
        return new Job(new ArrayList<>(all), removed.stream().filter(r -> more.stream().noneMatch(r::startsWith)).collect(Collectors.toSet()), edits,
                deliveries, shown);
    }

    /// Without these files; a source that is among them goes as well.
    public Job without(Set<Path> files) {
        Set<Path> out = new LinkedHashSet<>(removed);
        out.addAll(files);
        return new Job(sources.stream().filter(s -> !files.contains(s)).toList(), out, edits, deliveries, shown);
    }

    /// See [Delivery#aimedAt].
    public Job aimedAt(String otherDestination) { return delivering(d -> d.aimedAt(otherDestination)); }

    public Job withOptions(PackOptions other) { return delivering(d -> d.withOptions(other)); }

    public Job packingInto(Optional<Path> folder) { return delivering(d -> d.packingInto(folder)); }

    private Job delivering(UnaryOperator<Delivery> change) {
        List<Delivery> changed = new ArrayList<>(deliveries);
        changed.set(shown, change.apply(delivery()));
        return new Job(sources, removed, edits, changed, shown);
    }

    /// With one destination more, which is looked at then; it starts with what goes along of the options of the one looked at before, and without a folder.
    public Job alsoFor(String destination) {
        List<Delivery> more = new ArrayList<>(deliveries);
        more.add(delivery().aimedAt(destination).packingInto(Optional.empty()));
        return new Job(sources, removed, edits, more, more.size() - 1);
    }

    /// Without the destination that is looked at; the last one stays.
    public Job notFor() {
        if (deliveries.size() == 1) return this;
        List<Delivery> fewer = new ArrayList<>(deliveries);
        fewer.remove(shown);
        return new Job(sources, removed, edits, fewer, Math.min(shown, fewer.size() - 1));
    }

    public Job showing(int delivery) { return new Job(sources, removed, edits, deliveries, delivery); }

    /// With each of these files treated otherwise than it was.
    public Job editing(Set<Path> files, UnaryOperator<ItemEdit> edit) {
        Map<Path, ItemEdit> changed = new HashMap<>(edits);
        for (Path file : files) {
            ItemEdit wanted = edit.apply(changed.getOrDefault(file, ItemEdit.NONE));
            if (wanted.equals(ItemEdit.NONE))
                changed.remove(file);
            else
                changed.put(file, wanted);
        }
        return new Job(sources, removed, changed, deliveries, shown);
    }
}
