package ablecrate.desktop.hearing;

/// Something that makes sound of notes, block by block. Asked from one thread.
public interface Sounding {
    void noteOn(int key, int velocity);

    void noteOff(int key);

    void sustain(boolean isDown);

    /// @param position of the bend wheel, −1 to 1
    void bend(double position);

    /// @param position of the modulation wheel, 0 to 1
    void wheel(double position);

    boolean isSilent();

    /// Fills `[left, right][0 … frames)`.
    void render(double[][] block, int frames);
}
