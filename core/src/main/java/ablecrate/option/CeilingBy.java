package ablecrate.option;

import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;

/// How a ceiling is kept.
public enum CeilingBy {
    /// Peaks are lowered, the rest stays as loud as asked.
    LIMITER,
    /// The whole sound becomes softer.
    GAIN;

    public String id() { return name().toLowerCase(Locale.ROOT); }

    public static Optional<CeilingBy> byId(String id) { return Arrays.stream(values()).filter(c -> c.id().equals(id)).findFirst(); }
}
