package ablecrate.format.names;

import ablecrate.instrument.NoteName;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/// Reads the names of a set of sounds together: a part that means a key in one name stands at the same place in the others.
///
/// Names are cut into parts at separators and where letters meet digits in a way that no note name has. Every kind of part is looked for at each place,
/// counted from the start and from the end; the place where most names have it, and where it differs most, is taken. Rates, depths, tempos and dates are
/// set aside first, since they look like keys and velocities.
public final class NameReader {
    private static final Pattern SEPARATORS = Pattern
            .compile("[\\s_.,()\\[\\]{}+&;]+|(?<=[A-Za-z0-9#])-(?=[A-Za-z#]|0\\d|\\d{2})|(?<=[a-z]{2})(?=[A-Z][a-z#b]?-?\\d\\b)|-+$|^-+");
    private static final Pattern NOISE = Pattern
            .compile("\\d+(\\.\\d+)?(k|khz|hz|bit|bits|bpm|db|ms|s|sec)|(44100|48000|88200|96000|192000|22050|32000)|(19|20)\\d{6}|(19|20)\\d\\d|"
                    + "(bpm|bit|khz|hz)\\d+|\\d{5,}|16b|24b|32f", Pattern.CASE_INSENSITIVE);
    private static final Pattern NOTE = Pattern.compile("([a-g])(#|s|is|♯|b|♭|es)?(-?\\d)", Pattern.CASE_INSENSITIVE);
    private static final Pattern MARKED_KEY = Pattern.compile("(?:n|note|key|k|midi|root)(\\d{1,3})", Pattern.CASE_INSENSITIVE);
    private static final Pattern VELOCITY = Pattern.compile("(?:v|vel|velocity|vl|layer|lay|lyr|dyn)(\\d{1,3})", Pattern.CASE_INSENSITIVE);
    private static final Pattern TURN = Pattern.compile("(?:rr|robin|take|tk|alt|var|rnd|hit|repeat|rep)(\\d{1,2})", Pattern.CASE_INSENSITIVE);
    private static final List<List<String>> DYNAMICS = List.of(List.of("ppp", "pianissimo", "softest"), List.of("pp", "vsoft", "verysoft"),
            List.of("p", "piano", "soft", "quiet", "low", "lo"),
            List.of("mp", "mezzopiano", "medsoft"), List.of("med", "medium", "mid", "normal"), List.of("mf", "mezzoforte", "medhard"),
            List.of("f", "forte", "hard", "loud", "high", "hi"),
            List.of("ff", "vhard", "veryhard", "fortissimo"), List.of("fff", "hardest"));
    private static final Map<String, NameFacts.Side> SIDES = Map.of("l", NameFacts.Side.LEFT, "left", NameFacts.Side.LEFT, "r", NameFacts.Side.RIGHT, "right",
            NameFacts.Side.RIGHT);
    /// A kind of part must stand in so many of the names to be one.
    private static final double MOST = 0.6;
    /// More velocity numbers than these and they are velocities, not layers.
    private static final int MANY_LAYERS = 16;

    /// One kind of part: how it is told, as a number.
    private interface Kind {
        OptionalInt read(String part);
    }

    /// A place among the parts of a name, from its start or its end.
    private record Place(int index, boolean isFromEnd) {
        Optional<String> in(List<String> parts) {
            int at = isFromEnd ? parts.size() - 1 - index : index;
            return at < 0 || at >= parts.size() ? Optional.empty() : Optional.of(parts.get(at));
        }
    }

    private final List<String> names;
    private final List<List<String>> parts;
    private final Set<Place> used = new HashSet<>();
    private final int middleOctave;

    private NameReader(List<String> names, int middleOctave) {
        this.names = names;
        this.middleOctave = middleOctave;
        parts = names.stream().map(NameReader::parts).toList();
    }

    /// @param names without extensions
    /// @param middleOctave the octave number of key 60: 4 or 3
    public static List<NameFacts> read(List<String> names, int middleOctave) { return new NameReader(names, middleOctave).read(); }

