package ablecrate.destination;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ablecrate.destination.NamePattern.Word;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class NamePatternTest {
    private static final Map<Word, String> VALUES = Map.of(Word.NAME, "glass", Word.NUMBER, "7", Word.FOLDER, "marimba", Word.RATE, "48000");

    @ParameterizedTest @CsvSource(delimiter = ';', value = {"(name); glass", "(number...) (name); 007 glass", "(folder)-(name)@(rate); marimba-glass@48000",
        "(number.); 7", "(number.....)x; 00007x", "((name) (name); (name) glass", "plain; plain", "(root)(name); glass"}) void wordsStandForTheirValues(
                String pattern, String made) {
        assertThat(NamePattern.parse(pattern).apply(VALUES)).isEqualTo(made);
    }

    @ParameterizedTest @CsvSource(delimiter = ';', value = {"(nam); no word 'nam'; the words are (name)", "(name; the bracket at character 1 is never closed",
        "ab(x; the bracket at character 3 is never closed", "''; it is empty"}) void aWrongPatternSaysWhereAndWhat(String pattern, String message) {
        assertThatThrownBy(() -> NamePattern.parse(pattern)).isInstanceOf(IllegalArgumentException.class).hasMessageContaining(message);
    }

    @Test void aPatternKnowsItsWords() {
        NamePattern pattern = NamePattern.parse("(kit.)-(pad)");
        assertThat(pattern.uses(Word.KIT)).isTrue();
        assertThat(pattern.uses(Word.NAME)).isFalse();
    }

    @Test void everyWordTellsWhatItMeans() {
        for (Word word : Word.values()) {
            assertThat(word.meaning()).isNotBlank();
            assertThat(NamePattern.parse("(" + word.id() + ")").uses(word)).isTrue();
        }
    }

    /// What a name was made of is read back from it, as far as it can be told.
    @Test void namesAreReadBack() {
        NamePattern kits = NamePattern.parse("(kit...)-(folder)");
        assertThat(kits.read("007-GLASS")).contains(Map.of(Word.KIT, "007", Word.FOLDER, "GLASS"));
        assertThat(kits.read("GLASS")).isEmpty();
        assertThat(kits.read("x7-GLASS")).isEmpty();
        assertThat(NamePattern.parse("KIT(kit..)").read("kit12")).as("letter cases do not matter").contains(Map.of(Word.KIT, "12"));
    }
}
