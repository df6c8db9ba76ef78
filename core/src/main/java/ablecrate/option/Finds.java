package ablecrate.option;

/// What is looked for in a sound by listening to it, so that something can be made of it.
/// @param loops whether a sound without a loop gets one
/// @param chop into which pieces it is cut
public record Finds(boolean loops, Chop chop) {
    public static final Finds NONE = new Finds(false, Chop.NONE);

    public Finds withLoops(boolean l) { return new Finds(l, chop); }

    public Finds withChop(Chop c) { return new Finds(loops, c); }
}
