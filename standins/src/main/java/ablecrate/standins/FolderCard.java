package ablecrate.standins;

import ablecrate.standins.Device.Loaded;
import ablecrate.standins.Device.Refusal;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;

/// A card whose folders are presets. Files at its root are not looked at.
final class FolderCard {
    /// Makes a slot of a file, or says why not.
    interface Reader {
        Preset.Slot slot(String stem, CardWave sound) throws Refused;
    }

    /// @param folder pattern of a folder's name
    /// @param file pattern of a file's name without its extension
    /// @param names what both are, in words
    record Rules(String folder, String file, String names, int filesInFolder, int folders, CardCapacity capacity, CardWave.Limits sounds) {}

    private final Path card;
    private final Rules rules;
    private final Reader reader;
    private final List<Preset> presets = new ArrayList<>();
    private final List<Refusal> refusals = new ArrayList<>();
    private long bytes;

    FolderCard(Path card, Rules rules, Reader reader) {
        this.card = card;
        this.rules = rules;
        this.reader = reader;
    }

    Loaded load() throws IOException {
        rules.capacity().refusal(card).ifPresent(refusals::add);
        for (Path folder : sorted(card))
            if (Files.isDirectory(folder)) folder(folder);
        return new Loaded(presets, refusals, bytes, 0);
    }

    static List<Path> sorted(Path folder) throws IOException {
        try (Stream<Path> files = Files.list(folder)) {
            return files.sorted().toList();
        }
    }

    private void refuse(Path path, String reason) { refusals.add(new Refusal(card.relativize(path).toString().replace('\\', '/'), reason)); }

    private void folder(Path folder) throws IOException {
        String name = folder.getFileName().toString();
        if (!name.matches(rules.folder())) {
            refuse(folder, "folder name; " + rules.names());
            return;
        }
        if (presets.size() == rules.folders()) {
            refuse(folder, "more than " + rules.folders() + " folders");
            return;
        }
        List<Preset.Slot> slots = new ArrayList<>();
        for (Path file : sorted(folder)) {
            String fileName = file.getFileName().toString(), stem = fileName.replaceFirst("(?i)\\.wav$", "");
            try {
                if (Files.isDirectory(file)) throw new Refused("a folder inside of a folder");
                if (stem.equals(fileName)) throw new Refused("not a WAV file");
                if (!stem.matches(rules.file())) throw new Refused("file name; " + rules.names());
                if (slots.size() == rules.filesInFolder()) throw new Refused("more than " + rules.filesInFolder() + " files in a folder");
                CardWave sound = CardWave.read(file, rules.sounds());
                slots.add(reader.slot(stem, sound));
                bytes += sound.bytes();
            } catch (Refused e) {
                refuse(file, e.getMessage());
            }
        }
        presets.add(new Preset(name, card.relativize(folder), slots));
    }
}
