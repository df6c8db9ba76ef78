package ablecrate.destination;

import java.text.Normalizer;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/// Makes names that a destination and every file system accept, each once.
public final class NameRules {
    /// What Windows, macOS and Linux forbid between them. A dot or space at the end is cut as well.
    private static final String FORBIDDEN = "<>:\"/\\|?*";
    /// Names of devices under Windows; a file cannot have them.
    private static final Set<String> RESERVED = Set.of("con", "prn", "aux", "nul", "com1", "com2", "com3", "com4", "com5", "com6", "com7", "com8", "com9",
            "lpt1", "lpt2", "lpt3", "lpt4", "lpt5", "lpt6", "lpt7", "lpt8", "lpt9");
    /// Marks that turn the direction of writing, by which a name can look like another.
    private static final String DIRECTION_MARKS = "\u200e\u200f\u202a\u202b\u202c\u202d\u202e\u2066\u2067\u2068\u2069\u061c";
    /// Characters, and bytes in UTF-8, of a file name that every file system holds (255 bytes), less room for an extension and a number.
    private static final int LONGEST = 200, LONGEST_BYTES = 235;

    private static final Pattern MARKS = Pattern.compile("\\p{M}");

    private final DestinationSheet.Names names;
    private final Set<Character> alphabet;

    public NameRules(DestinationSheet.Names names) {
        this.names = names;
        this.alphabet = expand(names.alphabet());
    }

    /// A name of this alphabet and length, never empty.
    public String fit(String wanted) {
        String plain = alphabet.isEmpty() ? wanted : MARKS.matcher(Normalizer.normalize(wanted, Normalizer.Form.NFD)).replaceAll("");
        if (names.upperCase()) plain = plain.toUpperCase(Locale.ROOT);
        StringBuilder out = new StringBuilder();
        for (char c : plain.toCharArray()) {
            boolean allowed = c >= 0x20 && c != 0x7F && FORBIDDEN.indexOf(c) < 0 && DIRECTION_MARKS.indexOf(c) < 0
                    && (alphabet.isEmpty() || alphabet.contains(c));
            // One stand-in for a run of characters that cannot be kept.
            if (allowed)
                out.append(c);
            else
                if (!out.isEmpty() && out.charAt(out.length() - 1) != standIn()) out.append(standIn());
        }
        String name = cut(out.toString(), 0).strip();
        int end = name.length();
        while (end > 0 && (name.charAt(end - 1) == '.' || name.charAt(end - 1) == ' '))
            end--;
        name = name.substring(0, end);
        if (name.isEmpty()) name = nameless();
        // A device stays one whatever follows its first dot.
        int dot = name.indexOf('.');
        String first = dot < 0 ? name : name.substring(0, dot);
        return RESERVED.contains(first.toLowerCase(Locale.ROOT)) ? first + standIn() + name.substring(first.length()) : name;
    }

    /// A name that is made by a pattern: where it is too long, what the user gave is shortened, not the numbers, and not what stands between.
    public String fit(NamePattern pattern, Map<NamePattern.Word, String> values) {
        String whole = pattern.apply(values);
        List<NamePattern.Word> given = Stream.of(NamePattern.Word.NAME, NamePattern.Word.FOLDER).filter(pattern::uses).toList();
        if (names.maxLength() == 0 || whole.length() <= names.maxLength() || given.size() != 1) return fit(whole);
        Map<NamePattern.Word, String> shorter = new EnumMap<>(values);
        shorter.remove(given.getFirst());
        int room = names.maxLength() - pattern.apply(shorter).length();
        if (room < 1) return fit(whole);
        shorter.put(given.getFirst(), new NameRules(names.atMost(room)).fit(values.get(given.getFirst())));
        return fit(pattern.apply(shorter));
    }

    /// The same for a sound, with what stands in front of all names.
    public String fitSound(NamePattern pattern, Map<NamePattern.Word, String> values) {
        String begin = begin(values);
        int room = names.maxLength() == 0 ? 0 : Math.max(1, names.maxLength() - begin.length());
        return fit(begin + new NameRules(names.atMost(room)).fit(pattern, values));
    }

    /// What stands in front of every sound's name.
    public String begin(Map<NamePattern.Word, String> values) { return names.begin().isEmpty() ? "" : NamePattern.parse(names.begin()).apply(values); }

