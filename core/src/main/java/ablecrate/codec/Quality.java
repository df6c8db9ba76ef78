package ablecrate.codec;

import java.util.Locale;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.stream.Stream;

/// How much a lossy format may take. Each format says what it makes of the words in numbers.
/// @param constantKbps instead of what the word stands for: so many kbit/s all through
public record Quality(Word word, OptionalInt constantKbps) {
    public enum Word {
        SMALL, GOOD, HIGH, BEST;

        public String id() { return name().toLowerCase(Locale.ROOT); }

        public static Optional<Word> byId(String id) { return Stream.of(values()).filter(w -> w.id().equals(id)).findFirst(); }
    }

    public static final Quality DEFAULT = new Quality(Word.HIGH, OptionalInt.empty());

    public static Quality of(Word word) { return new Quality(word, OptionalInt.empty()); }

    public static Quality constant(int kbps) { return new Quality(Word.HIGH, OptionalInt.of(kbps)); }
}
