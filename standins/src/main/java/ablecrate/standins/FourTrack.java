package ablecrate.standins;

import java.io.IOException;
import java.nio.file.Path;
import java.util.Set;

/// A recorder with mono tracks, a folder for each song; see `docs/devices/four-track.md`. Its tracks are not played by notes.
final class FourTrack implements Device {
    private static final FolderCard.Rules RULES = new FolderCard.Rules("[A-Z0-9_]{1,8}", "[A-Z0-9_]{1,8}",
            "songs and tracks have up to 8 capitals, digits and _", Integer.MAX_VALUE, Integer.MAX_VALUE, new CardCapacity(128_000_000, 16_384),
            new CardWave.Limits(Set.of(44_100), Set.of(16), 1, 0));

    @Override public String id() { return "four-track"; }

    @Override public String name() { return "Four-track recorder"; }

    @Override public Controls controls() { return Controls.TRACKS; }

    @Override public Loaded load(Path card) throws IOException {
        return new FolderCard(card, RULES, (_, sound) -> new Preset.Slot(0, 127, 1, 127, 60, 0, 0, 0, 0, 0, 0, sound.frames(), true, Preset.Loop.NONE, 0,
                Preset.Shape.PLAIN, sound)).load();
    }
}
