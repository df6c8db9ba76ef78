package ablecrate.codec.opus;

import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.FloatBuffer;
import java.util.List;
import java.util.stream.IntStream;
import run.endive.runtime.ExportFunction;
import run.endive.runtime.HostFunction;
import run.endive.runtime.ImportValues;
import run.endive.runtime.Instance;
import run.endive.runtime.Memory;
import run.endive.wasm.types.FunctionType;
import run.endive.wasm.types.ValType;

/// libopus' decoder in floating point, which the build makes classes of (`core/src/main/opus`). One per sound; not for two threads.
///
/// It was chosen over the one written in Java, whose integers add up to an error of −86 dBFS against the native library; this one's is that of a float.
/// It is several times slower, see `docs/speed.md`.
public final class OpusDecoder {
    /// Whatever a sound was made at, it is decoded at this rate (RFC 7845, section 4.2).
    public static final int RATE_HZ = 48_000;
    /// The longest packet, 120 ms at 48 kHz.
    private static final int LONGEST_FRAMES = 5760;
    /// 48 frames of 1275 bytes and their lengths (RFC 6716, section 3.2).
    private static final int LARGEST_PACKET = 1 << 16;
    private static final ValType INT = ValType.I32;
    /// What the module asks of its surroundings. Memory is of one size; files are never used.
    private static final ImportValues SURROUNDINGS = ImportValues.builder().addFunction( //
            asked("a", List.of(INT, INT, INT, INT), true), // write to a file
            asked("b", List.of(INT, INT, INT, INT, INT), true), // seek in one
            asked("c", List.of(), false), // abort
            asked("d", List.of(INT), true), // close a file
            new HostFunction("a", "e", FunctionType.of(List.of(INT, INT, INT), List.of(INT)), (instance, a) -> {
                instance.memory().copy((int) a[0], (int) a[1], (int) a[2]);
                return new long[]{a[0]};
            }), //
            new HostFunction("a", "f", FunctionType.of(List.of(INT), List.of(INT)), (_, _) -> new long[]{0}) // grow: refused
    ).build();

    /// One coded stream.
    /// @param channels 1, or 2 for a coupled pair
    private record Stream(int state, int channels) {}

    /// `OPUS_RESET_STATE` of libopus' `opus_defines.h`.
    private static final int RESET = 4028;

    private final Memory memory;
    private final ExportFunction decode, control;
    private final List<Stream> streams;
    private final int packetAt, outputAt;

    /// @param streams how many streams each packet holds
    /// @param coupled how many of them, the first ones, have two channels
    public OpusDecoder(int streams, int coupled) {
        Instance instance = Instance.builder(LibOpus.load()).withMachineFactory(LibOpus::create).withMemoryFactory(FlatMemory::new)
                .withImportValues(SURROUNDINGS).build();
        memory = instance.memory();
        instance.export("h").apply(); // constructors
        ExportFunction allocate = instance.export("p"), create = instance.export("i");
        decode = instance.export("j");
        control = instance.export("k");
        int fault = (int) allocate.apply(Integer.BYTES)[0];
        packetAt = (int) allocate.apply(LARGEST_PACKET)[0];
        outputAt = (int) allocate.apply((long) LONGEST_FRAMES * 2 * Float.BYTES)[0];
        this.streams = IntStream.range(0, streams).mapToObj(i -> {
            int channels = i < coupled ? 2 : 1, state = (int) create.apply(RATE_HZ, channels, fault)[0];
            if (state == 0) throw new IllegalArgumentException(streams + " streams of Opus are more than there is room for");
            return new Stream(state, channels);
        }).toList();
    }

    /// The next packet does not follow the one before.
    public void reset() { streams.forEach(s -> control.apply(s.state(), RESET, 0)); }

    /// Decodes one packet.
    /// @return channel after channel in the order of the streams, as many floats each; nothing if the packet cannot be decoded
    /// @throws RuntimeException if the packet makes the decoder stumble; it is then of no more use
    public float[][] decode(byte[] packet) {
        int channels = streams.stream().mapToInt(Stream::channels).sum(), next = 0;
        float[][] planes = new float[channels][];
        OpusPackets parts = new OpusPackets(packet);
        for (int i = 0; i < streams.size(); i++) {
            byte[] part = i < streams.size() - 1 ? parts.delimited() : parts.rest();
            if (part.length == 0 || part.length > LARGEST_PACKET) return new float[0][];
            memory.write(packetAt, part, 0, part.length);
            int n = streams.get(i).channels(), frames = (int) decode.apply(streams.get(i).state(), packetAt, part.length, outputAt, LONGEST_FRAMES, 0)[0];
            // All streams of a packet are equally long (RFC 7845, section 3).
            if (frames <= 0 || i > 0 && frames != planes[0].length) return new float[0][];
            FloatBuffer samples = ByteBuffer.wrap(memory.readBytes(outputAt, frames * n * Float.BYTES)).order(ByteOrder.LITTLE_ENDIAN).asFloatBuffer();
            for (int channel = 0; channel < n; channel++) {
                float[] plane = planes[next++] = new float[frames];
                for (int frame = 0; frame < frames; frame++)
                    plane[frame] = samples.get(frame * n + channel);
            }
        }
        return planes;
    }

    private static HostFunction asked(String name, List<ValType> parameters, boolean answers) {
        return new HostFunction("a", name, FunctionType.of(parameters, answers ? List.of(INT) : List.of()), (_, _) -> {
            throw new IllegalStateException("the Opus decoder gave up");
        });
    }
}
