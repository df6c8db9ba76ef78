package ablecrate.codec.ogg;

import ablecrate.codec.Bytes;
import ablecrate.codec.FormatException;
import ablecrate.codec.chunk.ChunkBuilder;
import ablecrate.codec.chunk.ChunkReader;
import java.nio.ByteOrder;
import java.util.stream.IntStream;

/// First packet of an Opus stream, little-endian.
///
/// | offset | type | field | meaning |
/// |-------:|------|-------|---------|
/// | 0 | 8 bytes | `OpusHead` | |
/// | 8 | u8 | version | 1; the upper half must be 0 |
/// | 9 | u8 | channels | |
/// | 10 | u16 | preSkip | frames at 48 kHz before the sound |
/// | 12 | u32 | inputRateHz | what was coded; for information |
/// | 16 | s16 | gain | 1/256 dB, put on by the decoder |
/// | 18 | u8 | family | 0: mono or stereo; 1: up to 8 channels, a table follows |
/// | 19 | u8 | streams | |
/// | 20 | u8 | coupled | |
/// | 21 | u8 each | mapping | channel of the streams for each of ours |
///
/// Source: RFC 7845, *Ogg Encapsulation for the Opus Audio Codec* (2016), section 5.1.
record OpusHead(int channels, int preSkip, long inputRateHz, int gain, int family, int streams, int coupled, Bytes mapping) {
    private static final String NAME = "OpusHead";

    static OpusHead read(ChunkReader in) throws FormatException {
        in.array(NAME.length(), "name");
        int version = in.u8("version"), channels = in.u8("channels"), preSkip = in.u16("preSkip");
        long rate = in.u32("inputRateHz");
        int gain = in.s16("gain"), family = in.u8("family");
        if (version >> 4 != 0) throw in.unsupported("version " + version + " of Opus in Ogg", "It needs a newer reader; bring it as WAV.");
        if (channels == 0 || family == 0 && channels > 2 || channels > 8) throw in.bad(channels + " channels of Opus", "The file is damaged; get it again.");
        if (family == 0) return new OpusHead(channels, preSkip, rate, gain, 0, 1, channels - 1, Bytes.of(channels == 1 ? new byte[]{0} : new byte[]{0, 1}));
        int streams = in.u8("streams"), coupled = in.u8("coupled");
        Bytes mapping = in.bytes(channels, "mapping");
        boolean mapsBeyond = IntStream.range(0, channels).map(i -> mapping.toArray()[i] & 0xFF).anyMatch(c -> c != 255 && c >= streams + coupled);
        if (streams == 0 || coupled > streams || streams > channels || mapsBeyond)
            throw in.bad(streams + " streams of Opus, " + coupled + " coupled", "The file is damaged; get it again.");
        return new OpusHead(channels, preSkip, rate, gain, family, streams, coupled, mapping);
    }

    byte[] toArray() {
        return new ChunkBuilder(ByteOrder.LITTLE_ENDIAN).id(NAME).u8(1).u8(channels).u16(preSkip).u32(inputRateHz).u16(gain).u8(0).toArray();
    }
}
