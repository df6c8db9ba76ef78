package ablecrate.relink;

import ablecrate.audio.Depth;
import ablecrate.change.Verdict;
import ablecrate.codec.Problem;
import ablecrate.codec.SoundFile;
import ablecrate.disk.Checksums;
import ablecrate.json.Json;
import ablecrate.library.Gathered;
import ablecrate.library.Gatherer;
import ablecrate.session.SessionDocument;
import ablecrate.session.Sessions;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/// What a session's files are like: each of its document, and what lies in its folder besides.
/// @param files in the order of the document; those that it does not know follow
public record SessionCheck(Path folder, SessionDocument document, List<Entry> files) {
    /// The container of a session's files, by the destination's sheet.
    private static final String CONTAINER = "wav";

    /// @param path as the document has it
    /// @param there what lies there; empty where nothing does
    /// @param troubles with the reason of each in words, the worst first; none where all is well
    /// @param clips how many clips play it
    public record Entry(String path, Optional<Gathered> there, Map<Trouble, String> troubles, int clips) {
        public Optional<SoundFile> sound() { return there.flatMap(Gathered::sound); }

        public boolean has(Trouble trouble) { return troubles.containsKey(trouble); }

        public Verdict verdict() { return troubles.keySet().stream().map(Trouble::verdict).reduce(Verdict.KEPT, Verdict::worse); }

        /// Whether making the session whole has something to do with it.
        public boolean isToMend() { return troubles.keySet().stream().anyMatch(Trouble::isToMend); }

        /// What is the matter with it, in words.
        public String text() { return String.join("; ", troubles.values()); }
    }

    /// @throws Json.JsonFault if the folder holds no session, or its document cannot be read
    public static SessionCheck of(Path folder) throws IOException, Json.JsonFault {
        Path root = folder.toAbsolutePath().normalize();
        return of(root, Sessions.open(root));
    }

    static SessionCheck of(Path root, SessionDocument document) throws IOException {
        Map<String, Integer> clips = new HashMap<>();
        Map<String, Long> reach = new HashMap<>();
        document.tracks().forEach(t -> t.clips().forEach(c -> clips.merge(c.file(), 1, Integer::sum)));
        Map<String, Optional<Path>> places = new HashMap<>();
        document.files().forEach(f -> places.put(f.path(), place(root, f.path())));
        Map<Path, Gathered> found = gathered(places.values().stream().flatMap(Optional::stream).filter(Files::exists).distinct().toList());
        document.tracks().forEach(t -> t.clips().forEach(c -> places.get(c.file()).map(found::get).flatMap(Gathered::sound)
                .ifPresent(s -> reach.merge(c.file(), end(c, s, document), Math::max))));
        Map<String, List<String>> alike = alike(document, places, found);
        Set<String> offTracks = document.offTracks();
        List<Entry> entries = new ArrayList<>();
        for (SessionDocument.SoundRef file : document.files()) {
            Optional<Gathered> there = places.get(file.path()).map(found::get);
            Map<Trouble, String> troubles = new EnumMap<>(Trouble.class);
            if (there.isEmpty())
                troubles.put(Trouble.OFFLINE, "offline: nothing is at " + file.path());
            else
                told(document, root, there.get(), reach.getOrDefault(file.path(), 0L), troubles);
            List<String> others = alike.getOrDefault(file.path(), List.of());
            if (!others.isEmpty()) troubles.put(Trouble.TWICE, "the same as " + String.join(", ", others));
            if (offTracks.contains(file.path())) troubles.put(Trouble.UNUSED, "not on a track");
            entries.add(new Entry(file.path(), there, troubles, clips.getOrDefault(file.path(), 0)));
        }
        entries.addAll(strangers(root, found.keySet()));
        return new SessionCheck(root, document, entries);
    }

    /// Where a reference leads; nowhere where it is no path.
    static Optional<Path> place(Path root, String path) {
        try {
            return Optional.of(root.resolve(path).normalize());
        } catch (InvalidPathException e) {
            return Optional.empty();
        }
    }

    /// Where a reference of this session leads.
    public Optional<Path> place(String path) { return place(folder, path); }

