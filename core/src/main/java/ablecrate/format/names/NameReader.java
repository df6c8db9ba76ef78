package ablecrate.format.names;

import ablecrate.instrument.NoteName;
import java.util.ArrayList;
import java.util.Comparator;
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
import java.util.stream.Stream;

/// Reads the names of a set of sounds together: a part that means a key in one name stands at the same place in the others.
///
/// Names are cut into parts at separators and where letters meet digits in a way that no note name has. Every kind of part is looked for at each place,
/// counted from the start and from the end; the place where most names have it, and where it differs most, is taken. Rates, depths, tempos and dates are
/// set aside first, since they look like keys and velocities. What the user says of a part goes before all of that.
public final class NameReader {
    private static final Pattern SEPARATORS = Pattern
            .compile(
                    "[\\s_.,()\\[\\]{}+&;]+|(?<=[A-Za-z0-9#])-(?=[A-Za-z#])|(?<=[A-Za-z0-9#])(?<!(?:^|[\\s_.-])(?:v|vel)\\d{1,3})-(?=0\\d|\\d{2})|(?<=[a-z]{2})(?=[A-Z][a-z#b]?-?\\d(?![A-Za-z0-9]))|-+$|^-+");
    /// Numbers with their units: rates, depths, tempos, lengths.
    private static final Pattern MEASURES = Pattern.compile(
            "(?<![A-Za-z0-9#])(?:\\d+(?:\\.\\d+)?(?:[ _-]?(?:khz|hz|bits?|bpm|db|sec)|k|s|ms)|(?:bpm|tempo)[ _-]?\\d+(?:\\.\\d+)?|(?:bit|khz|hz)\\d+)(?![A-Za-z0-9#])",
            Pattern.CASE_INSENSITIVE);
    private static final Pattern NOISE = Pattern
            .compile("(44100|48000|88200|96000|192000|22050|32000)|(19|20)\\d{6}|(19|20)\\d\\d|\\d{5,}|16b|24b|32f", Pattern.CASE_INSENSITIVE);
    private static final Pattern NOTE = Pattern.compile("([a-g])(#|s|is|♯|b|♭|es)?(-?\\d)", Pattern.CASE_INSENSITIVE);
    private static final Pattern MARKED_KEY = Pattern.compile("(?:n|note|key|k|midi|root)(\\d{1,3})", Pattern.CASE_INSENSITIVE);
    private static final Pattern VELOCITY = Pattern.compile("(?:v|vel|velocity|vl|layer|lay|lyr|dyn)(?:\\d{1,3}-)?(\\d{1,3})", Pattern.CASE_INSENSITIVE);
    private static final Pattern TURN = Pattern.compile("(?:rr|robin|take|tk|alt|var|rnd|hit|repeat|rep)(\\d{1,2})", Pattern.CASE_INSENSITIVE);
    private static final Pattern PLAIN_NUMBER = Pattern.compile("(\\d{1,3})");
    private static final Set<String> RELEASES = Set.of("rel", "release", "releases", "noteoff", "keyoff");
    private static final Pattern ENDS_IN_NUMBER = Pattern.compile("[A-Za-z]*(\\d{1,3})");
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

    /// Where something stands, and how it is told there.
    private record Found(NamePlace place, Kind kind) {
        OptionalInt in(List<String> parts) { return place.in(parts).map(kind::read).orElse(OptionalInt.empty()); }
    }

    private final List<String> names;
    private final List<List<String>> parts;
    private final Set<NamePlace> used = new HashSet<>();
    private final NameReading reading;

    private NameReader(List<String> names, NameReading reading) {
        this.names = names;
        this.reading = reading;
        parts = names.stream().map(NameReader::parts).toList();
        reading.parts().keySet().forEach(number -> use(NamePlace.ofNumber(number)));
    }

    /// @param names without extensions
    /// @param reading meanings that the user gave; its shift of keys is not put on here
    public static List<NameFacts> read(List<String> names, NameReading reading) { return new NameReader(names, reading).read(); }

