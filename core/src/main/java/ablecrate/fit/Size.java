package ablecrate.fit;

/// What of a sound is kept.
/// @param isFolded whether both sides become one
/// @param frames of the source that are kept, from its first on
public record Size(int rateHz, boolean isFolded, long frames) {}
