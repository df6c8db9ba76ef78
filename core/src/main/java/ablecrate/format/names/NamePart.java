package ablecrate.format.names;

import java.util.Locale;
import java.util.Optional;
import java.util.stream.Stream;

/// What a part of a name means.
public enum NamePart {
    KEY("key"), LOUDNESS("layer or velocity"), TURN("round robin"), SIDE("left or right"), RELEASE("sound of the release"), NOTHING("no meaning");

    private final String label;

    NamePart(String label) { this.label = label; }

    /// As on the command line.
    public String id() { return name().toLowerCase(Locale.ROOT); }

    /// For people.
    public String label() { return label; }

    public static Optional<NamePart> byId(String id) { return Stream.of(values()).filter(p -> p.id().equals(id)).findFirst(); }
}
