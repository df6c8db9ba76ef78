package ablecrate.desktop.hearing;

/// Where sound goes. One per sound played; one thread writes, others may ask for the position.
public interface AudioOut extends AutoCloseable {
    int rateHz();

    int channels();

    /// Takes frames, waiting until there is room.
    /// @param planes `[channel][frame]`, 1.0 is full scale; what is beyond is clipped
    void write(double[][] planes, int frames) throws InterruptedException;

    /// Waits until all that was written was heard.
    void drain() throws InterruptedException;

    /// Frames that were heard so far.
    long heardFrames();

    @Override void close();
}
