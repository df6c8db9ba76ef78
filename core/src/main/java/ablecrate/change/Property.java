package ablecrate.change;

import java.util.Locale;

/// What can change about an item; also what a rule of a sheet is about.
public enum Property {
    KIND, CONTAINER, RATE, DEPTH, CHANNELS, DAMAGE, START, TRIM, OFFSET, LEVEL, FADES, LENGTH, LOOPS, MAPPING, PLAYING, ZONES, ABOUT, CUES, BROADCAST, TEXTS,
    CHUNKS,
    STRUCTURE, NAME, FOLDER;

    public String id() { return name().toLowerCase(Locale.ROOT); }
}
