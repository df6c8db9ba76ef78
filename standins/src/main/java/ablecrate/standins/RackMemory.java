package ablecrate.standins;

import ablecrate.standins.Device.Loaded;
import ablecrate.standins.Device.Refusal;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/// What a rack sampler has room for.
final class RackMemory {
    /// Words of memory.
    private static final long MEMORY = 2_097_152;
    private static final int SOUNDS = 100, FIRST_KEY = 24;

    /// @param from file, or name that it was given over the cable
    record Held(Path from, String name, SampleDump dump) {}

    private final Map<Integer, Held> byNumber = new TreeMap<>();

    Map<Integer, Held> sounds() { return byNumber; }

    private long words() { return byNumber.values().stream().mapToLong(h -> h.dump.frames()).sum(); }

    /// A sound of the same number makes room.
    void checkRoom(SampleDump.Header header) throws Refused {
        Held before = byNumber.get(header.number());
        if (before == null && byNumber.size() == SOUNDS) throw new Refused("more than " + SOUNDS + " sounds");
        long words = words() - (before == null ? 0 : before.dump.frames()) + header.length();
        if (words > MEMORY) throw new Refused("memory full: " + words + " of " + MEMORY + " words");
    }

    void put(Held sound) { byNumber.put(sound.dump.header().number(), sound); }

    /// Sounds in the order in which they lie on the keys.
    /// @param order numbers
    Loaded loaded(List<Integer> order, List<Refusal> refusals) {
        List<Preset.Slot> slots = new ArrayList<>();
        for (int number : order) {
            Held held = byNumber.get(number);
            Preset.Loop loop = held.dump.header().loop();
            int key = FIRST_KEY + slots.size();
            slots.add(new Preset.Slot(key, key, 1, 127, key, 0, 100, 0, 0, 100, 0, (int) held.dump.frames(), loop.end() == 0, loop, 0, Preset.Shape.PLAIN,
                    new CardWave(held.from, held.dump, 16, WaveFile.Own.NONE)));
        }
        return new Loaded(slots.isEmpty() ? List.of() : List.of(new Preset("Memory", Path.of(""), slots)), refusals, 2 * words(), 2 * MEMORY);
    }
}
