package ablecrate.option;

import java.util.Locale;

/// What a stereo sound becomes when it has to be mono.
public enum MonoLaw {
    MID, LEFT, RIGHT;

    public String id() { return name().toLowerCase(Locale.ROOT); }
}
