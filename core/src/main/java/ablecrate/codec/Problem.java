package ablecrate.codec;

/// Something about a file that a user should know; the file is usable all the same.
/// @param place chunk and byte, or empty
public record Problem(Effect effect, String text, String place) {
    /// What packing will make of it. [#NOTE]: nothing. [#MEND]: the file is written anew with its structure in order.
    /// [#DOUBT]: what it was read as is a guess that the user should look at.
    /// [#LOST]: written anew, and what the text names is not in the result. [#OWN]: it goes along into a file of the same kind, no other can say it.
    public enum Effect { NOTE, DOUBT, MEND, LOST, OWN }

    public static Problem note(String text, String place) { return new Problem(Effect.NOTE, text, place); }

    public static Problem doubt(String text, String place) { return new Problem(Effect.DOUBT, text, place); }

    public static Problem mend(String text, String place) { return new Problem(Effect.MEND, text, place); }

    public static Problem own(String text, String place) { return new Problem(Effect.OWN, text, place); }

    public static Problem lost(String text, String place) { return new Problem(Effect.LOST, text, place); }

    /// In words, with its place.
    public String told() { return place.isEmpty() ? text : place + ": " + text; }
}
