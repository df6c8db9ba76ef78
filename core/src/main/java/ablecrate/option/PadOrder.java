package ablecrate.option;

import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;

/// In which order the sounds of a folder come onto the pads of its kits.
public enum PadOrder {
    /// As the list has them: by their names within each folder, numbers as numbers.
    LISTED("as listed"),
    /// By their root keys, those without behind.
    ROOT("by root key"),
    /// The shortest first.
    LENGTH("by length");

    private final String label;

    PadOrder(String label) { this.label = label; }

    public String id() { return name().toLowerCase(Locale.ROOT); }

    /// For people.
    public String label() { return label; }

    public static Optional<PadOrder> byId(String id) { return Arrays.stream(values()).filter(o -> o.id().equals(id)).findFirst(); }
}
