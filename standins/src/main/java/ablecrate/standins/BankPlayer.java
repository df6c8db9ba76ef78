package ablecrate.standins;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/// Plays SoundFont 2 banks from memory, one at a time; see `docs/devices/bank-player.md`.
final class BankPlayer implements Device {
    private static final long MEMORY = 8_000_000;
    private static final int PRESETS = 128;

    @Override public String id() { return "bank-player"; }

    @Override public String name() { return "Bank player, SoundFont 2"; }

    @Override public Controls controls() { return Controls.KEYS; }

    @Override public Loaded load(Path card) throws IOException {
        List<Preset> presets = new ArrayList<>();
        List<Refusal> refusals = new ArrayList<>();
        long most = 0;
        for (Path file : FolderCard.sorted(card)) {
            String name = file.getFileName().toString();
            if (!name.matches("(?i).*\\.sf2")) continue;
            try {
                BankFile bank = BankFile.read(file, MEMORY);
                List<Preset> inIt = bank.presets(card.relativize(file));
                if (inIt.size() > PRESETS) throw new Refused(inIt.size() + " presets; has room for " + PRESETS);
                presets.addAll(inIt);
                most = Math.max(most, bank.sampleBytes());
            } catch (Refused e) {
                refusals.add(new Refusal(name, e.getMessage()));
            }
        }
        return new Loaded(presets, refusals, most, MEMORY);
    }
}
