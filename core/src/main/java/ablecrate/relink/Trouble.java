package ablecrate.relink;

import ablecrate.change.Verdict;

/// What of a session's file is not as it should be.
public enum Trouble {
    OFFLINE("offline", Verdict.BLOCKED), DAMAGED("damaged", Verdict.REDUCED), SHORT("shorter than its clips", Verdict.REDUCED), LINKED("linked from outside",
            Verdict.ADJUSTED),
    COMPRESSED("compressed", Verdict.CONVERTED), RATE("another rate", Verdict.CONVERTED), DEPTH("another depth",
            Verdict.CONVERTED),
    CONTAINER("another container", Verdict.CONVERTED), TWICE("there twice", Verdict.KEPT), UNUSED("not on a track",
            Verdict.KEPT),
    UNKNOWN("not in the document", Verdict.KEPT);

    private final String label;
    private final Verdict verdict;

    Trouble(String label, Verdict verdict) {
        this.label = label;
        this.verdict = verdict;
    }

    public String id() { return name().toLowerCase(java.util.Locale.ROOT); }

    /// For people.
    public String label() { return label; }

    /// What making the session whole would do about it; what is kept is left alone.
    public Verdict verdict() { return verdict; }

    /// Whether the session is not whole with it.
    public boolean isToMend() { return verdict != Verdict.KEPT; }
}
