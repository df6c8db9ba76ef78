package ablecrate.dump;

/// How sure it is that a sound arrived.
public enum Outcome {
    /// Both sides have the same, packet by packet: it went both ways.
    COMPARED("compared"),
    /// Each packet was acknowledged, and the header that the other side has is the same.
    CONFIRMED("confirmed"),
    /// Each packet was acknowledged; what became of it cannot be asked for.
    ACKNOWLEDGED("acknowledged"),
    /// The other side says nothing, so nobody knows.
    UNCONFIRMED("not confirmed"),
    /// The other side does not have it.
    FAILED("failed");

    private final String label;

    Outcome(String label) { this.label = label; }

    public String label() { return label; }
}
