package ablecrate.plan;

import ablecrate.library.Gathered;
import ablecrate.signal.Measurement;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/// One line of the packing list.
/// @param wanted what has to be listened to before all of the line is known
/// @param isSettled whether the outputs are; what is wanted yet may add to the reasons only
public record PackingItem(Gathered source, Verdict verdict, List<Change> changes, List<PlannedOutput> outputs, List<Measurement.Request> wanted,
        boolean isSettled) {
    public PackingItem {
        changes = List.copyOf(changes);
        outputs = List.copyOf(outputs);
        wanted = List.copyOf(wanted);
    }

    static PackingItem of(Gathered source, List<Change> changes, List<PlannedOutput> outputs, List<Measurement.Request> wanted, boolean isSettled) {
        Verdict worst = changes.stream().map(Change::verdict).reduce(Verdict.KEPT, Verdict::worse);
        return new PackingItem(source, worst, changes, worst == Verdict.BLOCKED ? List.of() : outputs, wanted, isSettled);
    }

    PackingItem with(Change change, List<PlannedOutput> placed) {
        List<Change> more = new ArrayList<>(changes);
        more.add(change);
        return of(source, more, placed, wanted, isSettled);
    }

    public Optional<Change> change(Property property) { return changes.stream().filter(c -> c.property() == property).findFirst(); }

    /// The reason of the worst change, the one line that says what happens.
    public String reason() {
        return changes.stream().filter(c -> c.verdict() == verdict && !c.reason().isEmpty()).findFirst()
                .map(c -> c.property() == Property.KIND ? c.before() + ": " + c.reason() : c.reason()).orElse("");
    }
}
