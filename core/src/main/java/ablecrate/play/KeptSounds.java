package ablecrate.play;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.function.IntFunction;

/// Sounds that are read when they are wanted and kept for as long as there is room: an instrument may have more of them than memory. Safe for threads.
public final class KeptSounds {
    /// Of the memory that there is.
    private static final int SHARE = 4;

    /// Reads a sound.
    public interface Reader {
        LoadedSound read() throws IOException;
    }

    /// @param owner whose numbers they are
    private record Numbered(Object owner, int number) {}

    private final long mostBytes;
    /// The one that was wanted last is the last.
    private final Map<Object, LoadedSound> kept = new LinkedHashMap<>(16, 0.75f, true);
    private long bytes;

    public KeptSounds() { this(Runtime.getRuntime().maxMemory() / SHARE); }

    KeptSounds(long mostBytes) { this.mostBytes = mostBytes; }

    /// Sounds by number, as these readers have them.
    /// @return throws [UncheckedIOException] where one cannot be read
    public Voices.Sounds of(IntFunction<Optional<Reader>> readers) {
        Object owner = new Object();
        return number -> readers.apply(number).map(reader -> {
            try {
                return get(new Numbered(owner, number), reader);
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        });
    }

    /// @param key that it is known by
    public LoadedSound get(Object key, Reader reader) throws IOException {
        Optional<LoadedSound> known = find(key);
        return known.isPresent() ? known.get() : keep(key, reader.read());
    }

    private synchronized Optional<LoadedSound> find(Object key) { return Optional.ofNullable(kept.get(key)); }

    private synchronized LoadedSound keep(Object key, LoadedSound sound) {
        if (sound.bytes() > mostBytes) return sound;
        LoadedSound other = kept.put(key, sound);
        bytes += sound.bytes() - (other == null ? 0 : other.bytes());
        Iterator<LoadedSound> oldest = kept.values().iterator();
        while (bytes > mostBytes && oldest.hasNext()) {
            bytes -= oldest.next().bytes();
            oldest.remove();
        }
        return sound;
    }
}