    static List<String> parts(String name) {
        List<String> out = new ArrayList<>();
        for (String part : SEPARATORS.split(MEASURES.matcher(name).replaceAll(" ").strip())) {
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
        Optional<Found> side = said(NamePart.SIDE, NameReader::side).or(() -> find(NameReader::side, 0.99, true));
        Optional<Found> noted = said(NamePart.KEY, NameReader::note, NameReader::markedKey, NameReader::plain).or(() -> find(NameReader::note, MOST, false))
                .or(() -> find(NameReader::markedKey, MOST, false));
        Optional<Found> loud = said(NamePart.LOUDNESS, NameReader::velocity, NameReader::dynamics, NameReader::plain)
                .or(() -> find(NameReader::velocity, MOST, true)).or(() -> find(NameReader::dynamics, MOST, true))
                .or(() -> noted.isPresent() ? upperEnds() : Optional.empty());
        Optional<Found> release = said(NamePart.RELEASE, NameReader::anything).or(() -> best(NameReader::release, 0, false));
        Optional<Found> marked = said(NamePart.TURN, NameReader::turn, NameReader::count, NameReader::letter).or(() -> find(NameReader::turn, MOST, true));
        Optional<Found> key = noted.or(() -> find(NameReader::number, MOST, false));
        Optional<Found> turn = marked.or(() -> count(key, loud, side));
        Set<Integer> levels = new TreeSet<>();
        for (List<String> p : parts)
            value(loud, p).ifPresent(levels::add);
        boolean isDynamics = parts.stream().anyMatch(p -> loud.flatMap(l -> l.place().in(p)).filter(t -> dynamics(t).isPresent()).isPresent());
        boolean isVelocity = !isDynamics && (levels.stream().anyMatch(v -> v > MANY_LAYERS) || levels.size() > MANY_LAYERS);
        List<Integer> order = new ArrayList<>(levels);
        List<NameFacts> out = new ArrayList<>();
        for (int i = 0; i < names.size(); i++) {
            List<String> p = parts.get(i);
            OptionalInt note = value(key, p), level = value(loud, p), t = value(turn, p), s = value(side, p);
            OptionalInt stated = isVelocity && level.isPresent() ? OptionalInt.of(Math.clamp(level.getAsInt(), 1, 127)) : OptionalInt.empty(),
                    layer = !isVelocity && level.isPresent() ? OptionalInt.of(order.indexOf(level.getAsInt())) : OptionalInt.empty();
            Optional<NameFacts.Side> which = s.isPresent() ? Optional.of(NameFacts.Side.values()[s.getAsInt()]) : Optional.empty();
            boolean isRelease = value(release, p).isPresent();
            NameFacts.Part[] told = new NameFacts.Part[p.size()];
            if (isRelease) tell(told, p, release, NamePart.RELEASE, "release");
            tell(told, p, key, NamePart.KEY, note.isPresent() ? "key " + note.getAsInt() : "");
            tell(told, p, loud, NamePart.LOUDNESS,
                    stated.isPresent() ? "velocity " + stated.getAsInt() : layer.isPresent() ? "layer " + (layer.getAsInt() + 1) : "");
            tell(told, p, turn, NamePart.TURN, t.isPresent() ? "turn " + t.getAsInt() : "");
            tell(told, p, side, NamePart.SIDE, which.map(w -> w.name().toLowerCase(Locale.ROOT)).orElse(""));
            for (int at = 0; at < told.length; at++)
                if (told[at] == null) told[at] = new NameFacts.Part(p.get(at), placeOf(at, p.size()), NamePart.NOTHING, "");
            out.add(new NameFacts(names.get(i), note, layer, stated, t, which, isRelease, List.of(told)));
        }
        return out;
    }

    private static void tell(NameFacts.Part[] told, List<String> parts, Optional<Found> found, NamePart meaning, String read) {
        int at = found.map(f -> f.place().in(parts.size())).orElse(-1);
        if (at >= 0 && told[at] == null) told[at] = new NameFacts.Part(parts.get(at), found.get().place(), read.isEmpty() ? NamePart.NOTHING : meaning, read);
    }

    /// What stands in the first half is counted from the start, the rest from the end: names of one set differ in their middle.
    private static NamePlace placeOf(int at, int parts) { return 2 * at < parts ? new NamePlace(at, false) : new NamePlace(parts - 1 - at, true); }

    private static OptionalInt value(Optional<Found> found, List<String> parts) { return found.map(f -> f.in(parts)).orElse(OptionalInt.empty()); }

    /// Where the user says that a meaning stands, told in the way that most names are.
    private Optional<Found> said(NamePart meaning, Kind... kinds) {
        return reading.parts().entrySet().stream().filter(e -> e.getValue() == meaning).map(e -> NamePlace.ofNumber(e.getKey())).findFirst().flatMap(
                place -> Stream.of(kinds).map(kind -> new Found(place, kind)).max(Comparator.comparingLong(f -> parts.stream().filter(p -> f.in(p).isPresent())
                        .count())));
    }

    /// The place where most names have this kind of part, and the values differ most.
    /// @param share of the names that must have it
    /// @param mustDiffer whether one value throughout means nothing
    private Optional<Found> find(Kind kind, double share, boolean mustDiffer) {
        Optional<Found> best = best(kind, share, mustDiffer);
        best.ifPresent(f -> use(f.place()));
        return best;
    }

    /// The same, of which the place may yet mean something else.
    private Optional<Found> best(Kind kind, double share, boolean mustDiffer) {
        int longest = parts.stream().mapToInt(List::size).max().orElse(0);
        Optional<Found> best = Optional.empty();
        double bestScore = 0;
        for (int index = 0; index < longest; index++)
            for (boolean fromEnd : new boolean[]{true, false}) {
                NamePlace place = new NamePlace(index, fromEnd);
                if (used.contains(place)) continue;
                Found found = new Found(place, kind);
                Set<Integer> values = new HashSet<>();
                int count = 0;
                for (List<String> p : parts) {
                    OptionalInt value = found.in(p);
                    if (value.isEmpty()) continue;
                    count++;
                    values.add(value.getAsInt());
                }
                if (count < share * names.size() || mustDiffer && values.size() < 2) continue;
                double score = (double) count / names.size() + (double) values.size() / names.size();
                if (score > bestScore + 1e-9) {
                    best = Optional.of(found);
                    bestScore = score;
                }
            }
        return best;
    }

    /// Plain numbers up to 127 beside note names: velocities up to which each layer goes.
    private Optional<Found> upperEnds() {
        Optional<Found> numbers = best(part -> group(PLAIN_NUMBER, part, 1, 127), MOST, true);
        Set<Integer> values = new HashSet<>();
        for (List<String> p : parts)
            value(numbers, p).ifPresent(values::add);
        if (!values.contains(127) || values.size() > MANY_LAYERS) return Optional.empty();
        numbers.ifPresent(f -> use(f.place()));
        return numbers;
    }

    /// The same part seen from the other end is taken as well.
    private void use(NamePlace place) {
        used.add(place);
        Set<Integer> lengths = parts.stream().map(List::size).collect(Collectors.toSet());
        if (lengths.size() == 1 && place.index() < lengths.iterator().next())
            used.add(new NamePlace(lengths.iterator().next() - 1 - place.index(), !place.isFromEnd()));
    }

    /// A plain number that counts where key, layer and side alone would leave several sounds on one place.
    private Optional<Found> count(Optional<Found> key, Optional<Found> loud, Optional<Found> side) {
        if (key.isEmpty()) return Optional.empty();
        Map<List<Object>, Integer> cells = new HashMap<>();
        for (List<String> p : parts) {
            List<Object> cell = new ArrayList<>();
            cell.add(value(key, p));
            cell.add(loud.flatMap(l -> l.place().in(p)));
            cell.add(side.flatMap(l -> l.place().in(p)));
            cells.merge(cell, 1, Integer::sum);
        }
        return cells.values().stream().anyMatch(n -> n > 1) ? find(NameReader::count, MOST, true) : Optional.empty();
    }

    private static OptionalInt note(String part) {
        Matcher note = NOTE.matcher(part);
        if (!note.matches()) return OptionalInt.empty();
        String accidental = note.group(2) == null ? "" : note.group(2).toLowerCase(Locale.ROOT);
        String plain = note.group(1) + (accidental.isEmpty() ? "" : accidental.startsWith("b") || accidental.equals("♭") || accidental.equals("es") ? "b" : "#")
                + note.group(3);
        return NoteName.parse(plain, 4).map(OptionalInt::of).orElse(OptionalInt.empty());
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

    /// Any number that can be a key, a velocity or a layer; only where the user says so.
    private static OptionalInt plain(String part) { return group(ENDS_IN_NUMBER, part, 0, 127); }

    /// `a` is the first turn; only where the user says so.
    private static OptionalInt letter(String part) {
        return part.matches("[A-Za-z]") ? OptionalInt.of(Character.toLowerCase(part.charAt(0)) - 'a' + 1) : OptionalInt.empty();
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

    private static OptionalInt release(String part) { return RELEASES.contains(part.toLowerCase(Locale.ROOT)) ? OptionalInt.of(1) : OptionalInt.empty(); }

    /// Only where the user says so.
    private static OptionalInt anything(String part) { return OptionalInt.of(1); }

    private static OptionalInt group(Pattern pattern, String part, int lowest, int highest) {
        Matcher matcher = pattern.matcher(part);
        if (!matcher.matches()) return OptionalInt.empty();
        int value = Integer.parseInt(matcher.group(1));
        return value >= lowest && value <= highest ? OptionalInt.of(value) : OptionalInt.empty();
    }
}
