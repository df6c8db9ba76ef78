package ablecrate.pack;

/// Hears of a run while it goes on; called from the workers' threads.
@FunctionalInterface public interface PackListener {
    /// A few times a second.
    void progress(PackProgress progress);

    /// A line is done, and what was written of it lies in its place.
    /// @param list number of the list that it is a line of
    default void done(int list, PackingSlip.Item item) {}
}
