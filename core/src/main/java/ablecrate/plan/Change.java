package ablecrate.plan;

import java.util.List;
import java.util.Optional;

/// One property, before → after.
/// @param reason in words, with the number that matters; empty where before and after say it all
/// @param numbers before and after as numbers, where the property has any
/// @param each zone or sound that it happens to, with what happens to it, where the reason sums up several
public record Change(Property property, String before, String after, Verdict verdict, String reason, Optional<Numbers> numbers, List<String> each) {
    /// @param unit of both: `Hz`, `bit`, `dBTP`, `frames`…
    public record Numbers(double before, double after, String unit) {}

    public Change(Property property, String before, String after, Verdict verdict, String reason) {
        this(property, before, after, verdict, reason, Optional.empty(), List.of());
    }

    public Change {
        each = List.copyOf(each);
    }

    /// The same with another verdict and reason.
    public Change saying(Verdict otherVerdict, String otherReason) { return new Change(property, before, after, otherVerdict, otherReason, numbers, each); }

    public Change each(List<String> cases) { return new Change(property, before, after, verdict, reason, numbers, cases); }

    public Change of(double numberBefore, double numberAfter, String unit) {
        return new Change(property, before, after, verdict, reason, Optional.of(new Numbers(rounded(numberBefore), rounded(numberAfter), unit)), each);
    }

    /// As figures stand in files; what is no number is none.
    private static double rounded(double value) { return Double.isFinite(value) ? Math.rint(value * 1e6) / 1e6 : 0; }

    /// Whether there is something to look at: the result differs, or the source is damaged and stays so.
    public boolean isOfNote() { return verdict != Verdict.KEPT || property == Property.DAMAGE; }
}
