package ablecrate.codec.mpeg;

import ablecrate.codec.FormatException;

/// Decodes the frames of one stream, one after the other.
interface FrameDecoder {
    static FrameDecoder of(MpegHeader kind) { return kind.layer() == 3 ? new Layer3() : new LowerLayers(); }

    /// @param block `[channel][frame]`, all silent; stays so where the frame needs what is not there
    /// @throws FormatException if the frame says what there is not
    void decode(MpegHeader header, byte[] frame, double[][] block) throws FormatException;

    /// Takes from a frame what those behind it may use, and leaves its sound. What sounded before does not go on behind it, no more than behind one that
    /// stayed silent.
    void pass(MpegHeader header, byte[] frame);
}
