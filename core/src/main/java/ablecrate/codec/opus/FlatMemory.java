package ablecrate.codec.opus;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;
import java.util.Arrays;
import run.endive.runtime.ConstantEvaluators;
import run.endive.runtime.Instance;
import run.endive.runtime.Memory;
import run.endive.wasm.types.ActiveDataSegment;
import run.endive.wasm.types.DataSegment;
import run.endive.wasm.types.MemoryLimits;

/// The memory of a module as one array, of a size that stays, for one thread. The library's own is made of pages, and finding the page takes a quarter of all decoding.
@SuppressWarnings("removal") // Waiting for other threads: the interface asks for it still.
final class FlatMemory implements Memory {
    private static final VarHandle SHORTS = view(short[].class), INTS = view(int[].class), LONGS = view(long[].class), FLOATS = view(float[].class),
            DOUBLES = view(double[].class);

    private final MemoryLimits limits;
    private final byte[] bytes;
    private DataSegment[] segments = {};

    FlatMemory(MemoryLimits limits) {
        this.limits = limits;
        bytes = new byte[Memory.bytes(limits.initialPages())];
    }

    private static VarHandle view(Class<?> arrays) { return MethodHandles.byteArrayViewVarHandle(arrays, ByteOrder.LITTLE_ENDIAN); }

    @Override public int pages() { return limits.initialPages(); }

    /// Refused.
    @Override public int grow(int pages) { return -1; }

    @Override public int initialPages() { return limits.initialPages(); }

    @Override public int maximumPages() { return limits.maximumPages(); }

    @Override public boolean shared() { return false; }

    @Override public Object lock(int at) { return bytes; }

    @Override public int waitOn(int at, int expected, long nanos) { throw new UnsupportedOperationException("no other thread"); }

    @Override public int waitOn(int at, long expected, long nanos) { throw new UnsupportedOperationException("no other thread"); }

    @Override public int notify(int at, int threads) { return 0; }

    @Override public void initialize(Instance instance, DataSegment[] data) {
        segments = data.clone();
        for (DataSegment segment : data)
            if (segment instanceof ActiveDataSegment active)
                write((int) ConstantEvaluators.computeConstantValue(instance, active.offsetInstructions())[0], active.data(), 0, active.data().length);
    }

    @Override public void initPassiveSegment(int segment, int to, int from, int count) { write(to, segments[segment].data(), from, count); }

    @Override public void drop(int segment) { segments[segment] = null; }

    @Override public void zero() { Arrays.fill(bytes, (byte) 0); }

    @Override public void fill(byte value, int from, int to) { Arrays.fill(bytes, from, to, value); }

    @Override public void write(int at, byte[] from, int offset, int count) { System.arraycopy(from, offset, bytes, at, count); }

    @Override public void copy(int to, int from, int count) { System.arraycopy(bytes, from, bytes, to, count); }

    @Override public byte[] readBytes(int at, int count) { return Arrays.copyOfRange(bytes, at, at + count); }

    @Override public byte read(int at) { return bytes[at]; }

    @Override public void writeByte(int at, byte value) { bytes[at] = value; }

    @Override public short readShort(int at) { return (short) SHORTS.get(bytes, at); }

    @Override public long readU16(int at) { return readShort(at) & 0xFFFF; }

    @Override public void writeShort(int at, short value) { SHORTS.set(bytes, at, value); }

    @Override public int readInt(int at) { return (int) INTS.get(bytes, at); }

    @Override public void writeI32(int at, int value) { INTS.set(bytes, at, value); }

    @Override public long readLong(int at) { return (long) LONGS.get(bytes, at); }

    @Override public void writeLong(int at, long value) { LONGS.set(bytes, at, value); }

    @Override public float readFloat(int at) { return (float) FLOATS.get(bytes, at); }

    @Override public long readF32(int at) { return readInt(at); }

    @Override public void writeF32(int at, float value) { FLOATS.set(bytes, at, value); }

    @Override public double readDouble(int at) { return (double) DOUBLES.get(bytes, at); }

    @Override public long readF64(int at) { return readLong(at); }

    @Override public void writeF64(int at, double value) { DOUBLES.set(bytes, at, value); }
}
