package ablecrate.format.names;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.instrument.NoteName;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.OptionalInt;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;

/// Naming habits as found in practice (common practice); the names themselves are made up.
class NameReaderTest {
    private static final int[] TOPS = {42, 85, 127};
    private static final String[] DYNAMICS = {"pp", "mp", "f"};

    /// What a name of a habit looks like for a key, a layer 0…2, and a turn 1…2.
    private interface Habit {
        String name(int key, int layer, int turn);
    }

    private static String flat(int key) {
        String sharp = NoteName.of(key);
        return sharp.contains("#") ? NoteName.of(key + 1).replaceFirst("(.)(.*)", "$1b$2") : sharp;
    }

    private static Arguments habit(String what, Habit habit) { return Arguments.of(what, habit); }

    static Stream<Arguments> habits() {
        return Stream.of(habit("underscores", (k, l, t) -> "Glass Marimba_" + NoteName.of(k) + "_v" + (l + 1) + "_rr" + t),
                habit("hyphens", (k, l, t) -> "marimba-" + NoteName.of(k).toLowerCase(Locale.ROOT) + "-vel" + (l + 1) + "-rr" + t),
                habit("key first", (k, l, t) -> NoteName.of(k) + " bottle organ v" + (l + 1) + " take" + t),
                habit("flats", (k, l, t) -> "harp " + flat(k) + " " + DYNAMICS[l] + " " + t),
                habit("numbers", (k, l, t) -> String.format(Locale.ROOT, "harp_%03d_v%d_rr%d", k, l + 1, t)),
                habit("velocities", (k, l, t) -> "harp." + NoteName.of(k) + ".v" + new int[]{42, 85, 127}[l] + ".rr" + t),
                habit("dynamics in words", (k, l, t) -> "Wind Up Harp (" + NoteName.of(k) + ") " + List.of("soft", "medium", "hard").get(l) + " alt" + t),
                habit("noise in front", (k, l, t) -> "44100Hz 24bit 96bpm A440 harp " + NoteName.of(k) + " v" + (l + 1) + " rr" + t),
                habit("dates behind", (k, l, t) -> "harp_" + NoteName.of(k) + "_" + DYNAMICS[l] + "_rr" + t + "_20260314_48k"),
                habit("sharps as s", (k, l, t) -> "Orchard " + NoteName.of(k).replace("#", "s") + " Layer" + (l + 1) + " RR" + t),
                habit("no separator", (k, l, t) -> "Harp_" + NoteName.of(k) + "v" + (l + 1) + "rr" + t),
                habit("marked key", (k, l, t) -> "tin_note" + k + "_layer" + (l + 1) + "_hit" + t),
                habit("brackets", (k, l, t) -> "harp [" + NoteName.of(k) + "] [" + DYNAMICS[l] + "] [" + t + "]"),
                habit("sharps as is", (k, l, t) -> "Spieluhr " + NoteName.of(k).replace("#", "is") + " v" + (l + 1) + " rr" + t),
                habit("velocities alone", (k, l, t) -> "Reed_" + NoteName.of(k) + "_" + TOPS[l] + "_rr" + t),
                habit("velocities alone, three digits", (k, l, t) -> String.format(Locale.ROOT, "Reed %s %03d RR%d", NoteName.of(k), TOPS[l], t)),
                habit("ranges of velocity", (k, l, t) -> "reed " + NoteName.of(k) + " v" + List.of("1-42", "43-85", "86-127").get(l) + " rr" + t),
                habit("ranges of velocity with vel", (k, l, t) -> "reed_" + NoteName.of(k) + "_vel" + List.of("1-42", "43-85", "86-127").get(l) + "_rr" + t),
                habit("turn first", (k, l, t) -> "rr" + t + "_" + NoteName.of(k) + "_" + DYNAMICS[l] + "_glass"),
                habit("layer first", (k, l, t) -> "v" + (l + 1) + " rr" + t + " glass " + NoteName.of(k)),
                habit("dots", (k, l, t) -> "glass." + NoteName.of(k) + "." + DYNAMICS[l] + "." + t),
                habit("key as n", (k, l, t) -> "glass-n" + k + "-v" + TOPS[l] + "-rr" + t),
                habit("round robin in words", (k, l, t) -> "glass " + NoteName.of(k) + " " + List.of("soft", "medium", "loud").get(l) + " robin" + t),
                habit("takes", (k, l, t) -> "Bottle " + NoteName.of(k) + " " + List.of("p", "mf", "ff").get(l) + " take" + t),
                habit("dyn", (k, l, t) -> "bottle_" + NoteName.of(k) + "_dyn" + (l + 1) + "_var" + t),
                habit("depth and rate behind", (k, l, t) -> "Bottle " + NoteName.of(k) + " v" + (l + 1) + " rr" + t + " 24bit 96k"),
                habit("key last", (k, l, t) -> "tin_" + DYNAMICS[l] + "_rr" + t + "_" + NoteName.of(k)),
                habit("key number first", (k, l, t) -> String.format(Locale.ROOT, "%03d tin %s rr%d", k, DYNAMICS[l], t)),
                habit("plus signs", (k, l, t) -> "tin+" + NoteName.of(k) + "+v" + (l + 1) + "+rr" + t),
                habit("quiet and loud", (k, l, t) -> "tin " + NoteName.of(k) + " " + List.of("quiet", "mid", "loud").get(l) + " alt" + t),
                habit("long names", (k, l, t) -> "The old mill, upper reed, " + NoteName.of(k) + ", " + DYNAMICS[l] + ", take" + t),
                habit("year behind", (k, l, t) -> "mill reed " + NoteName.of(k) + " vel" + TOPS[l] + " rr" + t + " 2026"),
                habit("underscore and hyphen", (k, l, t) -> "mill-reed_" + NoteName.of(k) + "-v" + (l + 1) + "-rr" + t),
                habit("capitals", (k, l, t) -> "MILL REED " + NoteName.of(k) + " VEL" + TOPS[l] + " RR" + t),
                habit("midi", (k, l, t) -> "reed midi" + k + " layer" + (l + 1) + " hit" + t),
                habit("lyr", (k, l, t) -> NoteName.of(k) + "_lyr" + (l + 1) + "_rep" + t + "_reed"),
                habit("double underscores", (k, l, t) -> "reed__" + NoteName.of(k) + "__" + DYNAMICS[l] + "__" + t),
                habit("mono in the name", (k, l, t) -> "reed mono " + NoteName.of(k) + " v" + (l + 1) + " rr" + t),
                habit("tempo in front", (k, l, t) -> "120bpm reed " + NoteName.of(k) + " " + DYNAMICS[l] + " " + t),
                habit("units apart", (k, l, t) -> "reed 44.1 kHz 24 bit 96 bpm " + k + " " + DYNAMICS[l] + " rr" + t),
                habit("letters and key joined", (k, l, t) -> "Reed" + NoteName.of(k) + "_v" + (l + 1) + "_rr" + t));
    }

