package ablecrate.codec.ogg;

/// How the packets of a stream are decoded.
interface OggCodec {
    OggKernel open();

    /// Frames that have to be decoded before one that comes out right.
    int preRoll();
}
