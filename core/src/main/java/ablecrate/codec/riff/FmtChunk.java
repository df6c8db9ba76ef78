package ablecrate.codec.riff;

import ablecrate.audio.Depth;
import ablecrate.audio.SampleEncoding.Kind;
import ablecrate.audio.SampleEncoding;
import ablecrate.codec.Bytes;
import ablecrate.codec.FormatException;
import ablecrate.codec.OutputShape;
import ablecrate.codec.chunk.ChunkBuilder;
import ablecrate.codec.chunk.ChunkReader;
import java.nio.ByteOrder;
import java.util.Map;

/// The `fmt ` chunk, little-endian.
///
/// | offset | type | field | meaning |
/// |-------:|------|-------|---------|
/// | 0 | u16 | tag | 1 PCM, 3 float, FFFE extensible |
/// | 2 | u16 | channels | |
/// | 4 | u32 | rate | frames per second |
/// | 8 | u32 | byteRate | rate × blockAlign; not relied on |
/// | 12 | u16 | blockAlign | bytes per frame |
/// | 14 | u16 | bits | bits per sample; the container's in extensible files |
/// | 16 | u16 | extraBytes | 22 when extensible; absent in plain PCM |
/// | 18 | u16 | validBits | extensible |
/// | 20 | u32 | channelMask | extensible: speaker positions |
/// | 24 | 16 bytes | subFormat | extensible: the tag in the first two, then a fixed tail |
///
/// Source: *Multimedia Programming Interface and Data Specifications 1.0*, WAVE; *Multiple channel audio data and WAVE files*.
public record FmtChunk(boolean isExtensible, SampleEncoding encoding, int rateHz, int channels) {
    private static final int TAG_PCM = 1, TAG_FLOAT = 3, TAG_EXTENSIBLE = 0xFFFE;
    private static final byte[] SUBFORMAT_TAIL = {0, 0, 0, 0, 0x10, 0, (byte) 0x80, 0, 0, (byte) 0xAA, 0, 0x38, (byte) 0x9B, 0x71};
    /// Registered tags that real files carry; the registry is Microsoft's `mmreg.h`.
    private static final Map<Integer, String> COMPRESSED = Map.of(2, "ADPCM", 6, "A-law", 7, "µ-law", 0x11, "IMA ADPCM", 0x31, "GSM 6.10",
            0x50, "MPEG audio", 0x55, "MP3", 0xFF, "AAC", 0x161, "Windows Media Audio");

    public static FmtChunk read(ChunkReader in) throws FormatException {
        int tag = in.u16("tag"), channels = in.u16("channels");
        long rate = in.u32("rate");
        in.u32("byteRate");
        int blockAlign = in.u16("blockAlign"), bits = in.u16("bits");
        boolean extensible = tag == TAG_EXTENSIBLE;
        int validBits = bits;
        if (extensible) {
            in.u16("extraBytes");
            validBits = in.u16("validBits");
            in.u32("channelMask");
            tag = in.u16("subFormat");
        }
        if (COMPRESSED.containsKey(tag))
            throw in.unsupported("the audio inside is " + COMPRESSED.get(tag) + ", not PCM", "This version cannot decode it; get it as PCM.");
        if (tag != TAG_PCM && tag != TAG_FLOAT)
            throw in.unsupported("the audio is coded with tag " + tag + ", which is neither PCM (1) nor float (3)", "Get it as PCM.");
        if (channels < 1) throw in.bad("the file says it has 0 channels", "The header is damaged; get the file again.");
        if (rate < 1 || rate > 10_000_000)
            throw in.bad("the file says its rate is " + rate + " Hz", "The header is damaged; get the file again.");
        int containerBytes = blockAlign / channels;
        // Some writers leave blockAlign wrong but the bits right.
        if (blockAlign % channels != 0 || containerBytes * 8 < bits || containerBytes > 8) containerBytes = (bits + 7) / 8;
        boolean isFloat = tag == TAG_FLOAT;
        if (isFloat ? bits != 32 && bits != 64 : bits < 1 || bits > 32 || containerBytes > 4)
            throw in.bad("samples of " + bits + " bits in frames of " + blockAlign + " bytes", "Expected 8 to 32 bit PCM, 32 or 64 bit float.");
        if (isFloat) containerBytes = bits / 8;
        if (validBits < 1 || validBits > containerBytes * 8) validBits = bits;
        Kind kind = isFloat ? Kind.FLOAT : containerBytes == 1 ? Kind.UNSIGNED : Kind.SIGNED;
        return new FmtChunk(extensible, new SampleEncoding(kind, containerBytes, validBits, ByteOrder.LITTLE_ENDIAN), (int) rate, channels);
    }

    public static SampleEncoding encodingOf(Depth depth) {
        Kind kind = depth.isFloat() ? Kind.FLOAT : depth == Depth.INT_8 ? Kind.UNSIGNED : Kind.SIGNED;
        return new SampleEncoding(kind, depth.bytes(), depth.bits(), ByteOrder.LITTLE_ENDIAN);
    }

    /// @param channelMask of the source; used where the file is extensible, which more than 2 channels demand
    public static Bytes write(OutputShape shape, long channelMask) {
        Depth depth = shape.depth();
        int frameBytes = shape.channels() * depth.bytes(), tag = depth.isFloat() ? TAG_FLOAT : TAG_PCM;
        // Plain headers have no place for bits of a word that are not used.
        boolean extensible = shape.channels() > 2 || depth.bits() % 8 != 0;
        ChunkBuilder out = new ChunkBuilder(ByteOrder.LITTLE_ENDIAN).u16(extensible ? TAG_EXTENSIBLE : tag).u16(shape.channels())
                .u32(shape.rateHz()).u32((long) shape.rateHz() * frameBytes).u16(frameBytes).u16(8 * depth.bytes());
        if (extensible)
            out.u16(22).u16(depth.bits()).u32(channelMask).u16(tag).bytes(SUBFORMAT_TAIL);
        else
            if (depth.isFloat()) out.u16(0);
        return out.toBytes();
    }

    /// The channel mask of a raw chunk; 0, "no positions", where it has none.
    public static long channelMask(Bytes contents) {
        byte[] raw = contents.toArray();
        return raw.length < 24 ? 0 : (raw[20] & 0xFFL) | (raw[21] & 0xFFL) << 8 | (raw[22] & 0xFFL) << 16 | (raw[23] & 0xFFL) << 24;
    }
}
