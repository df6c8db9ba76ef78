package ablecrate.codec.alac;

import ablecrate.codec.FormatException;
import ablecrate.codec.chunk.ChunkReader;

/// The settings of an ALAC stream ("magic cookie"), 24 bytes, big-endian.
///
/// | offset | type | field | meaning |
/// |-------:|------|-------|---------|
/// | 0 | u32 | frameLength | frames of a full packet |
/// | 4 | u8 | compatibleVersion | 0 |
/// | 5 | u8 | bitDepth | 16, 20, 24 or 32 |
/// | 6 | u8 | pb | how fast the code follows the signal |
/// | 7 | u8 | mb | where it begins |
/// | 8 | u8 | kb | how far it goes |
/// | 9 | u8 | channels | |
/// | 10 | u16 | maxRun | |
/// | 12 | u32 | maxFrameBytes | |
/// | 16 | u32 | avgBitRate | |
/// | 20 | u32 | rateHz | |
///
/// Source: Apple Lossless Audio Codec, *ALACMagicCookieDescription* (2011, Apache licence), from memory.
public record AlacConfig(int frameLength, int bitDepth, int pb, int mb, int kb, int channels, int rateHz) {
    private static final int LONGEST = 1 << 16;

    public static AlacConfig read(ChunkReader in) throws FormatException {
        long frameLength = in.u32("frameLength");
        in.u8("compatibleVersion");
        int bitDepth = in.u8("bitDepth"), pb = in.u8("pb"), mb = in.u8("mb"), kb = in.u8("kb"), channels = in.u8("channels");
        in.u16("maxRun");
        in.u32("maxFrameBytes");
        in.u32("avgBitRate");
        long rateHz = in.u32("rateHz");
        boolean isKnown = frameLength > 0 && frameLength <= LONGEST && (bitDepth == 16 || bitDepth == 20 || bitDepth == 24 || bitDepth == 32) && channels > 0
                && channels <= 8 && kb > 0 && kb < 32 && rateHz > 0 && rateHz <= 1_000_000;
        if (!isKnown)
            throw in.bad("ALAC of " + bitDepth + " bits, " + channels + " channels, " + frameLength + " frames a packet, which no encoder makes",
                    "The file is damaged; get it again.");
        return new AlacConfig((int) frameLength, bitDepth, pb, mb, kb, channels, (int) rateHz);
    }
}