    @ParameterizedTest(name = "{0}") @MethodSource("habits") void habitsAreRead(String what, Habit habit) {
        List<String> names = new ArrayList<>();
        List<int[]> wanted = new ArrayList<>();
        for (int key = 48; key < 72; key += 4)
            for (int layer = 0; layer < 3; layer++)
                for (int turn = 1; turn <= 2; turn++) {
                    names.add(habit.name(key, layer, turn));
                    wanted.add(new int[]{key, layer, turn});
                }
        List<NameFacts> read = NameReader.read(names, NameReading.FOUND);
        for (int i = 0; i < names.size(); i++) {
            NameFacts facts = read.get(i);
            assertThat(facts.key()).as(names.get(i) + " " + facts).hasValue(wanted.get(i)[0]);
            assertThat(facts.turn()).as(names.get(i) + " " + facts).hasValue(wanted.get(i)[2]);
            if (facts.velocity().isPresent())
                assertThat(facts.velocity()).hasValue(new int[]{42, 85, 127}[wanted.get(i)[1]]);
            else
                assertThat(facts.layer()).as(names.get(i) + " " + facts).hasValue(wanted.get(i)[1]);
        }
    }

    @Test void thereAreAsManyHabitsAsPromised() { assertThat(habits().count() * 36).isGreaterThan(200); }

