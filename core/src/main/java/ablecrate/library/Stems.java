package ablecrate.library;

import ablecrate.codec.SoundFile;
import ablecrate.instrument.Mapping;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.DoubleSummaryStatistics;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;

/// The tracks of one piece of music, each a file, that start and end together.
///
/// Three sounds or more of a folder are taken for stems where they last as long as the longest of it, to a second, and at least 5 s; where
/// each has a name in words beside what all of their names have in common, and most of these differ; and where none is looped or on a key, as sounds of instruments are.
/// A folder that is called stems needs no names.
/// @param folder that they lie in
public record Stems(Path folder, List<SoundFile> sounds) {
    private static final double SHORTEST_SECONDS = 5, NEAR_SECONDS = 1, FARTHEST_SECONDS = 3600;
    private static final int FEWEST = 3, SHORTEST_WORD = 3;

    public Stems {
        sounds = List.copyOf(sounds);
    }

    /// @return by the path of each stem
    /// @param pads whether a sound is to end with the others of its folder, whatever its length
    public static Map<Path, Stems> in(List<Gathered> gathered, Predicate<Path> pads) {
        Map<Path, Stems> stems = new HashMap<>();
        folders(gathered).forEach((folder, all) -> {
            double longest = all.stream().mapToDouble(Stems::seconds).max().orElseThrow();
            List<Gathered> alike = all.stream().filter(g -> seconds(g) >= longest - NEAR_SECONDS || pads.test(g.path())).toList();
            if (alike.size() < FEWEST || startsDiffer(alike) || !isNamedSo(folder) && !areNamed(alike)) return;
            Stems set = new Stems(folder, alike.stream().map(g -> g.sound().orElseThrow()).toList());
            alike.forEach(g -> stems.put(g.path(), set));
        });
        return stems;
    }

    /// Folders of sounds that would be stems and begin, by their time stamps, at different times of one day, at most an hour apart.
    /// @param pads which sounds are to be as long as the others of their folder
    public static List<List<Gathered>> atDifferentTimes(List<Gathered> gathered, Predicate<Path> pads) {
        return folders(gathered.stream().filter(g -> pads.test(g.path())).toList()).entrySet().stream()
                .filter(f -> f.getValue().size() >= FEWEST && startsDiffer(f.getValue()) && areStamped(f.getValue())
                        && (isNamedSo(f.getKey()) || areNamed(f.getValue())))
                .map(Map.Entry::getValue).toList();
    }

    private static boolean areStamped(List<Gathered> sounds) {
        if (!sounds.stream().allMatch(g -> g.sound().orElseThrow().metadata().broadcast().isPresent())) return false;
        DoubleSummaryStatistics starts = sounds.stream().map(g -> g.sound().orElseThrow())
                .mapToDouble(f -> (double) f.metadata().broadcast().orElseThrow().timeReferenceFrames() / f.rateHz()).summaryStatistics();
        return starts.getMax() - starts.getMin() <= FARTHEST_SECONDS;
    }

    private static Map<Path, List<Gathered>> folders(List<Gathered> gathered) {
        Map<Path, List<Gathered>> folders = new LinkedHashMap<>();
        for (Gathered g : gathered)
            if (g.path().getParent() != null && g.sound().filter(Stems::mayBeOne).isPresent())
                folders.computeIfAbsent(g.path().getParent(), _ -> new ArrayList<>()).add(g);
        return folders;
    }

    private static double seconds(Gathered g) { return g.sound().orElseThrow().durationSeconds(); }

    private static boolean mayBeOne(SoundFile file) {
        return file.durationSeconds() >= SHORTEST_SECONDS && file.metadata().loops().isEmpty() && file.metadata().mapping().equals(Mapping.NONE);
    }

    private static boolean startsDiffer(List<Gathered> sounds) {
        return sounds.stream().map(g -> g.sound().orElseThrow())
                .flatMap(f -> f.metadata().broadcast().stream().map(b -> b.timeReferenceFrames() * 10 / f.rateHz()))
                .distinct().count() > 1;
    }

    private static boolean isNamedSo(Path folder) { return words(folder.getFileName() == null ? "" : folder.getFileName().toString()).contains("stems"); }

    private static boolean areNamed(List<Gathered> sounds) {
        List<Set<String>> names = sounds.stream().map(g -> new HashSet<>(words(g.stem()))).collect(Collectors.toList());
        Set<String> common = new HashSet<>(names.getFirst());
        names.forEach(common::retainAll);
        List<Set<String>> own = names.stream()
                .map(n -> n.stream().filter(w -> !common.contains(w) && w.length() >= SHORTEST_WORD && w.chars().allMatch(Character::isLetter))
                        .collect(Collectors.toSet()))
                .toList();
        long different = own.stream().distinct().count();
        return own.stream().noneMatch(Set::isEmpty) && different >= FEWEST && different * 2 > own.size();
    }

    private static List<String> words(String name) { return Arrays.stream(name.toLowerCase(Locale.ROOT).split("[^\\p{L}\\p{N}]+")).toList(); }
}
