package ablecrate.library;

import ablecrate.audio.SeekableSource;
import ablecrate.codec.SoundFile;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/// Any sound file, read at any of its frames. Read from front to end it is decoded once. Not for several threads at a time.
public final class FrameReader {
    private final SoundFile file;
    /// What was read last, and where the stream stands behind it.
    private double[][] held = new double[0][0];
    private long heldFrom, position;
    private Optional<SeekableSource> source = Optional.empty();

    public FrameReader(SoundFile file) { this.file = file; }

    /// @return nothing where no sound is there that could be read
    public static Optional<FrameReader> open(Path path) throws IOException {
        if (!Files.isRegularFile(path)) return Optional.empty();
        return Gatherer.readAll(Gatherer.find(List.of(path), () -> false)).getFirst().sound().map(FrameReader::new);
    }

    public SoundFile file() { return file; }

    /// @return `[channel][frame]`; silence behind the end
    public double[][] read(long from, int count) throws IOException {
        double[][] planes = new double[file.channels()][count];
        if (from >= file.frames()) return planes;
        if (source.isEmpty()) source = Optional.of(file.open());
        int known = from >= heldFrom && from < position ? (int) Math.min(count, position - from) : 0;
        for (int channel = 0; channel < planes.length && known > 0; channel++)
            System.arraycopy(held[channel], (int) (from - heldFrom), planes[channel], 0, known);
        if (known < count) {
            if (position != from + known) source.get().seek(from + known);
            position = from + known + source.get().readFully(planes, known, count - known);
            held = planes;
            heldFrom = from;
            if (position >= file.frames()) close();
        }
        return planes;
    }

    private void close() throws IOException {
        source.get().close();
        source = Optional.empty();
        position = heldFrom;
    }
}
