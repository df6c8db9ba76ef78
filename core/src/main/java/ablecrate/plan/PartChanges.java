package ablecrate.plan;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;

/// What happens to the sounds of an instrument, property by property, in one line each.
record PartChanges(List<PackingItem> parts) {
    void addTo(List<Change> changes) {
        Map<Property, List<Change>> byProperty = new EnumMap<>(Property.class);
        for (PackingItem part : parts)
            part.changes().stream().filter(c -> c.verdict() != Verdict.BLOCKED)
                    .collect(Collectors.toMap(Change::property, c -> c, (a, b) -> a.verdict().worse(b.verdict()) == a.verdict() ? a : b))
                    .forEach((property, change) -> byProperty.computeIfAbsent(property, _ -> new ArrayList<>()).add(change));
        byProperty.forEach((property, all) -> changes.add(together(property, all)));
    }

    private Change together(Property property, List<Change> all) {
        Change worst = all.stream().max(Comparator.comparing(Change::verdict)).orElseThrow();
        long same = all.stream().filter(c -> c.verdict() == worst.verdict()).count();
        boolean isOne = all.stream().map(Change::before).distinct().count() == 1;
        String what = worst.reason().isEmpty() ? worst.before() + " → " + worst.after() : worst.reason(),
                which = same == parts.size() ? "all " + Told.count(parts.size(), "sound") : same + " of " + Told.count(parts.size(), "sound");
        List<String> each = parts.stream().flatMap(p -> p.changes().stream().filter(c -> c.property() == property && c.verdict() != Verdict.KEPT)
                .map(c -> "'" + p.source().stem() + "': " + c.before() + " → " + c.after() + (c.reason().isEmpty() ? "" : ", " + c.reason()))).toList();
        String reason = parts.size() == 1 ? what : which + ": " + (isOne || same == 1 ? "" : "e.g. ") + what;
        return new Change(property, isOne ? worst.before() : "various", worst.after(), worst.verdict(), reason).each(each.size() > 1 ? each : List.of());
    }
}
