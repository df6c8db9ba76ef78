package ablecrate.pack;

import ablecrate.codec.FormatException;
import ablecrate.destination.NameRules;
import ablecrate.disk.Checksums;
import ablecrate.disk.DiskFault;
import ablecrate.disk.SafeFile;
import ablecrate.format.BankFormat;
import ablecrate.format.InstrumentFormats;
import ablecrate.format.MapFormat;
import java.io.BufferedInputStream;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
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
import java.util.stream.Collectors;
import java.util.stream.Stream;

/// Changes to what packing left on a card: files are deleted, folders and instruments renamed. Only what the slip knows, and nobody has changed since, is touched; the slip goes
/// along, so that the next pack knows where things are. Each change can be taken back until the card is let go.
///
/// Safe for threads.
public final class CardEdits implements AutoCloseable {
    private static final String PARKED = ".ablecrate-moved-";
    private static final int BLOCK_BYTES = 1 << 16;

    private final Path card;
    private final Deque<Change> done = new ArrayDeque<>();
    private Optional<Path> kept = Optional.empty();

    /// @param moves from where to where, in order
    /// @param made in the place of what was moved away
    /// @param folders that went empty, the innermost first
    private record Change(Map<Path, Path> moves, List<Path> made, List<Path> folders, Optional<PackingSlip> slip) {}

