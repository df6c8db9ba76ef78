package ablecrate;

import static java.lang.foreign.ValueLayout.ADDRESS;
import static java.lang.foreign.ValueLayout.JAVA_DOUBLE;
import static java.lang.foreign.ValueLayout.JAVA_INT;
import static java.lang.foreign.ValueLayout.JAVA_LONG;

import java.lang.foreign.Arena;
import java.lang.foreign.MemorySegment;
import java.nio.file.Path;
import java.util.Optional;

/// libsndfile, where the system has it (Debian: `libsndfile1`): another reader to hold ours and our writers against.
public final class SndFile {
    private static final int READ = 0x10, INFO_BYTES = 32;

    private final NativeLibrary library;

    private SndFile(NativeLibrary library) { this.library = library; }

    public static Optional<SndFile> find() { return NativeLibrary.find("libsndfile.so.1").map(SndFile::new); }

    /// @return `[channel][frame]`
    public double[][] read(Path file) {
        try (Arena arena = Arena.ofConfined()) {
            MemorySegment info = arena.allocate(INFO_BYTES, 8);
            MemorySegment opened = (MemorySegment) library.call("sf_open", ADDRESS, arena.allocateFrom(file.toString()), READ, info);
            if (opened.address() == 0) throw new AssertionError("libsndfile does not open " + file);
            int frames = Math.toIntExact(info.get(JAVA_LONG, 0)), channels = info.get(JAVA_INT, 12);
            MemorySegment samples = arena.allocate(JAVA_DOUBLE, (long) frames * channels);
            int got = Math.toIntExact((long) library.call("sf_readf_double", JAVA_LONG, opened, samples, (long) frames));
            library.call("sf_close", JAVA_INT, opened);
            double[][] planes = new double[channels][got];
            for (int i = 0; i < got; i++)
                for (int channel = 0; channel < channels; channel++)
                    planes[channel][i] = samples.getAtIndex(JAVA_DOUBLE, (long) i * channels + channel);
            return planes;
        }
    }
}