    static Map<Path, Gathered> gathered(List<Path> files) throws IOException {
        return Gatherer.readAll(Gatherer.find(files.stream().filter(f -> !Files.isDirectory(f)).toList(), () -> false)).stream()
                .collect(Collectors.toMap(Gathered::path, g -> g));
    }

    /// The file's frame behind the last that a clip plays.
    private static long end(SessionDocument.Clip clip, SoundFile sound, SessionDocument document) {
        return clip.offsetFrames() + Math.floorDiv(clip.lengthFrames() * sound.rateHz(), document.rateHz());
    }

    private static void told(SessionDocument document, Path root, Gathered there, long reach, Map<Trouble, String> troubles) {
        if (!there.path().startsWith(root)) troubles.put(Trouble.LINKED, "linked: it lies in " + there.path().getParent() + ", not in the session");
        if (there.sound().isEmpty()) {
            String why = there.content() instanceof Gathered.Content.Refused(_, String name, String reason) ? name + ": " + reason : "it is no sound";
            troubles.put(Trouble.OFFLINE, "offline: " + why);
            return;
        }
        SoundFile sound = there.sound().get();
        if (sound.frames() < reach)
            troubles.put(Trouble.SHORT, String.format(Locale.ROOT, "shorter than its clips: %,d frames of %,d", sound.frames(), reach));
        List<String> lost = sound.problems().stream().filter(p -> p.effect() == Problem.Effect.LOST).map(Problem::text).toList();
        if (!lost.isEmpty()) troubles.put(Trouble.DAMAGED, "damaged: " + String.join(", ", lost));
        if (sound.compression().isPresent())
            troubles.put(Trouble.COMPRESSED, sound.container() + (sound.isLossy() ? ", lossy" : ", compressed"));
        else
            if (!sound.formatId().equals(CONTAINER)) troubles.put(Trouble.CONTAINER, sound.container() + "; the session has WAV");
        if (sound.rateHz() != document.rateHz())
            troubles.put(Trouble.RATE, String.format(Locale.ROOT, "%,d Hz; the session has %,d", sound.rateHz(), document.rateHz()));
        Depth depth = document.depthValue();
        if (!sound.isLossy() && sound.encoding().depth() != depth)
            troubles.put(Trouble.DEPTH, sound.encoding().depth().label() + "; the session has " + depth.label());
    }

    /// Files of one content under several names.
    private static Map<String, List<String>> alike(SessionDocument document, Map<String, Optional<Path>> places, Map<Path, Gathered> found) throws IOException {
        Map<Long, List<String>> bySize = new HashMap<>();
        for (SessionDocument.SoundRef file : document.files()) {
            Optional<SoundFile> sound = places.get(file.path()).map(found::get).flatMap(Gathered::sound);
            if (sound.isPresent()) bySize.computeIfAbsent(sound.get().fileBytes(), _ -> new ArrayList<>()).add(file.path());
        }
        Map<String, List<String>> alike = new HashMap<>();
        for (List<String> same : bySize.values().stream().filter(s -> s.size() > 1).toList()) {
            Map<String, List<String>> bySum = new HashMap<>();
            for (String path : same)
                bySum.computeIfAbsent(Checksums.xxh128Hex(places.get(path).orElseThrow()), _ -> new ArrayList<>()).add(path);
            bySum.values().stream().filter(s -> s.size() > 1).forEach(s -> s.forEach(p -> alike.put(p, s.stream().filter(o -> !o.equals(p)).toList())));
        }
        return alike;
    }

    /// Sounds in the folder that the document does not know.
    private static List<Entry> strangers(Path root, Set<Path> known) throws IOException {
        Set<Path> all = new HashSet<>(known);
        return Gatherer.readAll(Gatherer.find(List.of(root), () -> false).stream().filter(g -> all.add(g.path())).toList()).stream()
                .filter(g -> g.sound().isPresent()).sorted(Comparator.comparing(Gathered::path))
                .map(g -> new Entry(root.relativize(g.path()).toString().replace('\\', '/'), Optional.of(g),
                        Map.of(Trouble.UNKNOWN, "not in the document"), 0))
                .toList();
    }

    public List<Entry> toMend() { return files.stream().filter(Entry::isToMend).toList(); }

    public boolean isWhole() { return toMend().isEmpty(); }
}
