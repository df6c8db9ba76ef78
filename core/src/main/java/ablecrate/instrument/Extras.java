package ablecrate.instrument;

import java.util.List;
import java.util.stream.Collectors;

/// What a zone says in the terms of one format alone, for which there is no parameter. It stays where the zone stays in that format.
/// @param formatId of the format, as `sf2`
/// @param settings in the order they stand; none is no extras
public record Extras(String formatId, List<Setting> settings) {
    /// @param name as the format calls it
    /// @param value as the format has it
    /// @param isMissed whether anything is lost without it in another format
    public record Setting(String name, String value, boolean isMissed) {
        public Setting(String name, String value) { this(name, value, true); }
    }

    public static final Extras NONE = new Extras("", List.of());

    public Extras {
        settings = List.copyOf(settings);
    }

    /// Those of one format; none where they are another's.
    public Extras in(String format) { return formatId.equals(format) ? this : NONE; }

    /// What is lost without them in another format.
    public Extras missed() {
        List<Setting> missed = settings.stream().filter(Setting::isMissed).toList();
        return missed.isEmpty() ? NONE : new Extras(formatId, missed);
    }

    @Override public String toString() {
        return settings.isEmpty() ? "none" : settings.stream().map(s -> s.name() + " " + s.value()).collect(Collectors.joining(", "));
    }
}
