package ablecrate.codec.ogg;

import ablecrate.codec.ChannelOrder;
import ablecrate.codec.opus.OpusDecoder;
import java.util.Optional;

/// Opus; the decoding is the library's, in float.
record OpusCodec(OpusHead head) implements OggCodec {
    static final int RATE_HZ = 48_000;
    /// In place of a channel of the streams (RFC 7845, section 5.1.1).
    private static final int SILENT = 255;

    /// RFC 7845, section 4.6: 80 ms until what a decoder remembers is right.
    @Override public int preRoll() { return 3840; }

    @Override public OggKernel open() { return new Kernel(); }

    private final class Kernel implements OggKernel {
        private final int channels = head.channels();
        private final byte[] mapping = head.mapping().toArray();
        private final double gain = Math.pow(10, head.gain() / 256.0 / 20);
        /// Made when the first packet comes: it costs more than looking at a file's headers.
        private Optional<OpusDecoder> decoder = Optional.empty();

        @Override public void reset() { decoder.ifPresent(OpusDecoder::reset); }

        @Override public void decode(byte[] packet, Frames into) {
            if (packet.length == 0) return;
            if (decoder.isEmpty()) decoder = Optional.of(new OpusDecoder(head.streams(), head.coupled()));
            float[][] coded;
            try {
                coded = decoder.get().decode(packet);
            } catch (RuntimeException e) {
                // A packet that lies about itself.
                decoder = Optional.empty();
                return;
            }
            int count = coded.length == 0 ? 0 : coded[0].length;
            if (count == 0) return;
            into.reach(count);
            for (int channel = 0; channel < channels; channel++) {
                int from = mapping[ChannelOrder.VORBIS.coded(channel, channels)] & 0xFF;
                double[] plane = into.planes[channel];
                for (int i = 0; i < count; i++)
                    plane[into.count + i] = from == SILENT ? 0 : coded[from][i] * gain;
            }
            into.count += count;
        }
    }
}