    static List<String> parts(String name) {
        List<String> out = new ArrayList<>();
        for (String part : SEPARATORS.split(name.strip())) {
            if (part.isEmpty() || NOISE.matcher(part).matches()) continue;
            // `v2rr1` and `C3v100` are two parts each; `C3` is one.
            Matcher joined = Pattern.compile(
                    "([A-Ga-g](?:#|b|s|is)?-?\\d)((?:v|vel|rr)\\d+.*)|(v\\d+)(rr\\d+)|([A-Ga-g](?:#|b)?-?\\d)(ppp|pp|mp|mf|ff|fff|p|f)|([A-Za-z]{3,}?)((?:rr|v)\\d+)")
                    .matcher(part);
            if (joined.matches()) {
                for (int i = 1; i <= joined.groupCount(); i++)
                    if (joined.group(i) != null) out.addAll(parts(joined.group(i)));
            } else
                out.add(part);
        }
        return out;
    }

    private List<NameFacts> read() {
        Optional<Place> side = place(NameReader::side, 0.99, true);
        Optional<Place> key = place(this::note, MOST, false);
        Kind keyKind = this::note;
        if (key.isEmpty()) {
            key = place(NameReader::markedKey, MOST, false);
            keyKind = NameReader::markedKey;
        }
        Optional<Place> velocity = place(NameReader::velocity, MOST, true),
                dynamics = velocity.isPresent() ? Optional.empty() : place(NameReader::dynamics, MOST, true);
        Optional<Place> turn = place(NameReader::turn, MOST, true);
        if (key.isEmpty()) {
            key = place(NameReader::number, MOST, false);
            keyKind = NameReader::number;
        }
        Set<Integer> loud = new TreeSet<>();
        for (List<String> p : parts) {
            value(velocity, p, NameReader::velocity).ifPresent(loud::add);
            value(dynamics, p, NameReader::dynamics).ifPresent(loud::add);
        }
        boolean isVelocity = velocity.isPresent() && (loud.stream().anyMatch(v -> v > MANY_LAYERS) || loud.size() > MANY_LAYERS);
        List<Integer> order = new ArrayList<>(loud);
        Optional<Place> count = turn.isPresent() ? turn : count(key, keyKind, velocity.isPresent() ? velocity : dynamics, side);
        Kind turnKind = turn.isPresent() ? NameReader::turn : NameReader::count;
        List<NameFacts> out = new ArrayList<>();
        for (int i = 0; i < names.size(); i++) {
            List<String> p = parts.get(i);
            List<String> taken = new ArrayList<>();
            OptionalInt note = value(key, p, keyKind), v = value(velocity, p, NameReader::velocity), d = value(dynamics, p, NameReader::dynamics),
                    t = value(count, p, turnKind);
            OptionalInt s = value(side, p, NameReader::side);
            if (note.isPresent()) taken.add(key.get().in(p).orElseThrow() + " → key " + note.getAsInt());
            OptionalInt layer = OptionalInt.empty(), stated = OptionalInt.empty();
            if (v.isPresent() && isVelocity)
                stated = OptionalInt.of(Math.clamp(v.getAsInt(), 1, 127));
            else
                if (v.isPresent() || d.isPresent()) layer = OptionalInt.of(order.indexOf(v.isPresent() ? v.getAsInt() : d.getAsInt()));
            if (v.isPresent())
                taken.add(velocity.get().in(p).orElseThrow() + (isVelocity ? " → velocity " + stated.getAsInt() : " → layer " + (layer.getAsInt() + 1)));
            if (d.isPresent()) taken.add(dynamics.get().in(p).orElseThrow() + " → layer " + (layer.getAsInt() + 1));
            if (t.isPresent()) taken.add(count.get().in(p).orElseThrow() + " → turn " + t.getAsInt());
            Optional<NameFacts.Side> which = s.isPresent() ? Optional.of(NameFacts.Side.values()[s.getAsInt()]) : Optional.empty();
            which.ifPresent(w -> taken.add(side.get().in(p).orElseThrow() + " → " + w.name().toLowerCase(Locale.ROOT)));
            out.add(new NameFacts(names.get(i), note, layer, stated, t, which, taken));
        }
        return out;
    }

    private static OptionalInt value(Optional<Place> place, List<String> parts, Kind kind) {
        return place.flatMap(p -> p.in(parts)).map(kind::read).orElse(OptionalInt.empty());
    }

