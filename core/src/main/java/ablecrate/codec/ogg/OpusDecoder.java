package ablecrate.codec.ogg;

import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.FloatBuffer;
import java.util.List;
import run.endive.runtime.ExportFunction;
import run.endive.runtime.HostFunction;
import run.endive.runtime.ImportValues;
import run.endive.runtime.Instance;
import run.endive.runtime.Memory;
import run.endive.wasm.types.FunctionType;
import run.endive.wasm.types.ValType;
import run.endive.wasm.types.Value;

/// libopus' decoder in floating point, which the build makes classes of (`core/src/main/wasm`). One per stream; not for two threads.
///
/// It was chosen over the one written in Java, whose integers add up to an error of −86 dBFS; this one stays with the native library's output to the last bits of a float.
final class OpusDecoder {
    /// The longest packet, 120 ms at 48 kHz.
    static final int LONGEST_FRAMES = 5760;

    private static final int FLOAT_BYTES = Float.BYTES;
    /// A packet holds at most 48 frames of 1275 bytes for each stream (RFC 6716, section 3.2); with 255 streams none in use comes near this.
    private static final int LARGEST_PACKET = 1 << 18;
    /// What the module asks of its surroundings. Memory is of one size, and timers are never set.
    private static final ImportValues SURROUNDINGS = ImportValues.builder().addFunction( //
            asked("a", List.of(ValType.F64), List.of(ValType.F64), arguments -> Value.doubleToLong(Math.cos(Value.longToDouble(arguments[0])))), // cosine
            asked("b", List.of(ValType.I32), List.of(), arguments -> stop()), // exit
            asked("c", List.of(), List.of(), arguments -> 0), // keep the runtime no longer
            asked("d", List.of(), List.of(), arguments -> stop()), // abort
            asked("e", List.of(ValType.I32, ValType.F64), List.of(ValType.I32), arguments -> 0), // set a timer
            asked("f", List.of(ValType.I32), List.of(ValType.I32), arguments -> 0) // grow: refused
    ).build();

    private final Memory memory;
    private final ExportFunction decode;
    private final int channels;
    private final int state, packetAt, outputAt;

    /// @param mapping channel of the streams for each of ours, 255 for silence
    /// @throws IllegalArgumentException if there is no such arrangement of streams
    OpusDecoder(int channels, int streams, int coupled, byte[] mapping) {
        this.channels = channels;
        Instance instance = Instance.builder(LibOpus.load()).withMachineFactory(LibOpus::create).withImportValues(SURROUNDINGS).build();
        memory = instance.memory();
        instance.export("h").apply(); // constructors
        ExportFunction allocate = instance.export("j");
        decode = instance.export("k");
        packetAt = (int) allocate.apply(LARGEST_PACKET)[0];
        outputAt = (int) allocate.apply((long) LONGEST_FRAMES * channels * FLOAT_BYTES)[0];
        int mappingAt = (int) allocate.apply(mapping.length)[0];
        if (packetAt == 0 || outputAt == 0 || mappingAt == 0) throw new IllegalStateException("no memory for Opus of " + channels + " channels");
        memory.write(mappingAt, mapping, 0, mapping.length);
        // No frames are left out at the start, and mono stays mono.
        state = (int) instance.export("i").apply(OpusCodec.RATE_HZ, channels, streams, coupled, mappingAt, 0, 0)[0];
        if (state == 0) throw new IllegalArgumentException("Opus of " + channels + " channels in " + streams + " streams");
    }

    /// Decodes one packet.
    /// @return channel after channel, as many floats each; nothing if the packet cannot be decoded
    /// @throws RuntimeException if the packet makes the decoder stumble; it is then of no more use
    FloatBuffer decode(byte[] packet) {
        if (packet.length == 0 || packet.length > LARGEST_PACKET) return FloatBuffer.allocate(0);
        memory.write(packetAt, packet, 0, packet.length);
        int frames = (int) decode.apply(state, packetAt, packet.length, outputAt)[0];
        return ByteBuffer.wrap(memory.readBytes(outputAt, Math.max(0, frames) * channels * FLOAT_BYTES)).order(ByteOrder.LITTLE_ENDIAN).asFloatBuffer();
    }

    private interface Answer {
        long to(long[] arguments);
    }

    private static HostFunction asked(String name, List<ValType> parameters, List<ValType> results, Answer answer) {
        return new HostFunction("a", name, FunctionType.of(parameters, results), (instance, arguments) -> {
            long result = answer.to(arguments);
            return results.isEmpty() ? new long[0] : new long[]{result};
        });
    }

    private static long stop() { throw new IllegalStateException("the Opus decoder gave up"); }
}
