package ablecrate.plan;

import java.util.Locale;

/// What is done where a file of that name is there already.
public enum ExistingFiles {
    SKIP, REPLACE, NUMBER;

    public String id() { return name().toLowerCase(Locale.ROOT); }
}
