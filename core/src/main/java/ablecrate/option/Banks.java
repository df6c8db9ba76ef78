package ablecrate.option;

/// How instruments are shared out among banks.
public enum Banks {
    /// What is one file stays one.
    AS_SOURCE,
    /// All instruments into one bank.
    ONE,
    /// Each instrument a bank of its own.
    EACH
}
