package ablecrate.planner.instrument;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.instrument.Parameter;
import ablecrate.instrument.Span;
import ablecrate.instrument.Zone;
import ablecrate.option.KeyGaps;
import java.util.List;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;

class KeySpreadTest {
    private static List<Span> keys(KeyGaps gaps, int... roots) {
        List<Zone> zones = java.util.stream.IntStream.range(0, roots.length).mapToObj(i -> Zone.of(i).with(Parameter.ROOT_KEY, roots[i])).toList();
        return KeySpread.spread(zones, gaps).stream().map(z -> z.get(Parameter.KEYS)).toList();
    }

    /// Roots a fourth apart, 48, 53, 60.
    @ParameterizedTest @CsvSource({"HALF,50,56", "UP,52,59", "DOWN,48,53"}) void theGapsGoToWhomTheyShould(KeyGaps gaps, int lastOfFirst, int lastOfSecond) {
        assertThat(keys(gaps, 48, 53, 60)).containsExactly(new Span(0, lastOfFirst), new Span(lastOfFirst + 1, lastOfSecond), new Span(lastOfSecond + 1, 127));
    }

    @ParameterizedTest @EnumSource(KeyGaps.class) void everyKeyHasOneZoneAndEveryRootItsOwn(KeyGaps gaps) {
        int[] roots = {0, 1, 5, 40, 41, 90, 127};
        List<Span> keys = keys(gaps, roots);
        for (int i = 0; i < roots.length; i++) {
            assertThat(roots[i]).isBetween(keys.get(i).low(), keys.get(i).high());
            assertThat(keys.get(i).low()).isEqualTo(i == 0 ? 0 : keys.get(i - 1).high() + 1);
        }
        assertThat(keys.getLast().high()).isEqualTo(127);
    }
}
