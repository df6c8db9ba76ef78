package ablecrate;

import static java.lang.foreign.ValueLayout.ADDRESS;
import static java.lang.foreign.ValueLayout.JAVA_DOUBLE;
import static java.lang.foreign.ValueLayout.JAVA_INT;
import static java.lang.foreign.ValueLayout.JAVA_LONG;

import java.lang.foreign.Arena;
import java.lang.foreign.FunctionDescriptor;
import java.lang.foreign.Linker;
import java.lang.foreign.MemoryLayout;
import java.lang.foreign.MemorySegment;
import java.lang.foreign.SymbolLookup;
import java.nio.file.Path;
import java.util.Optional;

/// libsndfile, where the system has it (Debian: `libsndfile1`): another reader to hold ours and our writers against.
@SuppressWarnings("restricted") public final class SndFile {
    private static final int READ = 0x10, INFO_BYTES = 32;

    private final SymbolLookup library;
    private final Linker linker = Linker.nativeLinker();

    private SndFile(SymbolLookup library) { this.library = library; }

    public static Optional<SndFile> find() {
        try {
            return Optional.of(new SndFile(SymbolLookup.libraryLookup("libsndfile.so.1", Arena.global())));
        } catch (IllegalArgumentException e) {
            return Optional.empty();
        }
    }

    private Object call(String name, MemoryLayout result, Object... arguments) {
        MemoryLayout[] layouts = new MemoryLayout[arguments.length];
        for (int i = 0; i < arguments.length; i++)
            layouts[i] = arguments[i] instanceof Integer ? JAVA_INT : arguments[i] instanceof Long ? JAVA_LONG : ADDRESS;
        try {
            return linker.downcallHandle(library.find(name).orElseThrow(), FunctionDescriptor.of(result, layouts)).invokeWithArguments(arguments);
        } catch (Throwable e) {
            throw new AssertionError(name, e);
        }
    }

    /// @return `[channel][frame]`
    public double[][] read(Path file) {
        try (Arena arena = Arena.ofConfined()) {
            MemorySegment info = arena.allocate(INFO_BYTES, 8);
            MemorySegment opened = (MemorySegment) call("sf_open", ADDRESS, arena.allocateFrom(file.toString()), READ, info);
            if (opened.address() == 0) throw new AssertionError("libsndfile does not open " + file);
            int frames = Math.toIntExact(info.get(JAVA_LONG, 0)), channels = info.get(JAVA_INT, 12);
            MemorySegment samples = arena.allocate(JAVA_DOUBLE, (long) frames * channels);
            int got = Math.toIntExact((long) call("sf_readf_double", JAVA_LONG, opened, samples, (long) frames));
            call("sf_close", JAVA_INT, opened);
            double[][] planes = new double[channels][got];
            for (int i = 0; i < got; i++)
                for (int channel = 0; channel < channels; channel++)
                    planes[channel][i] = samples.getAtIndex(JAVA_DOUBLE, (long) i * channels + channel);
            return planes;
        }
    }
}
