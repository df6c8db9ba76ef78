package ablecrate.plan;

import ablecrate.library.Gathered;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// One line of the packing list.
public record PackingItem(Gathered source, Verdict verdict, List<Change> changes, List<PlannedOutput> outputs) {
    public PackingItem {
        changes = List.copyOf(changes);
        outputs = List.copyOf(outputs);
    }

    static PackingItem of(Gathered source, List<Change> changes, List<PlannedOutput> outputs) {
        Verdict worst = changes.stream().map(Change::verdict).reduce(Verdict.KEPT, Verdict::worse);
        return new PackingItem(source, worst, changes, worst == Verdict.BLOCKED ? List.of() : outputs);
    }

    PackingItem with(Change change, List<PlannedOutput> placed) {
        List<Change> more = new ArrayList<>(changes);
        more.add(change);
        return of(source, more, placed);
    }

    public Optional<Change> change(Property property) { return changes.stream().filter(c -> c.property() == property).findFirst(); }

    /// The reason of the worst change, the one line that says what happens.
    public String reason() {
        return changes.stream().filter(c -> c.verdict() == verdict && !c.reason().isEmpty()).findFirst()
                .map(c -> c.property() == Property.KIND ? c.before() + ": " + c.reason() : c.reason()).orElse("");
    }
}
