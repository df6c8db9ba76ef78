package ablecrate.destination;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/// How names are made: text with words in round brackets that stand for something of the sound.
///
/// `(name)_(number...)` makes `glass_007`. Dots after a word are digits to fill up with zeros. `((` is a bracket itself. `(tempo) bpm/(name)` sorts into folders,
/// where a destination has none of its own.
public record NamePattern(List<Part> parts) {
    /// The words, with what they stand for.
    public enum Word {
        NAME("the file's name without its extension"), FOLDER("the folder it lies in"), NUMBER("its number in the list"), ROOT("its root key"),
        RATE("its rate in Hz"), DEPTH("its bit depth"), CHANNEL("L, R or the channel's number when channels are split"),
        KIT("number of the folder in the destination"),
        PAD("its number in that folder"), TEMPO("its tempo in beats a minute, as far as it is said");

        private final String meaning;

        Word(String meaning) { this.meaning = meaning; }

        public String id() { return name().toLowerCase(Locale.ROOT); }

        public String meaning() { return meaning; }
    }

    /// A stretch of plain text, or a word.
    public sealed interface Part {
        String of(Map<Word, String> values);

        record Text(String text) implements Part {
            @Override public String of(Map<Word, String> values) { return text; }
        }

        record Value(Word word, int digits) implements Part {
            @Override public String of(Map<Word, String> values) {
                String value = values.getOrDefault(word, "");
                return value.isEmpty() ? "" : "0".repeat(Math.max(0, digits - value.length())) + value;
            }
        }
    }

    public NamePattern {
        parts = List.copyOf(parts);
    }

    /// @throws IllegalArgumentException with the place and the words there are
    public static NamePattern parse(String pattern) {
        List<Part> parts = new ArrayList<>();
        StringBuilder text = new StringBuilder();
        for (int i = 0; i < pattern.length(); i++) {
            char c = pattern.charAt(i);
            if (c == '(' && i + 1 < pattern.length() && pattern.charAt(i + 1) == '(') {
                text.append('(');
                i++;
            } else if (c == '(') {
                int close = pattern.indexOf(')', i);
                if (close < 0) throw new IllegalArgumentException("name pattern '" + pattern + "': the bracket at character " + (i + 1) + " is never closed");
                if (!text.isEmpty()) parts.add(new Part.Text(text.toString()));
                text.setLength(0);
                parts.add(value(pattern, pattern.substring(i + 1, close)));
                i = close;
            } else
                text.append(c);
        }
        if (!text.isEmpty()) parts.add(new Part.Text(text.toString()));
        if (parts.isEmpty() || parts.getLast() instanceof Part.Text(String last) && last.endsWith("/"))
            throw new IllegalArgumentException(
                    "name pattern" + (parts.isEmpty() ? ": it is empty" : " '" + pattern + "': nothing follows the last /") + "; try (name)");
        return new NamePattern(parts);
    }

    private static Part value(String pattern, String inside) {
        String word = inside.replaceAll("\\.+$", "");
        for (Word known : Word.values())
            if (known.id().equals(word)) return new Part.Value(known, inside.length() - word.length());
        throw new IllegalArgumentException("name pattern '" + pattern + "': no word '" + word + "'; the words are "
                + List.of(Word.values()).stream().map(w -> "(" + w.id() + ")").collect(Collectors.joining(", ")));
    }

    /// The folders that it sorts into, and last the name itself.
    public List<NamePattern> levels() {
        List<NamePattern> levels = new ArrayList<>();
        List<Part> level = new ArrayList<>();
        for (Part part : parts) {
            if (!(part instanceof Part.Text(String text))) {
                level.add(part);
                continue;
            }
            String[] between = text.split("/", -1);
            for (int i = 0; i < between.length; i++) {
                if (i > 0) {
                    if (!level.isEmpty()) levels.add(new NamePattern(level));
                    level = new ArrayList<>();
                }
                if (!between[i].isEmpty()) level.add(new Part.Text(between[i]));
            }
        }
        levels.add(new NamePattern(level));
        return List.copyOf(levels);
    }

    /// Whether any of its words stands for something here, or it has none.
    public boolean tells(Map<Word, String> values) {
        return parts.stream().noneMatch(Part.Value.class::isInstance)
                || parts.stream().anyMatch(p -> p instanceof Part.Value v && !values.getOrDefault(v.word(), "").isEmpty());
    }

    public boolean uses(Word word) { return parts.stream().anyMatch(p -> p instanceof Part.Value v && v.word() == word); }

    /// What the words stand for in a name that was made so, as far as it can be told; empty if it was not.
    public Optional<Map<Word, String>> read(String name) {
        StringBuilder regex = new StringBuilder();
        List<Word> words = new ArrayList<>();
        for (Part part : parts)
            switch (part) {
            case Part.Text(String text) -> regex.append(Pattern.quote(text));
            case Part.Value(Word word, _) -> {
                words.add(word);
                regex.append(word == Word.KIT || word == Word.PAD || word == Word.NUMBER ? "(\\d+)" : "(.*?)");
            }
            }
        Matcher matcher = Pattern.compile(regex.toString(), Pattern.CASE_INSENSITIVE).matcher(name);
        if (!matcher.matches()) return Optional.empty();
        Map<Word, String> values = new EnumMap<>(Word.class);
        for (int i = 0; i < words.size(); i++)
            values.put(words.get(i), matcher.group(i + 1));
        return Optional.of(values);
    }

    /// @param values of the words; one that is missing leaves nothing
    public String apply(Map<Word, String> values) { return parts.stream().map(p -> p.of(values)).collect(Collectors.joining()); }
}
