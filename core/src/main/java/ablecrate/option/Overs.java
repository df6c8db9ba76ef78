package ablecrate.option;

import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;

/// What is done about samples beyond full scale where an integer is written and no ceiling is set: overshoots of a conversion, and floats over full scale.
public enum Overs {
    /// A limiter takes just what is over.
    LIMIT("limit", "limit them"),
    /// The sound becomes softer by as much.
    LOWER("lower", "lower the sound"),
    /// All sounds of its instrument or folder become softer by as much.
    LOWER_TOGETHER("lower-together", "lower its instrument or folder"),
    /// They are cut off, and told.
    CLIP("clip", "cut them off");

    private final String id, label;

    Overs(String id, String label) {
        this.id = id;
        this.label = label;
    }

    public String id() { return id; }

    /// For people.
    public String label() { return label; }

    /// Whether it can be done only when all sounds concerned were listened to.
    public boolean lowers() { return this == LOWER || this == LOWER_TOGETHER; }

    public static Optional<Overs> byId(String id) { return Arrays.stream(values()).filter(o -> o.id.equals(id.toLowerCase(Locale.ROOT))).findFirst(); }
}
