package ablecrate.pack;

import ablecrate.disk.DiskFault;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Stream;

/// Changes to what packing left on a card: files are deleted, folders renamed. Only what the slip knows, and nobody has changed since, is touched; the slip goes
/// along, so that the next pack knows where things are. Each change can be taken back until the card is let go.
///
/// Safe for threads.
public final class CardEdits implements AutoCloseable {
    private static final String PARKED = ".ablecrate-moved-";

    private final Path card;
    private final Deque<Change> done = new ArrayDeque<>();
    private Optional<Path> kept = Optional.empty();

    /// @param moves from where to where, in order
    /// @param folders that went empty, the innermost first
    private record Change(Map<Path, Path> moves, List<Path> folders, Optional<PackingSlip> slip) {}

    public CardEdits(Path card) { this.card = card; }

    public Path card() { return card; }

    public synchronized boolean canUndo() { return !done.isEmpty(); }

    /// All files in a folder of the card, or the file itself.
    /// @param path below the card, with `/`
    public List<String> filesIn(String path) throws IOException {
        Path file = card.resolve(path);
        if (!Files.isDirectory(file)) return List.of(path);
        try (Stream<Path> inside = Files.walk(file)) {
            return inside.filter(Files::isRegularFile).map(this::name).sorted().toList();
        }
    }

    private String name(Path file) { return card.relativize(file).toString().replace('\\', '/'); }

    /// Why files are left alone: one is of somebody else, or was changed.
    /// @return empty if all of them are as packing left them
    public Optional<String> obstacle(Collection<String> files) throws IOException {
        PackedBefore before = PackedBefore.of(card);
        for (String file : files) {
            Standing standing = before.standing(file, card.resolve(file), false);
            if (standing == Standing.STRANGE) return Optional.of("'" + file + "' was not packed by Able Crate");
            if (standing != Standing.INTACT) return Optional.of("'" + file + "' was changed since it was packed");
        }
        return Optional.empty();
    }

    /// Takes files from the card.
    /// @throws IOException if one of them cannot be; then all are where they were
    public synchronized void delete(Collection<String> files) throws IOException {
        if (kept.isEmpty()) kept = Optional.of(Files.createTempDirectory("ablecrate-card-"));
        Path place = Files.createTempDirectory(kept.get(), "deleted-");
        Map<Path, Path> moves = new LinkedHashMap<>();
        for (String file : files)
            moves.put(card.resolve(file), place.resolve(Integer.toString(moves.size())));
        change(moves, path -> files.contains(path) ? Optional.empty() : Optional.of(path));
    }

    /// Gives folders other names, all at once, so that two can change places.
    /// @param names from old to new, both right below the card
    /// @throws IOException if one of them cannot be renamed; then all are as they were
    public synchronized void rename(Map<String, String> names) throws IOException {
        for (String wanted : names.values())
            if (!names.containsKey(wanted) && Files.exists(card.resolve(wanted))) throw new IOException("'" + wanted + "' is there already");
        Map<Path, Path> moves = new LinkedHashMap<>();
        names.keySet().forEach(old -> moves.put(card.resolve(old), card.resolve(PARKED + old)));
        names.forEach((old, wanted) -> moves.put(card.resolve(PARKED + old), card.resolve(wanted)));
        change(moves, path -> {
            int end = path.indexOf('/');
            String wanted = end < 0 ? null : names.get(path.substring(0, end));
            return Optional.of(wanted == null ? path : wanted + path.substring(end));
        });
    }

    private void change(Map<Path, Path> moves, Function<String, Optional<String>> now) throws IOException {
        Optional<PackingSlip> slip = PackedBefore.of(card).slip();
        Map<Path, Path> moved = new LinkedHashMap<>();
        List<Path> folders = new ArrayList<>();
        try {
            for (Map.Entry<Path, Path> move : moves.entrySet()) {
                Files.move(move.getKey(), move.getValue());
                moved.put(move.getKey(), move.getValue());
            }
            folders.addAll(removeEmpty(moves.keySet()));
            if (slip.isPresent()) SlipFiles.write(slip.get().moved(now), List.of(), card);
        } catch (IOException | RuntimeException e) {
            back(new Change(moved, folders, Optional.empty()));
            throw e;
        }
        done.push(new Change(moved, folders, slip));
    }

    private List<Path> removeEmpty(Set<Path> files) throws IOException {
        Set<Path> parents = new LinkedHashSet<>();
        for (Path file : files)
            for (Path folder = file.getParent(); folder != null && !folder.equals(card) && folder.startsWith(card); folder = folder.getParent())
                parents.add(folder);
        List<Path> gone = new ArrayList<>();
        for (Path folder : parents.stream().sorted(Comparator.comparingInt(Path::getNameCount).reversed()).toList()) {
            if (!Files.isDirectory(folder)) continue;
            try (Stream<Path> inside = Files.list(folder)) {
                if (inside.findAny().isPresent()) continue;
            }
            Files.delete(folder);
            gone.add(folder);
        }
        return gone;
    }

    /// Takes the last change back.
    /// @throws IOException if the card is gone, or something has taken the place; what was deleted stays where it is kept
    public synchronized void undo() throws IOException {
        if (done.isEmpty()) return;
        back(done.peek());
        Change change = done.pop();
        if (change.slip().isPresent()) SlipFiles.write(change.slip().get(), List.of(), card);
    }

    private static void back(Change change) throws IOException {
        for (Path folder : change.folders().reversed())
            Files.createDirectories(folder);
        for (Map.Entry<Path, Path> move : new ArrayList<>(change.moves().entrySet()).reversed()) {
            Files.createDirectories(move.getKey().getParent());
            Files.move(move.getValue(), move.getKey());
        }
    }

    /// Lets the card go: what was deleted is gone for good.
    @Override public synchronized void close() {
        done.clear();
        kept.ifPresent(folder -> {
            try (Stream<Path> all = Files.walk(folder)) {
                all.sorted(Comparator.reverseOrder()).forEach(DiskFault::deleteQuietly);
            } catch (IOException e) {
                // It is the system's folder for what nobody needs; somebody else clears it.
            }
        });
        kept = Optional.empty();
    }
}
