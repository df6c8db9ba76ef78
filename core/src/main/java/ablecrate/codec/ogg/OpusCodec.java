package ablecrate.codec.ogg;

import ablecrate.codec.ChannelOrder;
import io.github.jaredmdobson.concentus.OpusException;
import io.github.jaredmdobson.concentus.OpusMSDecoder;

/// Opus; the decoding is the library's. It works in integers and gives 16 bits, which is the one library there is for it.
record OpusCodec(OpusHead head) implements OggCodec {
    static final int RATE_HZ = 48_000;
    /// The longest packet, 120 ms.
    private static final int LONGEST = 5760;

    /// RFC 7845, section 4.6: 80 ms until what a decoder remembers is right.
    @Override public int preRoll() { return 3840; }

    @Override public OggKernel open() { return new Kernel(); }

    private final class Kernel implements OggKernel {
        private final int channels = head.channels();
        private final short[] samples = new short[LONGEST * channels];
        private final double step = Math.pow(10, head.gain() / 256.0 / 20) / 32_768;
        private OpusMSDecoder decoder;

        Kernel() { reset(); }

        @Override public void reset() {
            short[] mapping = new short[channels];
            for (int i = 0; i < channels; i++)
                mapping[i] = (short) (head.mapping().toArray()[i] & 0xFF);
            try {
                decoder = OpusMSDecoder.create(RATE_HZ, channels, head.streams(), head.coupled(), mapping);
            } catch (OpusException | IllegalArgumentException e) {
                throw new IllegalArgumentException("Opus of " + channels + " channels in " + head.streams() + " streams", e);
            }
        }

        @Override public void decode(byte[] packet, Frames into) {
            int count;
            try {
                count = packet.length == 0 ? 0 : decoder.decodeMultistream(packet, 0, packet.length, samples, 0, LONGEST, 0);
            } catch (RuntimeException | AssertionError e) {
                // The library finds a fault in its arrays where a packet lies about itself.
                reset();
                return;
            }
            if (count <= 0) return;
            into.reach(count);
            for (int channel = 0; channel < channels; channel++) {
                int coded = ChannelOrder.VORBIS.coded(channel, channels);
                for (int i = 0; i < count; i++)
                    into.planes[channel][into.count + i] = samples[i * channels + coded] * step;
            }
            into.count += count;
        }
    }
}
