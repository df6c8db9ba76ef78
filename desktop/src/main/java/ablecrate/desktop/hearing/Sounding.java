package ablecrate.desktop.hearing;

/// Something that makes sound of notes, block by block. Asked from one thread.
public interface Sounding {
    void noteOn(int key, int velocity);

    void noteOff(int key);

    default void sustain(boolean isDown) {}

    /// @param position of the wheel, −1 to 1
    default void bend(double position) {}

    boolean isSilent();

    /// Fills `[left, right][0 … frames)`.
    void render(double[][] block, int frames);
}
