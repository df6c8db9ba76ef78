package ablecrate.codec.ogg;

import com.fasterxml.jackson.annotation.JsonTypeInfo;

/// How the packets of a stream are decoded.
@JsonTypeInfo(use = JsonTypeInfo.Id.CLASS) interface OggCodec {
    OggKernel open();

    /// Frames that have to be decoded before one that comes out right.
    int preRoll();
}
