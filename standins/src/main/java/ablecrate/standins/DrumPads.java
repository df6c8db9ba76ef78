package ablecrate.standins;

import java.io.IOException;
import java.nio.file.Path;
import java.util.Set;

/// Nine pads, a folder for each kit; see `docs/devices/drum-pads.md`.
final class DrumPads implements Device {
    /// The note of pad 1; the others follow (common practice).
    private static final int FIRST_KEY = 36;
    private static final FolderCard.Rules RULES = new FolderCard.Rules("(?=.{4,12}$)(00[1-9]|0[1-9]\\d|100)[A-Z0-9_-]+", "(?=.{2,12}$)[1-9][A-Z0-9_-]+",
            "a kit begins with its number, 001 to 100, a pad with 1 to 9; up to 12 capitals, digits, _ and -", 9, 100, new CardCapacity(1_000_000_000, 32_768),
            new CardWave.Limits(Set.of(44_100), Set.of(16), 2, 60));

    @Override public String id() { return "drum-pads"; }

    @Override public String name() { return "Drum pad unit, 9 pads"; }

    @Override public Controls controls() { return Controls.PADS; }

    @Override public Loaded load(Path card) throws IOException {
        return new FolderCard(card, RULES, (stem, sound) -> {
            int key = FIRST_KEY + stem.charAt(0) - '1';
            return new Preset.Slot(key, key, 1, 127, key, 0, 0, 0, 0, 100, 0, sound.frames(), true, Preset.Loop.NONE, 0, Preset.Shape.PLAIN, sound);
        }).load();
    }
}
