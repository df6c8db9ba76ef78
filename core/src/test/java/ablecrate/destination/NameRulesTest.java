package ablecrate.destination;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashSet;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class NameRulesTest {
    private static final NameRules FREE = new NameRules(DestinationSheet.Names.FREE);

    /// Names that some file system refuses, from the documentation of Windows (*Naming files, paths, and namespaces*).
    @ParameterizedTest @ValueSource(strings = {"a/b", "a\\b", "a:b", "a*b", "a?b", "a\"b", "a<b>", "a|b", "con", "NUL", "com1", "lpt9.", "name.", "name ", " ",
        "",
        "..", ".", "\u0000", "tab\there", "a\u007fb"}) void everyFileSystemTakesWhatComesOut(String wanted) {
        String name = FREE.fit(wanted);
        assertThat(name).isNotBlank().doesNotContainPattern("[<>:\"/\\\\|?*\\x00-\\x1f\\x7f]").doesNotEndWith(".").doesNotEndWith(" ").doesNotStartWith(" ");
        assertThat(name.toLowerCase(Locale.ROOT)).isNotIn("con", "nul", "com1", "lpt9");
    }

    @ParameterizedTest @ValueSource(strings = {"Glass marimba C#4", "Ölflasche", "鈴", "a (b) [c] {d}", "x+y=z", "it's", "50% off"}) void whatIsNoTroubleStays(
            String name) {
        assertThat(FREE.fit(name)).isEqualTo(name);
    }

    /// Whatever names come, each result is new, fits, and cases are not told apart, as on cards.
    @ParameterizedTest @CsvSource({"8,A-Z0-9_", "12,a-z0-9-", "5,A-Z0-9", "0,''", "3,0-9A-F"}) void resultsAreNeverTheSameAndAlwaysFit(int longest,
            String alphabet) {
        NameRules rules = new NameRules(new DestinationSheet.Names(longest, alphabet, false, "(name)", ""));
        NameRules.Taken taken = new NameRules.Taken();
        Random random = new Random(longest);
        Set<String> given = new HashSet<>();
        for (int i = 0; i < 300; i++) {
            String wanted = random.nextInt(3) == 0 ? "bottle organ" : "Bottle " + random.nextInt(40) + " " + (char) ('a' + random.nextInt(3));
            String name = rules.unique(rules.fit(wanted), ".wav", taken);
            assertThat(given.add(name.toLowerCase(Locale.ROOT))).as(name).isTrue();
            if (longest > 0) assertThat(name).hasSizeLessThanOrEqualTo(longest);
        }
    }

    /// Files that differ in their extension do not meet.
    @Test void theExtensionTellsNamesApart() {
        NameRules.Taken taken = new NameRules.Taken();
        assertThat(FREE.unique("harp", ".wav", taken)).isEqualTo("harp");
        assertThat(FREE.unique("harp", ".sfz", taken)).isEqualTo("harp");
        assertThat(FREE.unique("Harp", ".wav", taken)).isEqualTo("Harp-2");
        assertThat(FREE.unique("harp", ".wav", taken)).isEqualTo("harp-3");
    }

    /// The number at the end tells neighbours apart, so it is the last to go.
    @ParameterizedTest @CsvSource({"Bottle organ soft 060,60", "Bottle organ soft 061,61", "Clockwork 12,12"}) void aNumberAtTheEndSurvivesCutting(
            String wanted, String end) {
        assertThat(new NameRules(new DestinationSheet.Names(8, "A-Za-z0-9_", false, "(name)", "")).fit(wanted)).hasSizeLessThanOrEqualTo(8).endsWith(end);
    }

    /// Where a name is too long, what the user gave is shortened, so that the folder can be read again.
    @ParameterizedTest @CsvSource({"Tin Kitchen, 001-TINKTCHN", "Gate, 001-GATE", "Wind-up Harp 12, 001-WNDPHR12"}) void aPatternKeepsItsNumbersAndDashes(
            String given,
            String name) {
        NamePattern pattern = NamePattern.parse("(kit...)-(folder)");
        Map<NamePattern.Word, String> values = Map.of(NamePattern.Word.KIT, "1", NamePattern.Word.FOLDER, given);
        NameRules rules = new NameRules(new DestinationSheet.Names(12, "A-Z0-9_-", true, "(name)", ""));
        assertThat(rules.fit(pattern, values)).isEqualTo(name);
        assertThat(pattern.read(name).orElseThrow()).containsEntry(NamePattern.Word.KIT, "001");
    }
}
