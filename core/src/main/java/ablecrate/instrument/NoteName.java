package ablecrate.instrument;

import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/// Keys by name. Two conventions are in use: key 60 is C4 or C3.
public final class NoteName {
    private static final Pattern NAME = Pattern.compile("([a-g])([#♯sb♭]?)(-?\\d{1,2})", Pattern.CASE_INSENSITIVE);
    private static final String[] SHARPS = {"C", "C#", "D", "D#", "E", "F", "F#", "G", "G#", "A", "A#", "B"};
    private static final int[] SEMITONES = {9, 11, 0, 2, 4, 5, 7};

    private NoteName() {}

    /// @param middleOctave of key 60: 4 or 3
    /// @return the key, possibly beyond 0…127; empty if the text is neither a name nor a number
    public static Optional<Integer> parse(String text, int middleOctave) {
        String plain = text.strip();
        if (plain.matches("-?\\d{1,3}")) return Optional.of(Integer.parseInt(plain));
        Matcher name = NAME.matcher(plain);
        if (!name.matches()) return Optional.empty();
        int semitone = SEMITONES[Character.toLowerCase(name.group(1).charAt(0)) - 'a'];
        int shift = switch (name.group(2)) {
            case "" -> 0;
            case "b", "B", "♭" -> -1;
            default -> 1;
        };
        return Optional.of(60 + semitone + shift + 12 * (Integer.parseInt(name.group(3)) - middleOctave));
    }

    /// `C#4`, with key 60 as C4.
    public static String of(int key) { return SHARPS[Math.floorMod(key, 12)] + (Math.floorDiv(key, 12) - 1); }
}
