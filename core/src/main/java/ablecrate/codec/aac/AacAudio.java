package ablecrate.codec.aac;

import ablecrate.audio.BlockDecoder;
import ablecrate.codec.BitReader;
import ablecrate.codec.Bytes;
import ablecrate.codec.ChannelOrder;
import ablecrate.codec.CodedAudio;
import ablecrate.codec.PacketDecoder;
import ablecrate.codec.PacketTable;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.logging.Logger;
import net.sourceforge.jaad.aac.Decoder;
import net.sourceforge.jaad.mp4.MP4Exception;

/// A stream of AAC packets; the decoding is the library's, in float.
/// @param config the `AudioSpecificConfig` of ISO/IEC 14496-3
/// @param packetFrames that each packet gives
public record AacAudio(Bytes config, int channels, int packetFrames, PacketTable packets) implements CodedAudio {
    /// Full scale of the library's floats.
    private static final double FULL_SCALE = 32_768;

    private static final int CORE_FRAMES = 1024;
    /// The library tells damaged packets to the console; we tell them to the user. Held, as loggers that nobody holds forget.
    private static final Logger LIBRARY = Logger.getLogger("jaad");

    static {
        LIBRARY.setUseParentHandlers(false);
    }

    @Override public BlockDecoder open(Path path) throws IOException {
        return new PacketDecoder(path, packets, channels, packetFrames, 2) {
            private Decoder decoder;

            @Override protected int decode(byte[] packet, double[][] planes) {
                int[] count = {0};
                try {
                    if (decoder == null) decoder = Decoder.create(config.toArray());
                    decoder.decodeFrame(packet, (coded, length, _) -> count[0] = take(coded, length, planes));
                } catch (MP4Exception | RuntimeException | AssertionError e) {
                    // The library finds some faults of packets only in its arrays.
                    decoder = null;
                }
                return count[0];
            }

            @Override protected void reset() { decoder = null; }
        };
    }

    private static int take(List<float[]> coded, int length, double[][] planes) {
        int count = Math.min(length, planes[0].length);
        for (int channel = 0; channel < planes.length; channel++) {
            float[] from = coded.get(Math.min(ChannelOrder.MPEG.coded(channel, planes.length), coded.size() - 1));
            for (int i = 0; i < count; i++)
                planes[channel][i] = from[i] / FULL_SCALE;
        }
        return count;
    }

    /// What a packet gives: frames, channels, rate.
    public record Shape(int frames, int channels, int rateHz) {}

    /// Decodes a packet to see what all will give; spectral band replication doubles the rate, and only the decoder knows that it is there.
    public static Shape probe(Bytes config, byte[] packet) throws MP4Exception {
        Shape[] shape = {null};
        Decoder decoder = Decoder.create(config.toArray());
        decoder.decodeFrame(packet, (coded, length, rate) -> shape[0] = new Shape(length, length == CORE_FRAMES && isMono(config) ? 1 : coded.size(), rate));
        if (shape[0] == null) throw new IllegalStateException("the packet gives nothing");
        return shape[0];
    }

    /// The library gives mono as two channels. With spectral bands replicated that may be right, as one channel may hold two then.
    private static boolean isMono(Bytes config) {
        BitReader in = new BitReader(config.toArray());
        if (in.bits(5) == 31) in.skip(6);
        if (in.bits(4) == 15) in.skip(24);
        return in.bits(4) == 1;
    }
}
