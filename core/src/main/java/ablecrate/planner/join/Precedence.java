package ablecrate.planner.join;

import ablecrate.library.Gathered;
import ablecrate.option.NameGlob;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/// Which sounds come before all others. Thousands may be told by their paths, as where all were put in order by hand; only what is no path is a pattern.
/// @param sounds in their order
/// @param missing what was told to come first, and is none of the sounds
record Precedence(List<Gathered> sounds, List<String> missing) {
    private record Placed(Gathered sound, int place) {}

    private record Pattern(String text, NameGlob glob, int place) {}

    /// @param first paths below what was gathered, names or patterns, see [NameGlob]
    /// @param others in the order that holds where nothing else is told
    static Precedence of(List<String> first, List<Gathered> others) {
        if (first.isEmpty()) return new Precedence(others, List.of());
        Map<String, Integer> paths = new HashMap<>();
        for (int i = 0; i < first.size(); i++)
            paths.putIfAbsent(first.get(i), i);
        Set<String> found = new HashSet<>();
        others.stream().map(Precedence::path).filter(paths::containsKey).forEach(found::add);
        List<Pattern> patterns = first.stream().filter(f -> !found.contains(f)).distinct().map(f -> new Pattern(f, new NameGlob(f), paths.get(f))).toList();
        List<Placed> placed = new ArrayList<>();
        for (Gathered sound : others) {
            int place = paths.getOrDefault(path(sound), first.size());
            for (Pattern pattern : patterns)
                if (pattern.glob().matches(sound.relative())) {
                    found.add(pattern.text());
                    place = Math.min(place, pattern.place());
                }
            placed.add(new Placed(sound, place));
        }
        placed.sort(Comparator.comparingInt(Placed::place));
        return new Precedence(placed.stream().map(Placed::sound).toList(), first.stream().filter(f -> !found.contains(f)).toList());
    }

    private static String path(Gathered sound) { return sound.relative().toString().replace('\\', '/'); }
}
