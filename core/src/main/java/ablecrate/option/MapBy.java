package ablecrate.option;

import java.util.Locale;

/// How loose sounds of a folder become an instrument.
public enum MapBy {
    /// By the mapping in their chunks where all have one, else by their names where these tell keys, else as a kit.
    AUTO,
    /// By the mapping in their chunks.
    CHUNKS,
    /// By their names, and by their detected pitch where these say nothing.
    NAMES,
    /// One sound a key, upwards from a start key.
    KIT;

    public String id() { return name().toLowerCase(Locale.ROOT); }
}
