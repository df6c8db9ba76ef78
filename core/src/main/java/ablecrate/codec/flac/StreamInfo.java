package ablecrate.codec.flac;

import ablecrate.codec.Bytes;
import ablecrate.codec.FormatException;
import ablecrate.codec.chunk.ChunkBuilder;
import ablecrate.codec.chunk.ChunkReader;
import java.nio.ByteOrder;

/// `STREAMINFO`, first block of every FLAC stream: 34 bytes, big-endian.
///
/// | offset | bits | field | meaning |
/// |-------:|-----:|-------|---------|
/// | 0 | 16 | minBlock | frames of the smallest block but the last |
/// | 2 | 16 | maxBlock | frames of the largest |
/// | 4 | 24 | minFrameBytes | 0 = unknown |
/// | 7 | 24 | maxFrameBytes | 0 = unknown |
/// | 10 | 20 | rateHz | |
/// | 12.5 | 3 | channels | less one |
/// | 12.9 | 5 | bits | less one |
/// | 13.5 | 36 | frames | 0 = unknown |
/// | 18 | 128 | md5 | of the samples, interleaved, little-endian, in whole bytes; zeros = unknown |
///
/// Source: RFC 9639, *Free Lossless Audio Codec* (2024), section 8.2.
public record StreamInfo(int minBlock, int maxBlock, int minFrameBytes, int maxFrameBytes, int rateHz, int channels, int bits, long frames, Bytes md5) {
    public static final int BYTES = 34;

    public static StreamInfo read(ChunkReader in) throws FormatException {
        int minBlock = in.u16("minBlock"), maxBlock = in.u16("maxBlock"), minBytes = in.u16("minFrameBytes") << 8 | in.u8("minFrameBytes"),
                maxBytes = in.u16("maxFrameBytes") << 8 | in.u8("maxFrameBytes");
        long packed = in.s64("rate, channels, bits, frames");
        StreamInfo info = new StreamInfo(minBlock, maxBlock, minBytes, maxBytes, (int) (packed >>> 44), (int) (packed >>> 41 & 7) + 1,
                (int) (packed >>> 36 & 31) + 1, packed & 0xF_FFFF_FFFFL, in.bytes(16, "md5"));
        if (info.rateHz == 0) throw in.bad("a rate of 0 Hz", "The file is damaged; get it again.");
        if (info.bits < 4 || info.bits > 32) throw in.unsupported("FLAC of " + info.bits + " bits; 4 to 32 are read", "Bring it as WAV.");
        if (info.maxBlock < 16) throw in.bad("blocks of " + info.maxBlock + " frames, 16 is the least", "The file is damaged; get it again.");
        return info;
    }

    public byte[] toArray() {
        return new ChunkBuilder(ByteOrder.BIG_ENDIAN).u16(minBlock).u16(maxBlock).u8(minFrameBytes >> 16).u16(minFrameBytes).u8(maxFrameBytes >> 16)
                .u16(maxFrameBytes).u64((long) rateHz << 44 | channels - 1L << 41 | bits - 1L << 36 | frames).bytes(md5).toArray();
    }

    boolean isFixed() { return minBlock == maxBlock; }

    boolean knowsMd5() { return !md5.equals(Bytes.of(new byte[16])); }
}
