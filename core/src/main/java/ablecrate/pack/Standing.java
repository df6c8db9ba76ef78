package ablecrate.pack;

/// What a file that is there already is to a run.
public enum Standing {
    /// None is there.
    ABSENT,
    /// It is as a run left it.
    INTACT,
    /// It is one of ours, its time says that nobody touched it or it cannot be opened, and its bytes are others.
    DAMAGED,
    /// It is one of ours, and somebody changed it since.
    CHANGED,
    /// No slip knows it.
    STRANGE
}
