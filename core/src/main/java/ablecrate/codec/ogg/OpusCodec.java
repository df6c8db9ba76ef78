package ablecrate.codec.ogg;

import ablecrate.codec.ChannelOrder;
import java.nio.FloatBuffer;

/// Opus; the decoding is the library's, in float.
record OpusCodec(OpusHead head) implements OggCodec {
    static final int RATE_HZ = 48_000;

    /// RFC 7845, section 4.6: 80 ms until what a decoder remembers is right.
    @Override public int preRoll() { return 3840; }

    @Override public OggKernel open() { return new Kernel(); }

    private final class Kernel implements OggKernel {
        private final int channels = head.channels();
        private final double gain = Math.pow(10, head.gain() / 256.0 / 20);
        private OpusDecoder decoder;

        Kernel() { reset(); }

        @Override public void reset() { decoder = new OpusDecoder(channels, head.streams(), head.coupled(), head.mapping().toArray()); }

        @Override public void decode(byte[] packet, Frames into) {
            FloatBuffer samples;
            try {
                samples = decoder.decode(packet);
            } catch (RuntimeException e) {
                // A packet that lies about itself.
                reset();
                return;
            }
            int count = samples.capacity() / channels;
            into.reach(count);
            for (int channel = 0; channel < channels; channel++) {
                int coded = ChannelOrder.VORBIS.coded(channel, channels);
                for (int i = 0; i < count; i++)
                    into.planes[channel][into.count + i] = samples.get(coded * count + i) * gain;
            }
            into.count += count;
        }
    }
}
