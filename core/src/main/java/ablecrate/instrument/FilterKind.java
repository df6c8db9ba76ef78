package ablecrate.instrument;

import java.util.Locale;

/// What a filter lets pass.
public enum FilterKind {
    NONE, LOW_PASS, HIGH_PASS, BAND_PASS;

    public String label() { return name().toLowerCase(Locale.ROOT).replace('_', ' '); }
}