    /// A file that is written anew, and lies elsewhere then.
    private record Anew(String path, SafeFile.Contents contents) {}

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
        Path place = keep("deleted-");
        Map<Path, Path> moves = new LinkedHashMap<>();
        for (String file : files)
            moves.put(card.resolve(file), place.resolve(Integer.toString(moves.size())));
        change(moves, Optional.empty(), path -> files.contains(path) ? Optional.empty() : Optional.of(path));
    }

    /// Gives an instrument another name, in its file and of its file; where it lies in a folder of its own, of that as well.
    /// @param path of its file, or of the folder with a file of the same name
    /// @param rules for names of files
    /// @return where it lies now
    /// @throws IOException if it cannot be renamed, or its format says no name; then all is as it was
    public synchronized String rename(String path, String name, NameRules rules) throws IOException {
        boolean isFolder = Files.isDirectory(card.resolve(path));
        String file = isFolder ? path + "/" + described(card.resolve(path)) : path, extension = file.substring(file.lastIndexOf('.'));
        int parent = path.lastIndexOf('/') + 1;
        String fit = rules.fit(name), place = path.substring(0, parent) + fit, now = isFolder ? place + "/" + fit + extension : place + extension;
        boolean stays = isFolder ? place.equals(path) : now.equals(file);
        if (!stays && Files.exists(card.resolve(isFolder ? place : now))) throw new IOException("'" + (isFolder ? place : now) + "' is there already");
        byte[] contents = renamed(card.resolve(file), name);
        Map<Path, Path> moves = new LinkedHashMap<>();
        moves.put(card.resolve(file), keep("renamed-").resolve("0"));
        if (isFolder && !stays) moves.put(card.resolve(path), card.resolve(place));
        change(moves, Optional.of(new Anew(now, out -> out.write(contents))),
                p -> Optional.of(p.equals(file) ? now : isFolder && p.startsWith(path + "/") ? place + p.substring(path.length()) : p));
        return isFolder ? place : now;
    }

    /// Gives an instrument inside of a bank another name.
    /// @param path of the bank
    /// @param number of the instrument, in the order of the bank
    /// @throws IOException if its format has no way for it; then all is as it was
    public synchronized void rename(String path, int number, String name) throws IOException {
        BankFormat.Patch patch = renamed(card.resolve(path), number, name);
        Path before = keep("renamed-").resolve("0");
        change(new LinkedHashMap<>(Map.of(card.resolve(path), before)), Optional.of(new Anew(path, out -> copy(before, patch, out))), Optional::of);
    }

    private static BankFormat.Patch renamed(Path bank, int number, String name) throws IOException {
        try {
            Optional<BankFormat.Patch> patch = InstrumentFormats.of(bank).orElse(null) instanceof BankFormat format
                    ? format.renamed(bank, number, name)
                    : Optional.empty();
            return patch.orElseThrow(() -> new IOException("'" + bank.getFileName() + "' has no name there that could be changed"));
        } catch (FormatException e) {
            throw new IOException("'" + bank.getFileName() + "': " + e.getMessage(), e);
        }
    }

    private static void copy(Path file, BankFormat.Patch patch, OutputStream out) throws IOException {
        byte[] bytes = patch.bytes().toArray();
        try (InputStream in = new BufferedInputStream(Files.newInputStream(file))) {
            for (long left = patch.at(); left > 0;)
                left -= copy(in, out, left);
            in.skipNBytes(bytes.length);
            out.write(bytes);
            in.transferTo(out);
        }
    }

    private static int copy(InputStream in, OutputStream out, long most) throws IOException {
        byte[] block = in.readNBytes((int) Math.min(most, BLOCK_BYTES));
        if (block.length == 0) throw new EOFException("the file became shorter");
        out.write(block);
        return block.length;
    }

    /// The file of an instrument that a folder is named like; a sound may be as well.
    private static String described(Path folder) throws IOException {
        try (Stream<Path> inside = Files.list(folder)) {
            Set<String> names = InstrumentFormats.ALL.stream().map(f -> folder.getFileName() + "." + f.extension()).collect(Collectors.toSet());
            return inside.map(f -> f.getFileName().toString()).filter(names::contains).findFirst()
                    .orElseThrow(() -> new IOException("no file in '" + folder.getFileName() + "' says its name"));
        }
    }

    private static byte[] renamed(Path file, String name) throws IOException {
        try {
            Optional<byte[]> contents = InstrumentFormats.of(file).orElse(null) instanceof MapFormat format ? format.renamed(file, name) : Optional.empty();
            return contents.orElseThrow(() -> new IOException("'" + file.getFileName() + "' says no name that could be changed"));
        } catch (FormatException e) {
            throw new IOException("'" + file.getFileName() + "': " + e.getMessage(), e);
        }
    }

    private Path keep(String prefix) throws IOException {
        if (kept.isEmpty()) kept = Optional.of(Files.createTempDirectory("ablecrate-card-"));
        return Files.createTempDirectory(kept.get(), prefix);
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
        change(moves, Optional.empty(), path -> {
            int end = path.indexOf('/');
            String wanted = end < 0 ? null : names.get(path.substring(0, end));
            return Optional.of(wanted == null ? path : wanted + path.substring(end));
        });
    }

    private void change(Map<Path, Path> moves, Optional<Anew> anew, Function<String, Optional<String>> now) throws IOException {
        Optional<PackingSlip> slip = PackedBefore.of(card).slip();
        Map<Path, Path> moved = new LinkedHashMap<>();
        List<Path> folders = new ArrayList<>(), made = new ArrayList<>();
        try {
            for (Map.Entry<Path, Path> move : moves.entrySet()) {
                Files.move(move.getKey(), move.getValue());
                moved.put(move.getKey(), move.getValue());
            }
            Optional<PackingSlip> after = slip.map(s -> s.moved(now));
            if (anew.isPresent()) {
                Path file = card.resolve(anew.get().path());
                made.add(file);
                SafeFile.write(file, anew.get().contents());
                String sum = Checksums.xxh128Hex(file);
                long millis = Files.getLastModifiedTime(file).toMillis(), bytes = Files.size(file);
                after = after.map(s -> s.rewritten(anew.get().path(), bytes, millis, sum));
            }
            folders.addAll(removeEmpty(moves.keySet()));
            if (after.isPresent()) SlipFiles.write(after.get(), List.of(), card);
        } catch (IOException | RuntimeException e) {
            back(new Change(moved, made, folders, Optional.empty()));
            throw e;
        }
        done.push(new Change(moved, made, folders, slip));
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
        for (Path file : change.made())
            Files.deleteIfExists(file);
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
