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
    /// `[channel][frame]`: a block, rounded.
    private int[][] steps = {};

    public PcmPacker(SampleEncoding encoding) { this.encoding = encoding; }

    /// Samples that lay beyond full scale so far. Floats have no full scale and never clip.
    public long clippedSamples() { return clippedSamples; }

    /// @param planes `[channel][frame]`, frames `[0, frames)` are packed
    /// @param packed receives container bytes × channels × frames, interleaved
    /// @throws IndexOutOfBoundsException if `packed` is too short; it is then untouched
    public void pack(double[][] planes, int frames, byte[] packed) {
        int bytes = encoding.containerBytes(), frameBytes = bytes * planes.length;
        Objects.checkFromIndexSize(0, Math.multiplyExact(frames, frameBytes), packed.length);
        if (encoding.isFloat()) {
            for (int channel = 0; channel < planes.length; channel++)
                floats(planes[channel], frames, packed, channel * bytes, frameBytes);
            return;
        }
        if (steps.length != planes.length || steps[0].length < frames) steps = new int[planes.length][frames];
        for (int channel = 0; channel < planes.length; channel++)
            round(planes[channel], frames, steps[channel]);
        store(steps, frames, packed);
    }

    private void store(int[][] planes, int frames, byte[] packed) {
        int bytes = encoding.containerBytes(), frameBytes = bytes * planes.length;
        boolean isPair = bytes == 3 && planes.length == 2 && encoding.order() == ByteOrder.LITTLE_ENDIAN && frames > 0;
        // A frame of six bytes is written as eight, the two too many by the next frame's; the last frame has none.
        int paired = isPair ? frames - 1 : 0;
        pairs(planes[0], planes[planes.length - 1], paired, packed);
        for (int channel = 0; channel < planes.length; channel++)
            store(planes[channel], paired, frames, packed, channel * bytes + paired * frameBytes, frameBytes);
    }

    /// The same of samples that are whole steps of the valid bits already, within full scale.
    /// @param steps `[channel][frame]`; where the container has unused bits they are shifted up in place
    public void packSteps(int[][] steps, int frames, byte[] packed) {
        Objects.checkFromIndexSize(0, Math.multiplyExact(frames, encoding.containerBytes() * steps.length), packed.length);
        for (int[] plane : steps)
            leftJustify(plane, frames);
        store(steps, frames, packed);
    }

    private void floats(double[] plane, int frames, byte[] packed, int at, int step) {
        boolean big = encoding.order() == ByteOrder.BIG_ENDIAN;
        if (encoding.containerBytes() == 4)
            for (int i = 0; i < frames; i++, at += step) {
                int bits = Float.floatToRawIntBits((float) plane[i]);
                INTS.set(packed, at, big ? Integer.reverseBytes(bits) : bits);
            }
        else
            for (int i = 0; i < frames; i++, at += step) {
                long bits = Double.doubleToRawLongBits(plane[i]);
                LONGS.set(packed, at, big ? Long.reverseBytes(bits) : bits);
            }
    }

    /// To whole steps, left-justified in the container.
    private void round(double[] plane, int frames, int[] to) {
        int bits = encoding.validBits();
        double scale = Math.scalb(1.0, bits - 1);
        // What overflows the integer has the highest of its bits set as well, but for 32 of them.
        if (bits == 32 || toSteps(plane, frames, scale, to) >>> bits - 1 != 0) clip(plane, frames, scale, to);
        leftJustify(to, frames);
    }

    private void leftJustify(int[] plane, int frames) {
        int unused = encoding.containerBits() - encoding.validBits();
        for (int i = 0; unused > 0 && i < frames; i++)
            plane[i] <<= unused;
    }

    /// @return all bits that are set in one of the amounts
    static int toSteps(double[] plane, int frames, double scale, int[] to) {
        int bits = 0;
        for (int i = 0; i < frames; i++) {
            int value = (int) Math.rint(plane[i] * scale);
            to[i] = value;
            bits |= value ^ value >> 31;
        }
        return bits;
    }

    private void clip(double[] plane, int frames, double scale, int[] to) {
        double highest = scale - 1, lowest = -scale;
        for (int i = 0; i < frames; i++) {
            double scaled = Math.rint(plane[i] * scale);
            if (scaled > highest || scaled < lowest) clippedSamples++;
            to[i] = (int) Math.clamp(scaled, lowest, highest);
        }
    }

    private static void pairs(int[] left, int[] right, int frames, byte[] packed) {
        for (int i = 0, at = 0; i < frames; i++, at += 6)
            LONGS.set(packed, at, left[i] & 0xFFFFFFL | (long) right[i] << 24);
    }

    private void store(int[] values, int from, int to, byte[] packed, int at, int step) {
        boolean big = encoding.order() == ByteOrder.BIG_ENDIAN;
        int zero = encoding.kind() == SampleEncoding.Kind.UNSIGNED ? 128 : 0, low = big ? 2 : 0, high = 2 - low;
        switch (encoding.containerBytes()) {
            case 1 -> {
                for (int i = from; i < to; i++, at += step)
                    packed[at] = (byte) (values[i] + zero);
            }
            case 2 -> {
                for (int i = from; i < to; i++, at += step)
                    SHORTS.set(packed, at, big ? Short.reverseBytes((short) values[i]) : (short) values[i]);
            }
            case 3 -> {
                for (int i = from; i < to; i++, at += step) {
                    packed[at + low] = (byte) values[i];
                    packed[at + 1] = (byte) (values[i] >> 8);
                    packed[at + high] = (byte) (values[i] >> 16);
                }
            }
            default -> {
                for (int i = from; i < to; i++, at += step)
                    INTS.set(packed, at, big ? Integer.reverseBytes(values[i]) : values[i]);
            }
        }
    }
}
