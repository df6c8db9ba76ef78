package ablecrate.change;

import java.util.List;
import java.util.Locale;
import java.util.Optional;

/// What becomes of one property: a type for each kind of change, with its numbers in its components. Words for people are made in the type, and nowhere else.
public sealed interface Change
        permits FileChange, CardChange, AudioChange, PartChange, DamageChange, LevelChange, LoopChange, MetadataChange, InstrumentChange, FitChange,
        SeveralChanges {
    /// @param before in the fewest words
    /// @param reason with the number that matters; empty where before and after say it all
    record Text(String before, String after, String reason) {}

    /// What was, and what comes, where that is a number.
    /// @param unit of both: `Hz`, `bit`, `dBTP`, `frames`…
    record Numbers(double before, double after, String unit) {
        public Numbers {
            before = rounded(before);
            after = rounded(after);
        }

        /// As figures stand in files; what is no number is none.
        private static double rounded(double value) { return Double.isFinite(value) ? Math.rint(value * 1e6) / 1e6 : 0; }
    }

    Property property();

    Verdict verdict();

    Text text();

    default Optional<Numbers> numbers() { return Optional.empty(); }

    /// Each zone or sound that it happens to, with what happens to it, where the reason sums up several.
    default List<String> each() { return List.of(); }

    default String before() { return text().before(); }

    default String after() { return text().after(); }

    default String reason() { return text().reason(); }

    /// Its kind, as files have it: `rate-converted`.
    default String kind() { return idOf(getClass()); }

    static String idOf(Class<? extends Change> type) { return type.getSimpleName().replaceAll("(?<=[a-z])(?=[A-Z])", "-").toLowerCase(Locale.ROOT); }

    /// Whether there is something to look at: the result differs, or the source is damaged and stays so.
    default boolean isOfNote() { return verdict() != Verdict.KEPT || property() == Property.DAMAGE; }
}
