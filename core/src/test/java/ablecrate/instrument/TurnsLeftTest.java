package ablecrate.instrument;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/// Round robins for devices that play fewer turns: what stays, and as which turn.
class TurnsLeftTest {
    private static Zone zone(int low, int high, int turn, int of) {
        return Zone.of(0).with(Parameter.KEYS, new Span(low, high)).with(Parameter.TURN, new Turn(turn, of));
    }

    private static List<String> left(int most, Map<Integer, List<Integer>> order, Zone... zones) {
        TurnsLeft left = new TurnsLeft(new Instrument(About.named("robin"), Optional.empty(), List.of(new ZoneGroup("", List.of(zones)))), most, order);
        return List.of(zones).stream().map(z -> left.of(z).map(s -> s.get(Parameter.TURN).toString()).orElse("goes")).toList();
    }

    @Test void theFirstStayUnlessOthersAreWanted() {
        Zone[] four = {zone(60, 60, 1, 4), zone(60, 60, 2, 4), zone(60, 60, 3, 4), zone(60, 60, 4, 4)};
        assertThat(left(2, Map.of(), four)).containsExactly("1 of 2", "2 of 2", "goes", "goes");
        assertThat(left(2, Map.of(4, List.of(4, 2, 1, 3)), four)).as("in the order in which they were").containsExactly("goes", "1 of 2", "goes", "2 of 2");
        assertThat(left(1, Map.of(4, List.of(3, 1, 2, 4)), four)).containsExactly("goes", "goes", "every note", "goes");
        assertThat(left(4, Map.of(), four)).containsExactly("1 of 4", "2 of 4", "3 of 4", "4 of 4");
    }

    @Test void aPlaceWithoutTheWantedOnesKeepsItsOwn() {
        assertThat(left(1, Map.of(), zone(60, 60, 1, 3), zone(62, 62, 3, 3), zone(62, 62, 2, 3))).containsExactly("every note", "goes", "every note");
        assertThat(left(2, Map.of(), zone(60, 60, 1, 3), zone(60, 60, 3, 3))).containsExactly("1 of 2", "2 of 2");
    }

    /// Where as many as are played lie over some of its keys, it would sound together with one of them.
    @Test void nothingSoundsTogetherWithAFirstTurn() {
        assertThat(left(1, Map.of(), zone(60, 64, 1, 2), zone(62, 66, 2, 2))).containsExactly("every note", "goes");
        assertThat(left(1, Map.of(), zone(60, 64, 1, 2), zone(62, 66, 2, 2).with(Parameter.TRIGGER, Trigger.RELEASE))).as("at another moment")
                .containsExactly("every note", "every note");
    }
}
