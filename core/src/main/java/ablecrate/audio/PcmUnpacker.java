package ablecrate.audio;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;
import java.util.Objects;

/// Turns stored samples into numbers in [-1, 1). Exact: no value is rounded.
public final class PcmUnpacker {
    // Little-endian; the other order turns the bytes. As fields of an instance they would not be constants to the compiler, and 4 times as slow.
    static final VarHandle SHORTS = MethodHandles.byteArrayViewVarHandle(short[].class, ByteOrder.LITTLE_ENDIAN),
            INTS = MethodHandles.byteArrayViewVarHandle(int[].class, ByteOrder.LITTLE_ENDIAN),
            LONGS = MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.LITTLE_ENDIAN);

    private final SampleEncoding encoding;

    public PcmUnpacker(SampleEncoding encoding) { this.encoding = encoding; }

    /// @param packed interleaved, container bytes × channels × frames
    /// @param frames how many frames (not samples) to unpack
    /// @param planes `[channel][frame]`; receives values from index `at` on, 1.0 is 0 dBFS
    /// @throws IndexOutOfBoundsException if `packed` is too short; planes are then untouched
    public void unpack(byte[] packed, int frames, double[][] planes, int at) {
        int frameBytes = encoding.containerBytes() * planes.length;
        Objects.checkFromIndexSize(0, Math.multiplyExact(frames, frameBytes), packed.length);
        boolean isPair = planes.length == 2 && encoding.kind() == SampleEncoding.Kind.SIGNED && encoding.containerBytes() == 2
                && encoding.order() == ByteOrder.LITTLE_ENDIAN;
        boolean isDeepPair = planes.length == 2 && encoding.kind() == SampleEncoding.Kind.SIGNED && encoding.containerBytes() == 3
                && encoding.order() == ByteOrder.LITTLE_ENDIAN;
        if (isPair)
            pairs(packed, planes[0], planes[1], at, frames);
        else
            if (isDeepPair)
                deepPairs(packed, planes[0], planes[1], at, frames);
            else
                for (int channel = 0; channel < planes.length; channel++)
                    unpackChannel(packed, channel * encoding.containerBytes(), frameBytes, planes[channel], at, at + frames);
    }

    /// What most files are; a frame at a time is twice as fast.
    private static void pairs(byte[] packed, double[] left, double[] right, int at, int frames) {
        for (int i = 0; i < frames; i++) {
            int frame = (int) INTS.get(packed, 4 * i);
            left[at + i] = (short) frame * 0x1p-15;
            right[at + i] = (frame >> 16) * 0x1p-15;
        }
    }

    /// A frame of six bytes is read as eight; the last, behind which there are none, byte by byte.
    private static void deepPairs(byte[] packed, double[] left, double[] right, int at, int frames) {
        int last = Math.max(0, frames - 1), lastByte = 6 * last;
        for (int i = 0; i < last; i++) {
            long frame = (long) LONGS.get(packed, 6 * i);
            left[at + i] = ((int) (frame << 8) >> 8) * 0x1p-23;
            right[at + i] = ((int) (frame >> 16) >> 8) * 0x1p-23;
        }
        for (int i = last; i < frames; i++, lastByte += 6) {
            left[at + i] = (packed[lastByte] & 0xFF | (packed[lastByte + 1] & 0xFF) << 8 | packed[lastByte + 2] << 16) * 0x1p-23;
            right[at + i] = (packed[lastByte + 3] & 0xFF | (packed[lastByte + 4] & 0xFF) << 8 | packed[lastByte + 5] << 16) * 0x1p-23;
        }
    }

    /// Whether stored samples are whole steps of their depth that [#unpackSteps] knows.
    boolean hasSteps() {
        return encoding.kind() == SampleEncoding.Kind.SIGNED && encoding.containerBytes() > 1 && encoding.depth().bits() == encoding.containerBits();
    }

    /// As [#unpack], but as whole steps, each 2^(1 − bits) of full scale.
    void unpackSteps(byte[] packed, int frames, int[][] planes) {
        int bytes = encoding.containerBytes(), frameBytes = bytes * planes.length;
        Objects.checkFromIndexSize(0, Math.multiplyExact(frames, frameBytes), packed.length);
        boolean isDeepPair = planes.length == 2 && bytes == 3 && encoding.order() == ByteOrder.LITTLE_ENDIAN && frames > 0;
        // A frame of six bytes is read as eight; the last has none behind it.
        int paired = isDeepPair ? frames - 1 : 0;
        deepPairs(packed, planes[0], planes[planes.length - 1], paired);
        for (int channel = 0; channel < planes.length; channel++)
            steps(packed, channel * bytes + paired * frameBytes, frameBytes, planes[channel], paired, frames);
    }

    private static void deepPairs(byte[] packed, int[] left, int[] right, int frames) {
        for (int i = 0; i < frames; i++) {
            long frame = (long) LONGS.get(packed, 6 * i);
            left[i] = (int) (frame << 8) >> 8;
            right[i] = (int) (frame >> 16) >> 8;
        }
    }

    private void steps(byte[] packed, int at, int step, int[] plane, int from, int to) {
        boolean big = encoding.order() == ByteOrder.BIG_ENDIAN;
        int low = big ? 2 : 0, high = 2 - low;
        switch (encoding.containerBytes()) {
            case 2 -> {
                for (int i = from; i < to; i++, at += step)
                    plane[i] = big ? Short.reverseBytes((short) SHORTS.get(packed, at)) : (short) SHORTS.get(packed, at);
            }
            case 3 -> {
                for (int i = from; i < to; i++, at += step)
                    plane[i] = packed[at + low] & 0xFF | (packed[at + 1] & 0xFF) << 8 | packed[at + high] << 16;
            }
            default -> {
                for (int i = from; i < to; i++, at += step)
                    plane[i] = big ? Integer.reverseBytes((int) INTS.get(packed, at)) : (int) INTS.get(packed, at);
            }
        }
    }

    private void unpackChannel(byte[] packed, int at, int step, double[] plane, int from, int to) {
        boolean big = encoding.order() == ByteOrder.BIG_ENDIAN;
        switch (encoding.kind()) {
            case UNSIGNED -> {
                for (int i = from; i < to; i++, at += step)
                    plane[i] = ((packed[at] & 0xFF) - 128) * 0x1p-7;
            }
            case FLOAT -> {
                if (encoding.containerBytes() == 4)
                    for (int i = from; i < to; i++, at += step)
                        plane[i] = Float.intBitsToFloat(big ? Integer.reverseBytes((int) INTS.get(packed, at)) : (int) INTS.get(packed, at));
                else
                    for (int i = from; i < to; i++, at += step)
                        plane[i] = Double.longBitsToDouble(big ? Long.reverseBytes((long) LONGS.get(packed, at)) : (long) LONGS.get(packed, at));
            }
            case SIGNED -> {
                switch (encoding.containerBytes()) {
                    case 1 -> {
                        for (int i = from; i < to; i++, at += step)
                            plane[i] = packed[at] * 0x1p-7;
                    }
                    case 2 -> {
                        if (big)
                            for (int i = from; i < to; i++, at += step)
                                plane[i] = Short.reverseBytes((short) SHORTS.get(packed, at)) * 0x1p-15;
                        else
                            for (int i = from; i < to; i++, at += step)
                                plane[i] = (short) SHORTS.get(packed, at) * 0x1p-15;
                    }
                    case 3 -> {
                        int low = big ? 2 : 0, high = 2 - low;
                        // Built in the top 24 bits of the int, so the sign comes right without a branch.
                        for (int i = from; i < to; i++, at += step)
                            plane[i] = ((packed[at + low] & 0xFF) << 8 | (packed[at + 1] & 0xFF) << 16 | packed[at + high] << 24) * 0x1p-31;
                    }
                    case 4 -> {
                        for (int i = from; i < to; i++, at += step)
                            plane[i] = (big ? Integer.reverseBytes((int) INTS.get(packed, at)) : (int) INTS.get(packed, at)) * 0x1p-31;
                    }
                    default -> throw new AssertionError(encoding);
                }
            }
        }
    }
}
