package ablecrate.codec;

import ablecrate.audio.Figures;

/// The file's fault: what was found and expected, where, and what to do. The disk's faults are `IOException`s.
public final class FormatException extends Exception {
    private static final long serialVersionUID = 1;

    private final String what, place, advice;
    private final boolean isUnsupported;

    /// @param place chunk and byte, or empty for the file as a whole
    public FormatException(String what, String place, String advice) { this(what, place, advice, false); }

    /// The file is healthy, as far as can be told, but of a kind that is not read.
    public static FormatException unsupported(String what, String place, String advice) { return new FormatException(what, place, advice, true); }

    private FormatException(String what, String place, String advice, boolean isUnsupported) {
        super((place.isEmpty() ? "" : place + ": ") + what + ". " + advice);
        this.what = what;
        this.place = place;
        this.advice = advice;
        this.isUnsupported = isUnsupported;
    }

    /// Whether nothing is wrong with the file but that it is of a kind that is not read.
    public boolean isUnsupported() { return isUnsupported; }

    public String what() { return what; }

    public String place() { return place; }

    public String advice() { return advice; }

    /// `'smpl' chunk, byte 1,764,124`. Readers ask for the place of each chunk, in case something is wrong with it.
    public static String place(String chunk, long at) { return "'" + chunk + "' chunk, byte " + Figures.grouped(at); }
}
