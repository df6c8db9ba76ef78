package ablecrate.change;

import ablecrate.json.Json;
import com.fasterxml.jackson.annotation.JsonInclude;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/// A change as the JSON of packing lists and slips has it. The keys are stable; those of `values` are the components of the kind, units in their names.
/// @param kind `rate-converted`, `loops-moved`…; empty in slips of versions that did not write it
/// @param beforeValue,afterValue `before` and `after` as numbers, where there are any, in `unit`
/// @param values all numbers of the change; `sounds` is how many it happened to
/// @param each zone or sound that it happens to, where the reason sums up several
@JsonInclude(JsonInclude.Include.NON_ABSENT) public record ChangeEntry(String property, String kind, String before, String after, Optional<Double> beforeValue,
        Optional<Double> afterValue, Optional<String> unit, String verdict, String reason, Optional<Map<String, Object>> values, Optional<List<String>> each) {
    private static final String EACH = "each";

    public ChangeEntry {
        kind = kind == null ? "" : kind;
        values = values == null ? Optional.empty() : values;
    }

    public static ChangeEntry of(Change c) {
        Map<String, Object> values = new LinkedHashMap<>(Json.tree(c instanceof SeveralChanges several ? several.foremost() : c));
        if (c instanceof SeveralChanges several) values.put("sounds", several.sounds());
        values.remove(EACH);
        Change.Text text = c.text();
        return new ChangeEntry(c.property().id(), c.kind(), text.before(), text.after(), c.numbers().map(Change.Numbers::before),
                c.numbers().map(Change.Numbers::after), c.numbers().map(Change.Numbers::unit), c.verdict().id(), text.reason(),
                Optional.of(values).filter(v -> !v.isEmpty()), Optional.of(c.each()).filter(e -> !e.isEmpty()));
    }

    public boolean is(Class<? extends Change> type) { return kind.equals(Change.idOf(type)); }
}
