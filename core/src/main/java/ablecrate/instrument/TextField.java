package ablecrate.instrument;

import java.util.Locale;

/// The texts that sound files carry about themselves.
public enum TextField {
    NAME, ARTIST, COPYRIGHT, COMMENT, DATE, GENRE, KEYWORDS, PRODUCT, SOFTWARE, SUBJECT, ENGINEER, TECHNICIAN, SOURCE, TEMPO, MUSICAL_KEY;

    public String label() { return name().toLowerCase(Locale.ROOT).replace('_', ' '); }
}
