package ablecrate.planner.instrument;

import ablecrate.change.Told;
import ablecrate.option.KeyGaps;
import ablecrate.codec.Problem;
import ablecrate.codec.SoundFile;
import ablecrate.dsp.PitchDetector;
import ablecrate.format.OwnMaps;
import ablecrate.format.Sample;
import ablecrate.format.names.NameFacts;
import ablecrate.instrument.NoteName;
import ablecrate.instrument.Parameter;
import ablecrate.instrument.Trigger;
import ablecrate.instrument.Turn;
import ablecrate.instrument.Zone;
import ablecrate.instrument.ZoneGroup;
import ablecrate.library.Gathered;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.SortedMap;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Function;

/// The map of a set of sounds by what their names say.
final class MapFromNames {
    /// A pitch this far from a key, in keys, says nothing about it.
    static final double NEAR = 1.5;
    /// A pitch less clear than this is none.
    static final double CLEAR = 0.85;

    /// What is known of one place on the map: one sound, or a pair.
    private record Placed(int sample, int key, OptionalInt layer, OptionalInt velocity, OptionalInt turn, boolean isRelease) {}

    private final KeyGaps gaps;
    private final List<Sample> samples = new ArrayList<>();
    private final List<Problem> problems = new ArrayList<>();
    private final List<String> farApart = new ArrayList<>();
    private final List<ZoneGroup> groups = new ArrayList<>();
    private String how = "mapped by the names of its sounds";

    /// @param shift of all keys that names say, in keys; empty to find it by what is heard
    /// @param pitch of a sound; empty where it has none, or is not known yet
    MapFromNames(List<Gathered> gathered, List<NameFacts> names, OptionalInt shift, Function<SoundFile, Optional<PitchDetector.Pitch>> pitch, KeyGaps gaps) {
        this.gaps = gaps;
        List<SoundFile> sounds = gathered.stream().map(g -> g.sound().orElseThrow()).toList();
        List<Optional<PitchDetector.Pitch>> pitches = sounds.stream().map(s -> pitch.apply(s).filter(p -> p.clarity() >= CLEAR)).toList();
        int shifted = shift.orElseGet(() -> 12 * octaves(names, pitches));
        if (shifted != 0)
            how += ", moved by " + (shifted % 12 == 0
                    ? String.format(Locale.ROOT, "%+d octave%s", shifted / 12, Math.abs(shifted) == 12 ? "" : "s")
                    : String.format(Locale.ROOT, "%+d keys", shifted)) + (shift.isEmpty() ? " to where they sound" : " as chosen");
        List<Placed> placed = new ArrayList<>();
        Set<Integer> done = new HashSet<>();
        for (int i = 0; i < sounds.size(); i++) {
            if (done.contains(i)) continue;
            NameFacts name = names.get(i);
            OptionalInt key = name.key().isPresent()
                    ? OptionalInt.of(name.key().getAsInt() + shifted)
                    : pitches.get(i).map(p -> OptionalInt.of((int) Math.rint(p.key()))).orElse(OptionalInt.empty());
            if (key.isEmpty() || key.getAsInt() < 0 || key.getAsInt() > 127) {
                problems.add(Problem.lost("'" + gathered.get(i).fileName() + "' says no key in its name and has no clear pitch; it is left out", ""));
                continue;
            }
            if (name.key().isPresent()) pitches.get(i).ifPresent(p -> check(name.name(), key.getAsInt(), p));
            OptionalInt other = name.side().isPresent() ? partner(i, names, sounds) : OptionalInt.empty();
            SoundFile sound = sounds.get(i);
            if (other.isPresent()) {
                done.add(other.getAsInt());
                boolean isLeft = name.side().get() == NameFacts.Side.LEFT;
                SoundFile left = isLeft ? sound : sounds.get(other.getAsInt()), right = isLeft ? sounds.get(other.getAsInt()) : sound;
                if (!left.metadata().loops().equals(right.metadata().loops()))
                    problems.add(Problem.mend(
                            "the loops of '" + left.path().getFileName() + "' and '" + right.path().getFileName()
                                    + "' differ; those of one side are used for both",
                            ""));
                sound = Assembler.pair(left, right);
            }
            samples.add(new Sample.Found(gathered.get(i).stem(), sound));
            placed.add(new Placed(samples.size() - 1, key.getAsInt(), name.layer(), name.velocity(), name.turn(), name.isRelease()));
        }
        zones(placed);
        doubts(names, pitches);
    }

    /// What speaks against the reading: one key for all, numbers that nothing heard confirms, sounds that are heard elsewhere.
    private void doubts(List<NameFacts> names, List<Optional<PitchDetector.Pitch>> pitches) {
        Set<Integer> keys = new TreeSet<>();
        names.forEach(n -> n.key().ifPresent(keys::add));
        if (keys.size() == 1 && names.stream().filter(n -> n.key().isPresent()).count() > 1)
            problems.add(Problem.doubt("all names say the same key, " + NoteName.of(Math.clamp(keys.iterator().next(), 0, 127))
                    + ": it may belong to the name; say what the part means, or make a kit", ""));
        if (names.stream().anyMatch(NameFacts::isKeyANumber) && pitches.stream().noneMatch(Optional::isPresent))
            problems.add(Problem.doubt("keys are plain numbers in the names, and no pitch is heard that confirms them; say what the part means, or make a kit",
                    ""));
        if (!farApart.isEmpty())
            problems.add(Problem.doubt(Told.count(farApart.size(), "sound") + " heard far from the key in the name: " + Told.some(farApart), ""));
    }

    List<Sample> samples() { return samples; }

    List<Problem> problems() { return problems; }

