package ablecrate.codec.flac;

import ablecrate.codec.PieceStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.util.Arrays;
import org.kc7bfi.jflac.FLACDecoder;
import org.kc7bfi.jflac.frame.Frame;

/// Turns whole frames into samples; the work is the library's. One per stream; not for two threads.
final class FlacKernel {
    private final StreamInfo info;
    private final double step;
    private final PieceStream feed = new PieceStream();
    private FLACDecoder decoder;

    FlacKernel(StreamInfo info) {
        this.info = info;
        step = Math.scalb(1.0, 1 - info.bits());
    }

    /// @param planes `[channel][frame]`, as long as the largest block; receive the samples, or silence where the frame cannot be decoded
    void decode(byte[] frame, int count, double[][] planes) throws IOException {
        if (decoder == null) {
            ByteArrayOutputStream head = new ByteArrayOutputStream();
            head.writeBytes(new byte[]{'f', 'L', 'a', 'C', (byte) 0x80, 0, 0, StreamInfo.BYTES});
            head.writeBytes(info.toArray());
            feed.take(head.toByteArray());
            decoder = new FLACDecoder(feed);
            decoder.readStreamInfo();
        }
        feed.take(frame);
        Frame decoded = null;
        try {
            decoded = decoder.readNextFrame();
        } catch (RuntimeException e) {
            // The library finds a fault in its arrays where the frame lies about itself.
        }
        if (decoded == null || decoded.header.blockSize != count) {
            decoder = null;
            for (double[] plane : planes)
                Arrays.fill(plane, 0, count, 0);
            return;
        }
        for (int channel = 0; channel < planes.length; channel++) {
            int[] samples = decoder.getChannelData()[channel].getOutput();
            for (int i = 0; i < count; i++)
                planes[channel][i] = samples[i] * step;
        }
    }
}
