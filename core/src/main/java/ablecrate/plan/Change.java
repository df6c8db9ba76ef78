package ablecrate.plan;

/// One property, before → after.
/// @param reason in words, with the number that matters; empty where before and after say it all
public record Change(Property property, String before, String after, Verdict verdict, String reason) {
    /// Whether there is something to look at: the result differs, or the source is damaged and stays so.
    public boolean isOfNote() { return verdict != Verdict.KEPT || property == Property.DAMAGE; }
}
