package ablecrate.audio;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;
import java.util.Objects;

/// Turns numbers in [-1, 1) into stored samples: rounded to the nearest step, clipped at full scale, clips counted.
/// One per stream; not for two threads.
public final class PcmPacker {
    private final SampleEncoding encoding;
    private final VarHandle shorts, ints, floats, doubles;
    private long clippedSamples;

    public PcmPacker(SampleEncoding encoding) {
        this.encoding = encoding;
        shorts = MethodHandles.byteArrayViewVarHandle(short[].class, encoding.order());
        ints = MethodHandles.byteArrayViewVarHandle(int[].class, encoding.order());
        floats = MethodHandles.byteArrayViewVarHandle(float[].class, encoding.order());
        doubles = MethodHandles.byteArrayViewVarHandle(double[].class, encoding.order());
    }

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
        if (encoding.isFloat()) {
            if (encoding.containerBytes() == 4)
                for (int i = 0; i < frames; i++, at += step)
                    floats.set(packed, at, (float) plane[i]);
            else
                for (int i = 0; i < frames; i++, at += step)
                    doubles.set(packed, at, plane[i]);
            return;
        }
        boolean big = encoding.order() == ByteOrder.BIG_ENDIAN, unsigned = encoding.kind() == SampleEncoding.Kind.UNSIGNED;
        int bytes = encoding.containerBytes();
        int unusedBits = encoding.containerBits() - encoding.validBits();
        double scale = Math.scalb(1.0, encoding.validBits() - 1), highest = scale - 1, lowest = -scale;
        int low = big ? bytes - 1 : 0, high = bytes - 1 - low;
        long clipped = 0;
        for (int i = 0; i < frames; i++, at += step) {
            double scaled = Math.rint(plane[i] * scale);
            if (scaled > highest || scaled < lowest) {
                clipped++;
                scaled = scaled > highest ? highest : lowest;
            }
            int value = (int) scaled << unusedBits;
            switch (bytes) {
                case 1 -> packed[at] = (byte) (unsigned ? value + 128 : value);
                case 2 -> shorts.set(packed, at, (short) value);
                case 3 -> {
                    packed[at + low] = (byte) value;
                    packed[at + 1] = (byte) (value >> 8);
                    packed[at + high] = (byte) (value >> 16);
                }
                default -> ints.set(packed, at, value);
            }
        }
        clippedSamples += clipped;
    }
}
