package ablecrate.option;

/// An option that the destination does not accept; the message says what it accepts.
public final class OptionConflict extends Exception {
    private static final long serialVersionUID = 1;

    public OptionConflict(String message) { super(message); }
}
