package ablecrate.pack;

/// A wish to stop, set by one thread and asked by others.
public final class StopSignal {
    private volatile boolean stopped;

    public void stop() { stopped = true; }

    public boolean isStopped() { return stopped; }

    void check() throws StoppedException {
        if (stopped) throw new StoppedException();
    }

    /// Work was given up because the user asked for it.
    static final class StoppedException extends Exception {
        private static final long serialVersionUID = 1;
    }
}
