package ablecrate.codec.aac;

import ablecrate.audio.BlockDecoder;
import ablecrate.codec.Bytes;
import ablecrate.codec.ChannelOrder;
import ablecrate.codec.CodedAudio;
import ablecrate.codec.FormatException;
import ablecrate.codec.PacketDecoder;
import ablecrate.codec.PacketTable;
import ablecrate.codec.chunk.FileBytes;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.logging.Logger;
import net.sourceforge.jaad.aac.Decoder;
import net.sourceforge.jaad.mp4.MP4Exception;

/// A stream of AAC packets. AAC-LC is decoded here; what builds on it (replicated bands, other profiles) by a library, in float.
/// @param config the `AudioSpecificConfig` of ISO/IEC 14496-3
/// @param packetFrames that each packet gives
public record AacAudio(Bytes config, int channels, int packetFrames, PacketTable packets) implements CodedAudio {
    /// Full scale of the library's floats.
    private static final double FULL_SCALE = 32_768;
    /// Packets that are looked at to see what all will give.
    private static final int PROBED = 4;
    private static final int PRE_ROLL = 2;
    /// The library tells damaged packets to the console; we tell them to the user. Held, as loggers that nobody holds forget.
    private static final Logger LIBRARY = Logger.getLogger("jaad");

    static {
        LIBRARY.setUseParentHandlers(false);
    }

    /// Set where we decode it.
    private Optional<AacConfig> plain() { return AacConfig.read(config).filter(c -> c.isPlain() && packetFrames == FilterBank.LINES); }

    @Override public boolean isSameFromAnywhere() { return plain().isPresent(); }

    @Override public BlockDecoder open(Path path) throws IOException {
        Optional<AacConfig> plain = plain();
        return plain.isPresent() ? new Plain(path, plain.get()) : new Others(path);
    }

    private final class Plain extends PacketDecoder {
        private final AacDecoder decoder;
        private final double[][] coded = new double[channels][FilterBank.LINES];

        Plain(Path path, AacConfig known) throws IOException {
            super(path, packets, channels, packetFrames, PRE_ROLL);
            decoder = new AacDecoder(known);
        }

        @Override protected int decode(byte[] packet, double[][] planes) {
            try {
                if (decoder.decode(packet, coded).channels() != channels) return 0;
            } catch (IOException e) {
                decoder.reset();
                return 0;
            }
            for (int channel = 0; channel < planes.length; channel++)
                System.arraycopy(coded[ChannelOrder.MPEG.coded(channel, planes.length)], 0, planes[channel], 0, FilterBank.LINES);
            return FilterBank.LINES;
        }

        @Override protected void reset() { decoder.reset(); }
    }

    private final class Others extends PacketDecoder {
        private Decoder decoder;

        Others(Path path) throws IOException { super(path, packets, channels, packetFrames, PRE_ROLL); }

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

    /// Decodes the first packets to see what all will give; spectral band replication doubles the rate, and only the packets know that it is there.
    /// @throws FormatException if none of them can be decoded
    public static Shape probe(Bytes config, FileBytes file, PacketTable packets) throws IOException, FormatException {
        Optional<AacConfig> known = AacConfig.read(config).filter(AacConfig::isPlain);
        boolean replicates = false;
        int channels = 0;
        for (int i = 0; known.isPresent() && i < Math.min(PROBED, packets.packets()); i++)
            try {
                AacDecoder.Held held = new AacDecoder(known.get()).decode(file.read(packets.at(i), packets.bytes(i)), new double[0][]);
                replicates |= held.replicates();
                if (channels == 0) channels = held.channels();
            } catch (IOException e) {
                // Damaged, or of a kind that the library may know.
            }
        if (channels > 0 && !replicates) return new Shape(FilterBank.LINES, channels, known.get().rateHz());
        try {
            return probe(config, file.read(packets.at(0), packets.bytes(0)));
        } catch (MP4Exception | RuntimeException | AssertionError e) {
            throw new FormatException("the first packet of AAC cannot be decoded", "", "Bring the sound as WAV.");
        }
    }

    private static Shape probe(Bytes config, byte[] packet) throws MP4Exception {
        Shape[] shape = {null};
        Decoder decoder = Decoder.create(config.toArray());
        decoder.decodeFrame(packet,
                (coded, length, rate) -> shape[0] = new Shape(length, length == FilterBank.LINES && isMono(config) ? 1 : coded.size(), rate));
        if (shape[0] == null || shape[0].channels() == 0) throw new IllegalStateException("the packet gives nothing");
        return shape[0];
    }

    /// The library gives mono as two channels. With spectral bands replicated that may be right, as one channel may hold two then.
    private static boolean isMono(Bytes config) { return AacConfig.read(config).filter(c -> c.channels() == 1).isPresent(); }
}
