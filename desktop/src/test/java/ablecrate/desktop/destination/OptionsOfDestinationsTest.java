package ablecrate.desktop.destination;

import static org.assertj.core.api.Assertions.assertThat;

import ablecrate.desktop.SharedCrate;
import ablecrate.desktop.Background;
import ablecrate.desktop.crate.ClickTracks;
import ablecrate.desktop.crate.CrateModel;
import ablecrate.option.Choice;
import ablecrate.option.PackOptions;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/// What may be chosen at a destination.
class OptionsOfDestinationsTest {
    private final Deque<Runnable> later = new ArrayDeque<>();
    private final CrateModel crate = new CrateModel(new Background(Runnable::run, later::add), SharedCrate.CATALOGUE);
    private final DestinationModel model = new DestinationModel(crate, new ClickTracks(crate, new Background(Runnable::run, Runnable::run)));

    private void settle() {
        while (!later.isEmpty())
            later.poll().run();
    }

    private DestinationModel.Open<?> option(String id) {
        return model.openOptions().stream().filter(o -> o.id().equals(id)).findFirst().orElseThrow();
    }

    /// Each value of each option can be set, is then the one shown, has words of its own, and is one step back.
    @ParameterizedTest @ValueSource(strings = {"files", "session", "drum-pads", "four-track"}) void everyValueCanBeSetAndTakenBack(String destination) {
        crate.aim(destination);
        settle();
        for (String container : destination.equals("files") ? List.of("wav", "sfz") : List.of("")) {
            if (!container.isEmpty()) crate.changeOptions(o -> o.withContainer(Choice.of(container)), "container");
            settle();
            for (String id : model.openOptions().stream().map(DestinationModel.Open::id).toList())
                eachValue(option(id));
        }
    }

    private <T> void eachValue(DestinationModel.Open<T> option) {
        if (option.values().isEmpty()) return;
        assertThat(option.values()).as(option.id()).hasSizeGreaterThan(1).contains(option.value());
        Set<String> words = new HashSet<>();
        for (T value : option.values()) {
            assertThat(words.add(option.text(value))).as("%s: '%s' says what it is", option.id(), option.text(value)).isTrue();
            if (value.equals(option.value())) continue;
            PackOptions before = crate.job().options();
            option.set(value);
            settle();
            if (option.id().equals("container")) {
                crate.undo();
                settle();
                continue;
            }
            assertThat((Object) option(option.id()).value()).as(option.id()).isEqualTo(value);
            assertThat(crate.job().options()).isNotEqualTo(before);
            crate.undo();
            settle();
            assertThat(crate.job().options()).as("%s taken back", option.id()).isEqualTo(before);
        }
    }

    /// What is typed is taken where it is a value, and is one step back; else it is told what is wrong, and nothing changes.
    @ParameterizedTest @CsvSource({"start-key,c3,48,h9", "first-kit,4,4,many", "pad,1=kick*; 2=lid,1=kick*; 2=lid,kick", "name-part,-1=key,-1=key,0=key",
        "bit-rate,192,192,3", "instrument,Harp; Organ,Harp; Organ,"}) void whatIsTypedIsTakenOrToldWhatIsWrong(String id, String typed, String shown,
                String wrong) {
        crate.aim(id.equals("first-kit") || id.equals("pad") ? "drum-pads" : "files");
        if (!id.equals("bit-rate") && !id.equals("first-kit") && !id.equals("pad")) crate.changeOptions(o -> o.withContainer(Choice.of("sf2")), "container");
        settle();
        PackOptions before = crate.job().options();
        assertThat(option(id).type(typed)).isEmpty();
        settle();
        assertThat(shown(option(id))).isEqualTo(shown);
        if (wrong != null) assertThat(option(id).type(wrong)).isPresent();
        settle();
        assertThat(shown(option(id))).isEqualTo(shown);
        crate.undo();
        settle();
        assertThat(crate.job().options()).isEqualTo(before);
    }

    private static <T> String shown(DestinationModel.Open<T> option) { return option.text(option.value()); }

    /// What a destination fixes is not offered.
    @ParameterizedTest @ValueSource(strings = {"drum-pads", "four-track"}) void nothingIsOfferedAgainstTheSheet(String destination) {
        crate.aim(destination);
        settle();
        assertThat(model.openOptions()).extracting(DestinationModel.Open::id).doesNotContain("rate", "depth", "map", "banks");
    }

    @ParameterizedTest @ValueSource(strings = {"(nam)", "(name", ""}) void aPatternThatIsNoneIsToldAndNotTaken(String pattern) {
        crate.aim("files");
        settle();
        String before = model.namePattern();
        assertThat(model.setNamePattern(pattern)).isPresent();
        assertThat(model.namePattern()).isEqualTo(before);
        assertThat(model.setNamePattern("(number..) (name)")).isEmpty();
        assertThat(model.namePattern()).isEqualTo("(number..) (name)");
    }
}