    List<ZoneGroup> groups() { return groups; }

    /// In words, for the list.
    String how() { return how; }

    /// By how many octaves the names lie beside what is heard; no sound heard clearly, no doubt.
    private static int octaves(List<NameFacts> names, List<Optional<PitchDetector.Pitch>> pitches) {
        Map<Integer, Integer> votes = new TreeMap<>();
        for (int i = 0; i < names.size(); i++)
            if (names.get(i).key().isPresent() && pitches.get(i).isPresent()) {
                double apart = pitches.get(i).get().key() - names.get(i).key().getAsInt();
                int octaves = (int) Math.rint(apart / 12);
                if (Math.abs(apart - 12 * octaves) <= NEAR && Math.abs(octaves) <= 2) votes.merge(octaves, 1, Integer::sum);
            }
        return votes.entrySet().stream().max(Map.Entry.<Integer, Integer>comparingByValue().thenComparing(e -> -Math.abs(e.getKey()))).map(Map.Entry::getKey)
                .orElse(0);
    }

    private void check(String name, int key, PitchDetector.Pitch pitch) {
        if (!agrees(pitch, key) && !agrees(pitch, key + 12) && !agrees(pitch, key - 12))
            farApart.add(String.format(Locale.ROOT, "'%s', named for %s, sounds like %s", name, NoteName.of(key), NoteName.of(Math.clamp((int) Math.rint(pitch
                    .key()), 0, 127))));
    }

    private static boolean agrees(PitchDetector.Pitch pitch, int key) { return Math.abs(pitch.key() - key) <= NEAR; }

    /// Whether numbers that were taken for keys count something else: most of the sounds that have a pitch are heard at another key, whatever octave is meant.
    static boolean areNoKeys(List<NameFacts> names, List<Optional<PitchDetector.Pitch>> pitches) {
        if (names.stream().noneMatch(NameFacts::isKeyANumber)) return false;
        int octaves = octaves(names, pitches), heard = 0, near = 0;
        for (int i = 0; i < names.size(); i++)
            if (names.get(i).key().isPresent() && pitches.get(i).isPresent()) {
                heard++;
                if (agrees(pitches.get(i).get(), names.get(i).key().getAsInt() + 12 * octaves)) near++;
            }
        return heard >= 2 && 2 * near < heard;
    }

    private static OptionalInt partner(int i, List<NameFacts> names, List<SoundFile> sounds) {
        NameFacts mine = names.get(i);
        for (int j = i + 1; j < names.size(); j++) {
            NameFacts theirs = names.get(j);
            if (theirs.side().isPresent() && !theirs.side().equals(mine.side()) && theirs.key().equals(mine.key()) && theirs.layer().equals(mine.layer())
                    && theirs.velocity().equals(mine.velocity()) && theirs.isRelease() == mine.isRelease() && theirs.turn().equals(mine.turn())
                    && sounds.get(i).channels() == 1
                    && sounds.get(j).channels() == 1 && sounds.get(i).rateHz() == sounds.get(j).rateHz())
                return OptionalInt.of(j);
        }
        return OptionalInt.empty();
    }

    private void zones(List<Placed> placed) {
        // Sounds of the release are a set of their own, with layers and keys of their own.
        zones(placed.stream().filter(p -> !p.isRelease()).toList(), "");
        zones(placed.stream().filter(Placed::isRelease).toList(), "release ");
    }

    private void zones(List<Placed> placed, String of) {
        SortedMap<Integer, List<Placed>> layers = new TreeMap<>();
        for (Placed p : placed)
            layers.computeIfAbsent(p.layer().orElse(p.velocity().orElse(0)), _ -> new ArrayList<>()).add(p);
        for (List<Placed> layer : layers.values()) {
            List<Zone> zones = new ArrayList<>();
            for (Placed p : layer)
                zones.add(zone(p, placed));
            int number = layers.headMap(layer.getFirst().layer().orElse(layer.getFirst().velocity().orElse(0))).size() + 1;
            groups.add(new ZoneGroup(layers.size() == 1 ? of.strip() : of + "layer " + number, KeySpread.spread(zones, gaps)));
        }
    }

    private Zone zone(Placed p, List<Placed> all) {
        Zone zone = OwnMaps.zone(p.sample(), ((Sample.Found) samples.get(p.sample())).file().metadata()).without(Parameter.KEYS).without(Parameter.VELOCITIES)
                .with(Parameter.ROOT_KEY, p.key());
        if (p.isRelease()) zone = zone.with(Parameter.TRIGGER, Trigger.RELEASE);
        // Layers are those of this key: a key with fewer of them spreads what it has.
        SortedSet<Integer> layers = new TreeSet<>(), velocities = new TreeSet<>();
        List<Integer> turns = new ArrayList<>();
        for (Placed other : all)
            if (other.key() == p.key()) {
                other.layer().ifPresent(layers::add);
                other.velocity().ifPresent(velocities::add);
                if (other.layer().equals(p.layer()) && other.velocity().equals(p.velocity())) turns.add(other.turn().orElse(other.sample()));
            }
        if (p.layer().isPresent() && layers.size() > 1)
            zone = zone.with(Parameter.VELOCITIES, KeySpread.layer(layers.headSet(p.layer().getAsInt()).size(), layers.size()));
        if (p.velocity().isPresent() && velocities.size() > 1) zone = zone.with(Parameter.VELOCITIES, KeySpread.upTo(p.velocity().getAsInt(), velocities));
        Collections.sort(turns);
        return turns.size() > 1 ? zone.with(Parameter.TURN, new Turn(turns.indexOf(p.turn().orElse(p.sample())) + 1, turns.size())) : zone;
    }
}
