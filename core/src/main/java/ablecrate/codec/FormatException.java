package ablecrate.codec;

import ablecrate.audio.Figures;

/// The file's fault: what was found and expected, where, and what to do. The disk's faults are `IOException`s.
public final class FormatException extends Exception {
    private static final long serialVersionUID = 1;

    private final String what, place, advice;

    /// @param place chunk and byte, or empty for the file as a whole
    public FormatException(String what, String place, String advice) {
        super((place.isEmpty() ? "" : place + ": ") + what + ". " + advice);
        this.what = what;
        this.place = place;
        this.advice = advice;
    }

    public String what() { return what; }

    public String place() { return place; }

    public String advice() { return advice; }

    /// `'smpl' chunk, byte 1,764,124`. Readers ask for the place of each chunk, in case something is wrong with it.
    public static String place(String chunk, long at) { return "'" + chunk + "' chunk, byte " + Figures.grouped(at); }
}
