package ablecrate.fit;

import ablecrate.instrument.Instrument;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Zone;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Function;
import java.util.stream.IntStream;

/// The notes on which an instrument and what was made of it are compared: its keys, a velocity in each of its layers, and the turns of its round robins.
final class NoteSet {
    /// A piano's; an instrument that spans all of them is judged by them.
    private static final int LOWEST_KEY = 21, HIGHEST_KEY = 108;
    private static final int MOST_VELOCITIES = 8;

    private record Note(int key, int velocity, Occasion occasion, double weight, List<Zone> zones, HeardNote heard) {}

    private record Played(int key, int velocity, List<Zone> zones) {}

    private record Wanted(Played played, Occasion occasion) {}

    private final List<Note> notes;
    private final int turns;
    private final Map<Played, HeardNote> rendered = new ConcurrentHashMap<>();

    /// @param mostNotes about how many notes are compared
    NoteSet(Instrument source, Notes sounds, int mostNotes) {
        TreeSet<Integer> keys = new TreeSet<>();
        source.zones().forEach(z -> {
            for (int key = z.get(Parameter.KEYS).low(); key <= z.get(Parameter.KEYS).high(); key++)
                keys.add(key);
        });
        List<Integer> all = keys.stream().filter(NoteSet::isPlayed).toList(), played = all.isEmpty() ? List.copyOf(keys) : all;
        List<Span> layers = layers(source);
        List<Occasion> occasions = Occasion.of(source);
        turns = FitTask.turns(source);
        int most = Math.max(1, mostNotes / Math.max(1, layers.size()));
        // Where all keys are compared there may be room for each occasion on each of them; else they take turns.
        boolean isEach = played.size() * occasions.size() <= most;
        List<Wanted> wanted = new ArrayList<>();
        double step = Math.max(1, (double) played.size() / most);
        for (double at = (step - 1) / 2; at < played.size(); at += step)
            for (int layer = 0; layer < layers.size(); layer++) {
                int key = played.get((int) at), velocity = Weights.middle(layers.get(layer)), turn = ((int) (at / step) + layer) % occasions.size();
                for (Occasion occasion : isEach ? occasions : List.of(occasions.get(turn))) {
                    List<Zone> zones = occasion.sounding(source, key, velocity);
                    if (!zones.isEmpty()) wanted.add(new Wanted(new Played(key, velocity, zones), occasion));
                }
            }
        notes = wanted.parallelStream().map(w -> new Note(w.played.key, w.played.velocity, w.occasion, weight(layers, w.played.velocity), w.played.zones,
                sounds.heard(w.played.zones, w.played.key, w.played.velocity))).toList();
    }

    private NoteSet(List<Note> notes, int turns) {
        this.notes = notes;
        this.turns = turns;
    }

    /// The same notes, to hold others against whose sample numbers are others.
    NoteSet anew() { return new NoteSet(notes, turns); }

    private static double weight(List<Span> layers, int velocity) {
        return Weights.of(layers.stream().filter(l -> l.contains(velocity)).findFirst().orElseThrow());
    }

    /// Whether people play a key; others are compared only where there are none of these.
    static boolean isPlayed(int key) { return key >= LOWEST_KEY && key <= HIGHEST_KEY; }

    /// Stretches of velocity in which no zone begins or ends.
    private static List<Span> layers(Instrument source) {
        TreeSet<Integer> starts = new TreeSet<>(List.of(1));
        source.zones().forEach(z -> {
            starts.add(Math.max(1, z.get(Parameter.VELOCITIES).low()));
            if (z.get(Parameter.VELOCITIES).high() < 127) starts.add(z.get(Parameter.VELOCITIES).high() + 1);
        });
        List<Integer> edges = new ArrayList<>(starts);
        // Of many, some stand for all.
        while (edges.size() > MOST_VELOCITIES)
            for (int i = edges.size() - 1; i > 0 && edges.size() > MOST_VELOCITIES; i -= 2)
                edges.remove(i);
        List<Span> out = new ArrayList<>();
        for (int i = 0; i < edges.size(); i++)
            out.add(new Span(edges.get(i), i + 1 < edges.size() ? edges.get(i + 1) - 1 : 127));
        return out;
    }

    /// What an instrument made of the same sounds loses.
    Harm harm(Instrument other, Notes sounds) {
        return harm(note -> nearest(note, other, zones -> zones.equals(note.zones)
                ? note.heard
                : rendered.computeIfAbsent(new Played(note.key, note.velocity, zones), _ -> sounds.heard(zones, note.key, note.velocity))));
    }

    /// What an instrument loses that plays sounds of its own.
    Harm harmOfOther(Instrument other, Notes sounds) {
        return harm(note -> nearest(note, other, zones -> sounds.heard(zones, note.key, note.velocity)));
    }

    /// What is heard in the place of a note. Of fewer turns than there were, the one that is most like it: nobody counts which of them is due.
    private HeardNote nearest(Note note, Instrument other, Function<List<Zone>, HeardNote> heard) {
        int left = FitTask.turns(other);
        if (left >= turns) return heard.apply(note.occasion.sounding(other, note.key, note.velocity));
        return IntStream.range(0, left).mapToObj(press -> heard.apply(note.occasion.at(press).sounding(other, note.key, note.velocity)))
                .min(Comparator.comparingDouble(note.heard::harm)).orElseThrow();
    }

    private Harm harm(Function<Note, HeardNote> heard) {
        double sum = 0, weights = 0, levels = 0, worst = -1, worstLevel = 0;
        int worstKey = 0, worstVelocity = 0;
        List<double[]> all = new ArrayList<>();
        Map<Integer, Harm.Note> each = new TreeMap<>();
        List<Note> sounding = notes.stream().filter(n -> !n.heard.isSilent()).toList();
        List<HeardNote> others = sounding.parallelStream().map(heard).toList();
        for (int i = 0; i < sounding.size(); i++) {
            Note note = sounding.get(i);
            HeardNote other = others.get(i);
            double harm = note.heard.harm(other), level = other.isSilent() ? 60 : Math.abs(note.heard.levelDb() - other.levelDb());
            sum += harm * note.weight;
            levels += level * note.weight;
            weights += note.weight;
            worstLevel = Math.max(worstLevel, level);
            all.add(new double[]{harm, note.weight});
            each.merge(note.key * 128 + note.velocity, new Harm.Note(note.key, note.velocity, harm), (a, b) -> a.db() < b.db() ? b : a);
            if (harm > worst) {
                worst = harm;
                worstKey = note.key;
                worstVelocity = note.velocity;
            }
        }
        return all.isEmpty()
                ? Harm.NONE
                : new Harm(sum / weights, quantile(all, 0.9 * weights), worst, worstKey, worstVelocity, levels / weights, worstLevel,
                        List.copyOf(each.values()));
    }

    private static double quantile(List<double[]> harmsAndWeights, double weight) {
        harmsAndWeights.sort(Comparator.comparingDouble(h -> h[0]));
        double sum = 0;
        for (double[] each : harmsAndWeights) {
            sum += each[1];
            if (sum >= weight - 1e-9) return each[0];
        }
        return harmsAndWeights.getLast()[0];
    }
}
