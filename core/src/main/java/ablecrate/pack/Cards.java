package ablecrate.pack;

import ablecrate.destination.CardRules;
import ablecrate.destination.DestinationSheet;
import ablecrate.destination.NamePattern.Word;
import ablecrate.destination.NamePattern;
import ablecrate.json.Json;
import ablecrate.plan.Card;
import ablecrate.session.SessionDocument;
import ablecrate.session.Sessions;
import java.io.IOException;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/// Looks at a folder that is to be packed into: which kits are there, and which of them hold results of which sources.
public final class Cards {
    /// Of folders below a session's or a card's that are looked into.
    private static final int DEPTH = 16;
    /// A folder that holds more is no card.
    private static final int MOST_FILES = 100_000;

    private Cards() {}

    /// @param folder that need not be there
    /// @throws Json.JsonFault if it holds the document of a session that cannot be read
    public static Card of(Path folder, DestinationSheet sheet) throws IOException, Json.JsonFault {
        Card card = kits(folder, sheet);
        return sheet.card().equals(CardRules.NONE) || !Files.isDirectory(folder) ? card : card.withFiles(files(folder));
    }

    /// What cannot be looked into, as file systems have folders of their own, is passed over.
    private static Map<String, Long> files(Path folder) throws IOException {
        Map<String, Long> files = new HashMap<>();
        Files.walkFileTree(folder, Set.of(), DEPTH, new SimpleFileVisitor<>() {
            @Override public FileVisitResult visitFile(Path file, BasicFileAttributes about) {
                if (about.isRegularFile()) files.put(folder.relativize(file).toString().replace('\\', '/'), about.size());
                return files.size() < MOST_FILES ? FileVisitResult.CONTINUE : FileVisitResult.TERMINATE;
            }

            @Override public FileVisitResult visitFileFailed(Path file, IOException why) { return FileVisitResult.CONTINUE; }
        });
        return files;
    }

    private static Card kits(Path folder, DestinationSheet sheet) throws IOException, Json.JsonFault {
        if (sheet.isSession()) return new Card(Set.of(), Map.of(), session(folder), Map.of());
        if (sheet.layout().folder().isEmpty() || !Files.isDirectory(folder)) return Card.EMPTY;
        NamePattern folders = NamePattern.parse(sheet.layout().folder()), names = sheet.names().made();
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
        return new Card(kits, places, Optional.empty(), Map.of());
    }

    private static Optional<Card.Session> session(Path folder) throws IOException, Json.JsonFault {
        Optional<SessionDocument> document = Sessions.in(folder);
        if (document.isEmpty()) return Optional.empty();
        Map<Path, List<String>> earlier = new HashMap<>(), sidecars = new HashMap<>();
        for (PackingSlip.Item item : PackedBefore.of(folder).slip().map(PackingSlip::items).orElse(List.of())) {
            List<String> paths = item.outputs().stream().map(PackingSlip.Output::path).toList();
            if (!paths.isEmpty()) earlier.put(Path.of(item.source()), paths);
            if (!item.sidecars().isEmpty()) sidecars.put(Path.of(item.source()), item.sidecars().stream().map(PackingSlip.SidecarFile::path).toList());
        }
        try (Stream<Path> inside = Files.walk(folder, DEPTH)) {
            Set<String> files = inside.filter(Files::isRegularFile).map(p -> folder.relativize(p).toString().replace('\\', '/')).collect(Collectors.toSet());
            // The name of an offline file is its own: another sound must not come back in its place.
            document.get().files().forEach(f -> files.add(f.path()));
            return Optional.of(new Card.Session(document.get(), earlier, sidecars, files));
        }
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
