package ablecrate.standins;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/// A small memory and a row of sounds, one a key; see `docs/devices/pocket-sampler.md`.
final class PocketSampler implements Device {
    private static final int SOUNDS = 99, FIRST_KEY = 24;
    private static final long MEMORY = 2_000_000;
    private static final String NAMES = "[A-Z0-9_]{1,8}";
    private static final CardWave.Limits WAVES = new CardWave.Limits(Set.of(22_050, 44_100), Set.of(16), 1, 0);

    @Override public String id() { return "pocket-sampler"; }

    @Override public String name() { return "Pocket sampler, 2 MB"; }

    @Override public Controls controls() { return Controls.KEYS; }

    @Override public Loaded load(Path card) throws IOException {
        List<Preset.Slot> slots = new ArrayList<>();
        List<Refusal> refusals = new ArrayList<>();
        long bytes = 0;
        for (Path file : FolderCard.sorted(card)) {
            String name = file.getFileName().toString(), stem = name.replaceFirst("(?i)\\.wav$", "");
            try {
                if (Files.isDirectory(file)) throw new Refused("a folder; sounds lie side by side");
                // Texts that a computer leaves are not looked at.
                if (stem.equals(name)) continue;
                if (!stem.matches(NAMES)) throw new Refused("file name; up to 8 capitals, digits and _");
                if (slots.size() == SOUNDS) throw new Refused("more than " + SOUNDS + " sounds");
                CardWave sound = CardWave.read(file, WAVES);
                if (bytes + sound.bytes() > MEMORY) throw new Refused("memory full: " + (bytes + sound.bytes()) + " of " + MEMORY + " bytes");
                Preset.Loop loop = sound.loop(false);
                int key = FIRST_KEY + slots.size();
                slots.add(new Preset.Slot(key, key, 1, 127, key, 0, 100, 0, 0, 100, 0, sound.frames(), loop.end() == 0, loop, 0, Preset.Shape.PLAIN, sound));
                bytes += sound.bytes();
            } catch (Refused e) {
                refusals.add(new Refusal(name, e.getMessage()));
            }
        }
        return new Loaded(slots.isEmpty() ? List.of() : List.of(new Preset("Memory", Path.of(""), slots)), refusals, bytes, MEMORY);
    }
}
