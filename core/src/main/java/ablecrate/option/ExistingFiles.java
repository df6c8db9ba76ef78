package ablecrate.option;

import java.util.Locale;

/// What is done where a file of that name is there already.
public enum ExistingFiles {
    /// It stays if it is the result, else the line fails.
    SKIP,
    /// What a run wrote and nobody touched is written anew where its source or the options changed.
    UPDATE,
    /// It is written over.
    REPLACE,
    /// The new one gets a number.
    NUMBER;

    public String id() { return name().toLowerCase(Locale.ROOT); }
}
