package ablecrate.change;

/// Why something that a source says does not go along.
public enum Lack {
    /// The user wants it so.
    CHOSEN,
    /// The destination makes nothing of it.
    DESTINATION,
    /// The format has no place for it.
    FORMAT
}
