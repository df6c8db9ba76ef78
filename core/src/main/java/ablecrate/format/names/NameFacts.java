package ablecrate.format.names;

import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;

/// What one name says.
/// @param key by the convention of the reader, see [NameReader]; possibly beyond 0…127
/// @param layer 0 is the softest; the place among the layers of the set
/// @param velocity stated as a number 1…127
/// @param turn 1 is the first of a round robin
/// @param taken the parts of the name that these were read from, for people: `C#3 → key 61`
public record NameFacts(String name, OptionalInt key, OptionalInt layer, OptionalInt velocity, OptionalInt turn, Optional<Side> side, List<String> taken) {
    public enum Side { LEFT, RIGHT }
}