    /// The place where most names have this kind of part, and the values differ most.
    /// @param share of the names that must have it
    /// @param mustDiffer whether one value throughout means nothing
    private Optional<Place> place(Kind kind, double share, boolean mustDiffer) {
        int longest = parts.stream().mapToInt(List::size).max().orElse(0);
        Optional<Place> best = Optional.empty();
        double bestScore = 0;
        for (int index = 0; index < longest; index++)
            for (boolean fromEnd : new boolean[]{true, false}) {
                Place place = new Place(index, fromEnd);
                if (used.contains(place)) continue;
                Set<Integer> values = new HashSet<>();
                int count = 0;
                for (List<String> p : parts) {
                    OptionalInt value = value(Optional.of(place), p, kind);
                    if (value.isEmpty()) continue;
                    count++;
                    values.add(value.getAsInt());
                }
                if (count < share * names.size() || mustDiffer && values.size() < 2) continue;
                double score = (double) count / names.size() + (double) values.size() / names.size();
                if (score > bestScore + 1e-9) {
                    best = Optional.of(place);
                    bestScore = score;
                }
            }
        best.ifPresent(this::use);
        return best;
    }

    /// The same part seen from the other end is taken as well.
    private void use(Place place) {
        used.add(place);
        Set<Integer> lengths = parts.stream().map(List::size).collect(Collectors.toSet());
        if (lengths.size() == 1) used.add(new Place(lengths.iterator().next() - 1 - place.index(), !place.isFromEnd()));
    }

    /// A plain number that counts where key, layer and side alone would leave several sounds on one place.
    private Optional<Place> count(Optional<Place> key, Kind keyKind, Optional<Place> loud, Optional<Place> side) {
        if (key.isEmpty()) return Optional.empty();
        Map<List<Object>, Integer> cells = new HashMap<>();
        for (List<String> p : parts) {
            List<Object> cell = new ArrayList<>();
            cell.add(value(key, p, keyKind));
            cell.add(loud.flatMap(l -> l.in(p)));
            cell.add(side.flatMap(l -> l.in(p)));
            cells.merge(cell, 1, Integer::sum);
        }
        return cells.values().stream().anyMatch(n -> n > 1) ? place(NameReader::count, MOST, true) : Optional.empty();
    }

    private OptionalInt note(String part) {
        Matcher note = NOTE.matcher(part);
        if (!note.matches()) return OptionalInt.empty();
        String accidental = note.group(2) == null ? "" : note.group(2).toLowerCase(Locale.ROOT);
        String plain = note.group(1) + (accidental.isEmpty() ? "" : accidental.startsWith("b") || accidental.equals("♭") || accidental.equals("es") ? "b" : "#")
                + note.group(3);
        return NoteName.parse(plain, middleOctave).map(OptionalInt::of).orElse(OptionalInt.empty());
    }

    private static OptionalInt markedKey(String part) { return group(MARKED_KEY, part, 0, 127); }

    private static OptionalInt velocity(String part) { return group(VELOCITY, part, 0, 127); }

    private static OptionalInt turn(String part) { return group(TURN, part, 0, 99); }

    /// A key as a plain number: three digits, or two from 21 (the lowest piano key) on.
    private static OptionalInt number(String part) {
        if (!part.matches("\\d{2,3}")) return OptionalInt.empty();
        int value = Integer.parseInt(part);
        return value <= 127 && (part.length() == 3 || value >= 21) ? OptionalInt.of(value) : OptionalInt.empty();
    }

    private static OptionalInt count(String part) {
        if (!part.matches("[0-9]{1,2}")) return OptionalInt.empty();
        return OptionalInt.of(Integer.parseInt(part));
    }

    private static OptionalInt dynamics(String part) {
        String lower = part.toLowerCase(Locale.ROOT);
        for (int i = 0; i < DYNAMICS.size(); i++)
            if (DYNAMICS.get(i).contains(lower)) return OptionalInt.of(i);
        return OptionalInt.empty();
    }

    private static OptionalInt side(String part) {
        NameFacts.Side side = SIDES.get(part.toLowerCase(Locale.ROOT));
        return side == null ? OptionalInt.empty() : OptionalInt.of(side.ordinal());
    }

    private static OptionalInt group(Pattern pattern, String part, int lowest, int highest) {
        Matcher matcher = pattern.matcher(part);
        if (!matcher.matches()) return OptionalInt.empty();
        int value = Integer.parseInt(matcher.group(1));
        return value >= lowest && value <= highest ? OptionalInt.of(value) : OptionalInt.empty();
    }
}
