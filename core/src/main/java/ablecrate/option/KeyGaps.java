package ablecrate.option;

import java.util.Locale;
import java.util.Optional;
import java.util.stream.Stream;

/// Who gets the keys between two roots.
public enum KeyGaps {
    /// The lower root up to half-way, the higher from there.
    HALF,
    /// The lower root up to the key below the higher: sounds are only played up.
    UP,
    /// The higher root down to the key above the lower: sounds are only played down.
    DOWN;

    public String id() { return name().toLowerCase(Locale.ROOT); }

    public static Optional<KeyGaps> byId(String id) { return Stream.of(values()).filter(g -> g.id().equals(id)).findFirst(); }
}