    @Test void soundsOfTheReleaseAreTold() {
        List<NameFacts> read = NameReader.read(List.of("glass_C4", "glass_C4_rel", "glass_E4", "glass_E4_rel"), NameReading.FOUND);
        assertThat(read).extracting(NameFacts::isRelease).containsExactly(false, true, false, true);
        assertThat(read).extracting(f -> f.key().orElseThrow()).containsExactly(60, 60, 64, 64);
    }

    @Test void sidesOfAPairAreTold() {
        List<NameFacts> read = NameReader.read(List.of("organ C3-L", "organ C3-R", "organ G3-L", "organ G3-R"), NameReading.FOUND);
        assertThat(read).extracting(f -> f.side().orElseThrow()).containsExactly(NameFacts.Side.LEFT, NameFacts.Side.RIGHT, NameFacts.Side.LEFT,
                NameFacts.Side.RIGHT);
        assertThat(read).extracting(NameFacts::key).containsExactly(OptionalInt.of(48), OptionalInt.of(48), OptionalInt.of(55), OptionalInt.of(55));
    }

    /// One word about one name is a word about all of the set, wherever that place is counted from.
    @ParameterizedTest(name = "part {0} is {1}") @CsvSource({"2,KEY", "-2,KEY"}) void aPartThatTheUserExplainsIsReadSoInAllNames(int number, NamePart meaning) {
        List<String> names = List.of("harp 11 7 b", "harp 14 7 a", "harp 23 7 a");
        assertThat(NameReader.read(names, NameReading.FOUND)).allMatch(f -> f.key().isEmpty() || f.key().getAsInt() == 23);
        NameReading said = NameReading.FOUND.withPart(NamePlace.ofNumber(number), meaning);
        List<Integer> keys = number > 0 ? List.of(11, 14, 23) : List.of(7, 7, 7);
        assertThat(NameReader.read(names, said)).extracting(f -> f.key().getAsInt()).isEqualTo(keys);
    }

    @Test void aNumberThatLookedLikeAKeyCanBeALayer() {
        List<String> names = List.of("glass C3 040", "glass C3 090", "glass E3 040", "glass E3 090");
        List<NameFacts> found = NameReader.read(names, NameReading.FOUND.withPart(NamePlace.ofNumber(3), NamePart.LOUDNESS));
        assertThat(found).extracting(f -> f.velocity().getAsInt()).containsExactly(40, 90, 40, 90);
        assertThat(found).extracting(f -> f.key().getAsInt()).containsExactly(48, 48, 52, 52);
        assertThat(found.getFirst().parts()).extracting(NameFacts.Part::read).containsExactly("", "key 48", "velocity 40");
    }

    @Test void aPartWithNoMeaningIsPassedOver() {
        List<String> names = List.of("E2 harp C4", "E2 harp D4", "F2 harp E4");
        assertThat(NameReader.read(names, NameReading.FOUND.withPart(NamePlace.ofNumber(-1), NamePart.NOTHING))).extracting(f -> f.key().getAsInt())
                .containsExactly(40, 40, 41);
    }

    @Test void lettersCanCountTurns() {
        NameReading said = NameReading.FOUND.withPart(NamePlace.ofNumber(-1), NamePart.TURN);
        assertThat(NameReader.read(List.of("tin C3 a", "tin C3 b", "tin C3 c"), said)).extracting(f -> f.turn().getAsInt()).containsExactly(1, 2, 3);
    }

    /// What looks like a key, a layer or a turn and is none.
    @Test void namesWithoutKeysHaveNone() {
        List<String> kit = List.of("Kettle lid", "Oven door 2", "Spoon rack", "Sugar tin", "Pan lid 48k 24bit", "Ladle 120bpm");
        assertThat(NameReader.read(kit, NameReading.FOUND)).allMatch(f -> f.key().isEmpty() && f.layer().isEmpty());
        assertThat(NameReader.read(IntStream.rangeClosed(1, 9).mapToObj(i -> "tin " + i).toList(), NameReading.FOUND)).allMatch(f -> f.key().isEmpty());
        for (String measured : List.of("windmill %d bpm", "windmill_%d_BPM", "windmill-bpm-%d", "tempo %d windmill", "windmill %d.5 kHz", "windmill %d bit"))
            assertThat(NameReader.read(IntStream.of(60, 64, 67, 72).mapToObj(measured::formatted).toList(), NameReading.FOUND)).as(measured)
                    .allMatch(f -> f.key().isEmpty());
    }
}
