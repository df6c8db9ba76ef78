package ablecrate.plan;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.change.Change;
import ablecrate.change.Property;
import ablecrate.destination.DestinationSheet;
import ablecrate.destination.SheetCatalogue;
import ablecrate.library.Gatherer;
import ablecrate.option.PackOptions;
import ablecrate.pack.AnyCrate;
import ablecrate.planner.ListeningPlanner;
import ablecrate.signal.Measurements;
import ablecrate.signal.SoundPath;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/// The checklist of a destination: what it takes, in words, each rule with the changes that it causes.
class SheetRulesTest {
    @TempDir Path folder;

    private static Map<Property, SheetRules.Rule> rules(DestinationSheet sheet) {
        return SheetRules.of(sheet).stream().collect(Collectors.toMap(SheetRules.Rule::property, r -> r));
    }

    private static DestinationSheet sheet(String id) { return new SheetCatalogue().byId(id).orElseThrow(); }

    /// As the sheets that ship have it.
    @ParameterizedTest @CsvSource({"drum-pads,RATE,'44,100 Hz'", "drum-pads,DEPTH,16 bit", "drum-pads,CHANNELS,'mono, stereo'", "drum-pads,LENGTH,up to 60 s",
        "drum-pads,NAME,up to 12 characters", "drum-pads,FOLDER,'up to 100 of 9, 1 folder deep'", "drum-pads,SPACE,1.00 GB", "drum-pads,LOOPS,not used",
        "drum-pads,BROADCAST,kept",
        "drum-pads,CONTAINER,WAV", "drum-pads,KIND,sounds; instruments apart", "session,RATE,the session's", "session,DEPTH,the session's",
        "session,TIMELINE,as chosen", "session,LOOPS,kept",
        "files,RATE,any", "files,DEPTH,any", "files,NAME,any"}) void aRuleSaysWhatTheSheetTakes(String id, Property property, String text) {
        assertThat(rules(sheet(id)).get(property).text()).isEqualTo(text);
    }

    @Test void everyPropertyHasItsRow() { assertThat(rules(sheet("drum-pads"))).containsOnlyKeys(Property.values()); }

    @Test void whatIsNotLimitedHasNoRuleOfItsOwn() {
        assertThat(rules(sheet("files"))).doesNotContainKeys(Property.LENGTH, Property.FOLDER);
        assertThat(rules(sheet("files")).values()).allSatisfy(r -> {
            assertThat(r.title()).isNotBlank();
            assertThat(r.text()).isNotBlank();
        });
    }

    /// Whatever a list tells can be looked for by a rule.
    @ParameterizedTest @ValueSource(ints = {0, 1, 2, 3, 4, 5, 6, 7}) void everyChangeBelongsToARule(int seed) throws Exception {
        AnyCrate any = new AnyCrate(seed);
        List<Path> sounds = any.sounds(folder.resolve("in"), 10);
        any.sfz(folder.resolve("in"), sounds, 1);
        for (String id : List.of("files", "session", "drum-pads", "four-track")) {
            PackingList list = ListeningPlanner.plan(Gatherer.readAll(Gatherer.find(List.of(folder), () -> false)), sheet(id), PackOptions.DEFAULT, Map.of(),
                    new Measurements(new SoundPath()), () -> false, (_, _) -> {});
            Set<Property> told = list.items().stream().flatMap(i -> i.changes().stream()).map(Change::property).collect(Collectors.toSet());
            assertThat(rules(sheet(id)).keySet()).as(id).containsAll(told);
        }
    }
}
