package ablecrate.codec.ogg;

import java.io.IOException;

/// Decodes packets of one of the codecs that Ogg holds. One per stream; not for two threads.
interface OggKernel {
    /// Begins anew: the next packet does not follow the one before.
    void reset();

    /// @param into receives the packet's frames; what cannot be decoded gives none
    void decode(byte[] packet, Frames into) throws IOException;

    /// Frames that a page gave, growing.
    final class Frames {
        double[][] planes;
        int count;

        Frames(int channels) { planes = new double[channels][8192]; }

        /// Makes room behind what is there.
        void reach(int more) {
            if (count + more <= planes[0].length) return;
            int length = Math.max(2 * planes[0].length, count + more);
            for (int channel = 0; channel < planes.length; channel++)
                planes[channel] = java.util.Arrays.copyOf(planes[channel], length);
        }
    }
}
