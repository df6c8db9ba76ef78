package ablecrate.format.names;

import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;

/// What one name says.
/// @param key where C4 is key 60; possibly beyond 0…127
/// @param layer 0 is the softest; the place among the layers of the set
/// @param velocity stated as a number 1…127
/// @param turn 1 is the first of a round robin
/// @param isRelease whether it sounds when the key is let go
/// @param parts of the name, in order, and what each was taken for
public record NameFacts(String name, OptionalInt key, OptionalInt layer, OptionalInt velocity, OptionalInt turn, Optional<Side> side, boolean isRelease,
        List<Part> parts) {
    public NameFacts {
        parts = List.copyOf(parts);
    }

    /// Whether its key is told by digits alone, which may count something else.
    public boolean isKeyANumber() {
        return parts.stream().anyMatch(p -> p.meaning() == NamePart.KEY && !p.read().isEmpty() && p.text().chars().allMatch(Character::isDigit));
    }

    /// The same, where what was taken for its key is none.
    public NameFacts withoutKey() {
        return new NameFacts(name, OptionalInt.empty(), layer, velocity, turn, side, isRelease, parts.stream()
                .map(p -> p.meaning() == NamePart.KEY ? new Part(p.text(), p.place(), NamePart.NOTHING, "") : p).toList());
    }

    public enum Side { LEFT, RIGHT }

    /// @param place at which the same meaning is looked for in the other names of the set
    /// @param read what it says, for people: `key 61`; empty where it has no meaning
    public record Part(String text, NamePlace place, NamePart meaning, String read) {}
}
