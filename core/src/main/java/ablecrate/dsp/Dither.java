package ablecrate.dsp;

import java.util.Locale;
import java.util.Optional;
import java.util.stream.Stream;

/// What is done about the rounding error where depth falls.
public enum Dither {
    /// Plain rounding; the error follows the signal and is heard as distortion.
    NONE("none"),
    /// Triangular noise, 2 steps peak to peak: the error becomes steady noise, 4.77 dB above that of plain rounding.
    TPDF("TPDF"),
    /// As TPDF, and the noise moved to where the ear is least sensitive.
    SHAPED("noise shaped");

    private final String label;

    Dither(String label) { this.label = label; }

    public String id() { return name().toLowerCase(Locale.ROOT); }

    public String label() { return label; }

    public static Optional<Dither> byId(String id) { return Stream.of(values()).filter(d -> d.id().equals(id)).findFirst(); }
}
