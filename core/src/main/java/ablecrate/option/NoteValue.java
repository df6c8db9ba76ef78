package ablecrate.option;

import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/// A part of a whole note, as steps of a grid have it.
/// @param wholeNotes 0.25 is a beat of 4/4
public record NoteValue(double wholeNotes) {
    public static final NoteValue SIXTEENTH = new NoteValue(1.0 / 16);
    /// That people choose from: straight, and triplets.
    static final List<NoteValue> USUAL = Stream.of(4, 8, 12, 16, 24, 32).map(n -> new NoteValue(1.0 / n)).toList();
    private static final double LONGEST = 16;
    private static final int FINEST = 192;

    public NoteValue {
        if (!(wholeNotes > 0 && wholeNotes <= LONGEST)) throw new IllegalArgumentException("a step of the grid is a part of a whole note, as 1/16");
    }

    /// `1/16`; empty if the text is none.
    static Optional<NoteValue> read(String text) {
        if (!text.matches("\\d{1,3}/\\d{1,3}")) return Optional.empty();
        int slash = text.indexOf('/'), above = Integer.parseInt(text.substring(0, slash)), below = Integer.parseInt(text.substring(slash + 1));
        return below == 0 ? Optional.empty() : Optional.of(new NoteValue((double) above / below));
    }

    /// As in options: `1/16`.
    public String id() {
        for (int below = 1; below <= FINEST; below++)
            if (Math.abs(wholeNotes * below - Math.rint(wholeNotes * below)) < 1e-9) return Math.round(wholeNotes * below) + "/" + below;
        return Double.toString(wholeNotes);
    }

    public double seconds(double bpm) { return 240 * wholeNotes / bpm; }
}
