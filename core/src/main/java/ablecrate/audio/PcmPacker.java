package ablecrate.audio;

import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;
import java.util.Objects;

/// Turns numbers in [-1, 1) into stored samples: rounded to the nearest step, clipped at full scale, clips counted.
/// One per stream; not for two threads.
public final class PcmPacker {
    private static final VarHandle SHORTS = PcmUnpacker.SHORTS, INTS = PcmUnpacker.INTS, LONGS = PcmUnpacker.LONGS;

    private final SampleEncoding encoding;
    private long clippedSamples;

    public PcmPacker(SampleEncoding encoding) { this.encoding = encoding; }

    /// Samples that lay beyond full scale so far. Floats have no full scale and never clip.
    public long clippedSamples() { return clippedSamples; }

    /// @param planes `[channel][frame]`, frames `[0, frames)` are packed
    /// @param packed receives container bytes × channels × frames, interleaved
    /// @throws IndexOutOfBoundsException if `packed` is too short; it is then untouched
    public void pack(double[][] planes, int frames, byte[] packed) {
        int frameBytes = encoding.containerBytes() * planes.length;
        Objects.checkFromIndexSize(0, Math.multiplyExact(frames, frameBytes), packed.length);
        for (int channel = 0; channel < planes.length; channel++)
            packChannel(planes[channel], frames, packed, channel * encoding.containerBytes(), frameBytes);
    }

    private void packChannel(double[] plane, int frames, byte[] packed, int at, int step) {
        boolean big = encoding.order() == ByteOrder.BIG_ENDIAN, unsigned = encoding.kind() == SampleEncoding.Kind.UNSIGNED;
        int bytes = encoding.containerBytes();
        if (encoding.isFloat()) {
            if (bytes == 4)
                for (int i = 0; i < frames; i++, at += step) {
                    int bits = Float.floatToRawIntBits((float) plane[i]);
                    INTS.set(packed, at, big ? Integer.reverseBytes(bits) : bits);
                }
            else
                for (int i = 0; i < frames; i++, at += step) {
                    long bits = Double.doubleToRawLongBits(plane[i]);
                    LONGS.set(packed, at, big ? Long.reverseBytes(bits) : bits);
                }
            return;
        }
        int unusedBits = encoding.containerBits() - encoding.validBits();
        double scale = Math.scalb(1.0, encoding.validBits() - 1), highest = scale - 1, lowest = -scale;
        long clipped = 0;
        int low = big ? bytes - 1 : 0, high = bytes - 1 - low;
        for (int i = 0; i < frames; i++, at += step) {
            double scaled = Math.rint(plane[i] * scale);
            if (scaled > highest || scaled < lowest) {
                clipped++;
                scaled = scaled > 0 ? highest : lowest;
            }
            int value = (int) scaled << unusedBits;
            switch (bytes) {
                case 3 -> {
                    packed[at + low] = (byte) value;
                    packed[at + 1] = (byte) (value >> 8);
                    packed[at + high] = (byte) (value >> 16);
                }
                case 2 -> SHORTS.set(packed, at, big ? Short.reverseBytes((short) value) : (short) value);
                case 4 -> INTS.set(packed, at, big ? Integer.reverseBytes(value) : value);
                default -> packed[at] = (byte) (unsigned ? value + 128 : value);
            }
        }
        clippedSamples += clipped;
    }
}