    /// For a name of which nothing can be kept: the word, as far as alphabet and length have room for it, or the alphabet's first letter.
    private String nameless() {
        String word = names.upperCase() ? "SOUND" : "sound";
        boolean isAllowed = alphabet.isEmpty() || word.chars().allMatch(c -> alphabet.contains((char) c));
        String name = isAllowed ? word : Character.toString(alphabet.stream().min(Comparator.naturalOrder()).orElseThrow());
        return names.maxLength() == 0 ? name : name.substring(0, Math.min(name.length(), names.maxLength()));
    }

    /// Names in use in one folder. File systems of cards do not tell cases apart, so neither does this.
    public static final class Taken {
        private final Set<String> names = new HashSet<>();
        /// Where the search for a free number goes on, so that ten thousand sounds of one name stay quick.
        private final Map<String, Integer> lastNumber = new HashMap<>();

        /// Keeps a name with its extension from being given.
        public void reserve(String name) { add(name); }

        /// Some file systems tell no cases, and no two ways of writing an accent, apart.
        private boolean add(String name) { return names.add(Normalizer.normalize(name, Normalizer.Form.NFC).toLowerCase(Locale.ROOT)); }
    }

    /// `name` if no other has it, otherwise the name with the next free number, cut to the length.
    /// @param extension with its dot; names that differ in it do not meet
    /// @param taken the result is added
    public String unique(String name, String extension, Taken taken) {
        String candidate = name;
        for (int n = taken.lastNumber.getOrDefault(name + extension, 1); !taken.add(candidate + extension);) {
            n++;
            taken.lastNumber.put(name + extension, n);
            String number = (alphabet.isEmpty() || alphabet.contains('-') ? "-" : "") + n;
            candidate = cut(name, number.length()) + number;
        }
        return candidate;
    }

    private char standIn() { return alphabet.isEmpty() || alphabet.contains('_') ? '_' : alphabet.contains('-') ? '-' : alphabet.iterator().next(); }

    /// A name too long loses separators first, then vowels within words, both from its end; then its middle, so that a number at
    /// its end goes on telling it from its neighbours.
    private String cut(String name, int room) { return withinBytes(shortened(name, room), room); }

    /// Cut where a letter ends, before its bytes are too many.
    private static String withinBytes(String name, int room) {
        int bytes = 0;
        for (int i = 0; i < name.length();) {
            int letter = name.codePointAt(i);
            bytes += letter < 0x80 ? 1 : letter < 0x800 ? 2 : letter < 0x10000 ? 3 : 4;
            if (bytes > LONGEST_BYTES - room) return name.substring(0, i);
            i += Character.charCount(letter);
        }
        return name;
    }

    private String shortened(String name, int room) {
        int longest = (names.maxLength() == 0 ? LONGEST : Math.min(names.maxLength(), LONGEST)) - room;
        if (name.length() <= longest || names.maxLength() == 0) return name.substring(0, Math.min(name.length(), longest));
        StringBuilder shorter = new StringBuilder(name);
        for (String droppable : new String[]{" _-.,()", "aeiouAEIOU"})
            for (int i = shorter.length() - 1; i > 0 && shorter.length() > longest; i--)
                if (droppable.indexOf(shorter.charAt(i)) >= 0) shorter.deleteCharAt(i);
        int tail = shorter.length();
        while (tail > 0 && Character.isDigit(shorter.charAt(tail - 1)))
            tail--;
        String digits = shorter.substring(tail);
        if (digits.length() >= longest) return shorter.substring(0, Math.max(0, longest));
        return shorter.length() <= longest ? shorter.toString() : shorter.substring(0, longest - digits.length()) + digits;
    }

    private static Set<Character> expand(String alphabet) {
        Set<Character> out = new HashSet<>();
        for (int i = 0; i < alphabet.length(); i++) {
            char from = alphabet.charAt(i);
            if (i + 2 < alphabet.length() && alphabet.charAt(i + 1) == '-') {
                // As numbers: the last character has no next one.
                for (int c = from; c <= alphabet.charAt(i + 2); c++)
                    out.add((char) c);
                i += 2;
            } else
                out.add(from);
        }
        return out;
    }
}
