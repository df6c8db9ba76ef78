package ablecrate.instrument;

import java.util.Locale;

/// The way a loop is played.
public enum LoopMode {
    FORWARD, ALTERNATING, BACKWARD;

    /// As written in JSON and shown to people.
    public String label() { return name().toLowerCase(Locale.ROOT); }
}
