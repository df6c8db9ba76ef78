package ablecrate.format.names;

import java.util.List;
import java.util.Optional;

/// A place among the parts of a name.
/// @param index 0 is the first, or the last
public record NamePlace(int index, boolean isFromEnd) {
    public NamePlace {
        if (index < 0) throw new IllegalArgumentException("part " + index);
    }

    /// Which of so many parts stands there; negative for none.
    int in(int parts) { return isFromEnd ? parts - 1 - index : index < parts ? index : -1; }

    Optional<String> in(List<String> parts) {
        int at = in(parts.size());
        return at < 0 ? Optional.empty() : Optional.of(parts.get(at));
    }

    /// `1` is the first, `-1` the last.
    public int number() { return isFromEnd ? -1 - index : 1 + index; }

    /// @throws IllegalArgumentException for 0
    public static NamePlace ofNumber(int number) { return number < 0 ? new NamePlace(-1 - number, true) : new NamePlace(number - 1, false); }
}
