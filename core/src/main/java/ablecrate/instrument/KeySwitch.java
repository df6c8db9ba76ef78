package ablecrate.instrument;

import java.util.OptionalInt;

/// The key that chooses a zone: of a range of keys, the one pressed last decides which zones sound.
/// @param keys those that choose
/// @param key the one that chooses this zone
/// @param first the one that holds before any was pressed; absent for none
/// @param label what it chooses, for people: `plucked`; empty where that is not said
public record KeySwitch(Span keys, int key, OptionalInt first, String label) {
    public KeySwitch {
        if (!keys.contains(key)) throw new IllegalArgumentException("keyswitch " + key + " outside of " + keys.low() + "…" + keys.high());
    }

    /// As people call what it chooses.
    public String name() { return label.isEmpty() ? "key " + NoteName.of(key) : label; }

    @Override public String toString() { return NoteName.of(key) + (label.isEmpty() ? "" : " (" + label + ")"); }
}
