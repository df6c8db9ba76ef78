package ablecrate.codec.ogg;

import ablecrate.codec.Bytes;
import ablecrate.codec.ChannelOrder;
import com.jcraft.jogg.Packet;
import com.jcraft.jorbis.Block;
import com.jcraft.jorbis.Comment;
import com.jcraft.jorbis.DspState;
import com.jcraft.jorbis.Info;
import java.util.List;

/// Vorbis; the decoding is the library's, in float.
/// @param headers the three packets that a stream starts with
record VorbisCodec(List<Bytes> headers) implements OggCodec {
    private static final int COMMENTS = 1;
    /// Packet type, `vorbis`, no vendor, no texts, the bit that ends it.
    private static final byte[] NO_COMMENTS = {3, 'v', 'o', 'r', 'b', 'i', 's', 0, 0, 0, 0, 0, 0, 0, 0, 1};

    VorbisCodec {
        headers = List.copyOf(headers);
    }

    @Override public int preRoll() { return 8192; }

    @Override public OggKernel open() { return new Kernel(info()); }

    /// @throws IllegalArgumentException if the headers are damaged
    Info info() {
        Info info = new Info();
        info.init();
        Comment comment = new Comment();
        comment.init();
        for (int i = 0; i < headers.size(); i++)
            // Texts are read by us: the library makes room for as many as are claimed.
            if (info.synthesis_headerin(comment, packet(i == COMMENTS ? NO_COMMENTS.clone() : headers.get(i).toArray(), i == 0, i)) < 0)
                throw new IllegalArgumentException("Vorbis header " + (i + 1) + " is damaged");
        return info;
    }

    private static Packet packet(byte[] bytes, boolean isFirst, long number) {
        Packet packet = new Packet();
        packet.packet_base = bytes;
        packet.packet = 0;
        packet.bytes = bytes.length;
        packet.b_o_s = isFirst ? 1 : 0;
        packet.granulepos = -1;
        packet.packetno = number;
        return packet;
    }

    private static final class Kernel implements OggKernel {
        private static final int HEADERS = 3;

        private final Info info;
        private DspState state;
        private Block block;
        private long number;

        Kernel(Info info) {
            this.info = info;
            reset();
        }

        @Override public void reset() {
            state = new DspState();
            state.synthesis_init(info);
            block = new Block(state);
            number = HEADERS;
        }

        @Override public void decode(byte[] bytes, Frames into) {
            try {
                if (bytes.length == 0 || block.synthesis(packet(bytes, false, number++)) != 0) return;
                state.synthesis_blockin(block);
            } catch (RuntimeException e) {
                // The library finds a fault in its arrays where a packet lies about itself.
                reset();
                return;
            }
            float[][][] pcm = new float[1][][];
            int[] at = new int[info.channels];
            for (int n; (n = state.synthesis_pcmout(pcm, at)) > 0;) {
                into.reach(n);
                for (int channel = 0; channel < info.channels; channel++) {
                    int coded = ChannelOrder.VORBIS.coded(channel, info.channels);
                    for (int i = 0; i < n; i++)
                        into.planes[channel][into.count + i] = pcm[0][coded][at[coded] + i];
                }
                into.count += n;
                state.synthesis_read(n);
            }
        }
    }
}
