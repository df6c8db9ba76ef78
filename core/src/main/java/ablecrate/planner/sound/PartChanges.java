package ablecrate.planner.sound;

import ablecrate.change.Change;
import ablecrate.change.Property;
import ablecrate.change.SeveralChanges;
import ablecrate.change.Verdict;
import ablecrate.plan.PackingItem;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;

/// What happens to the sounds of an instrument or of a sound that is joined of them, property by property, in one line each.
public record PartChanges(List<PackingItem> parts) {
    public List<Change> changes() {
        Map<Property, List<Change>> byProperty = new EnumMap<>(Property.class);
        for (PackingItem part : parts)
            part.changes().stream().filter(c -> c.verdict() != Verdict.BLOCKED)
                    .collect(Collectors.toMap(Change::property, c -> c, (a, b) -> a.verdict().worse(b.verdict()) == a.verdict() ? a : b))
                    .forEach((property, change) -> byProperty.computeIfAbsent(property, _ -> new ArrayList<>()).add(change));
        return byProperty.entrySet().stream().map(e -> together(e.getKey(), e.getValue())).toList();
    }

    private Change together(Property property, List<Change> all) {
        Change worst = all.stream().max(Comparator.comparing(Change::verdict)).orElseThrow();
        int same = (int) all.stream().filter(c -> c.verdict() == worst.verdict()).count();
        boolean startAlike = all.stream().map(Change::before).distinct().count() == 1;
        List<String> each = parts.stream().flatMap(p -> p.changes().stream().filter(c -> c.property() == property && c.verdict() != Verdict.KEPT)
                .map(c -> told(p.source().stem(), c.text()))).toList();
        return new SeveralChanges.OfSounds(worst, same, parts.size(), startAlike, each.size() > 1 ? each : List.of());
    }

    private static String told(String sound, Change.Text t) {
        return "'" + sound + "': " + t.before() + " → " + t.after() + (t.reason().isEmpty() ? "" : ", " + t.reason());
    }
}
