package ablecrate.plan;

/// One property, before → after.
/// @param reason in words, with the number that matters; empty where before and after say it all
public record Change(Property property, String before, String after, Verdict verdict, String reason) {}
