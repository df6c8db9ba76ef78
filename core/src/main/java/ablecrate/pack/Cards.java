package ablecrate.pack;

import ablecrate.destination.DestinationSheet;
import ablecrate.destination.NamePattern.Word;
import ablecrate.destination.NamePattern;
import ablecrate.plan.Card;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/// Looks at a folder that is to be packed into: which kits are there, and which of them hold results of which sources.
public final class Cards {
    private Cards() {}

    /// @param folder that need not be there
    public static Card of(Path folder, DestinationSheet sheet) throws IOException {
        if (sheet.layout().folder().isEmpty() || !Files.isDirectory(folder)) return Card.EMPTY;
        NamePattern folders = NamePattern.parse(sheet.layout().folder()), names = NamePattern.parse(sheet.names().pattern());
        if (!folders.uses(Word.KIT)) return Card.EMPTY;
        Set<Integer> kits = new HashSet<>();
        try (Stream<Path> inside = Files.list(folder)) {
            for (Path path : inside.filter(Files::isDirectory).toList())
                number(folders.read(path.getFileName().toString()), Word.KIT).ifPresent(kits::add);
        }
        Map<Path, List<Card.Place>> places = new HashMap<>();
        for (PackingSlip.Item item : PackedBefore.of(folder).slip().map(PackingSlip::items).orElse(List.of())) {
            List<Card.Place> all = new ArrayList<>();
            for (PackingSlip.Output output : item.outputs())
                place(folder, output.path(), folders, names).ifPresent(all::add);
            if (!all.isEmpty() && all.size() == item.outputs().size()) places.put(Path.of(item.source()), all);
        }
        return new Card(kits, places);
    }

    private static Optional<Card.Place> place(Path folder, String path, NamePattern folders, NamePattern names) {
        String[] parts = path.split("/");
        if (parts.length < 2 || !Files.exists(folder.resolve(path))) return Optional.empty();
        Optional<Map<Word, String>> inFolder = folders.read(parts[0]);
        String name = parts[parts.length - 1], stem = name.contains(".") ? name.substring(0, name.lastIndexOf('.')) : name;
        return number(inFolder, Word.KIT).map(kit -> new Card.Place(kit, inFolder.get().getOrDefault(Word.FOLDER, ""),
                number(names.read(stem), Word.PAD).orElse(0)));
    }

    private static Optional<Integer> number(Optional<Map<Word, String>> values, Word word) {
        return values.map(v -> v.get(word)).filter(n -> n.length() < 9).map(Integer::valueOf);
    }
}
