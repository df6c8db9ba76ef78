package ablecrate.option;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/// What is said of a sound alone.
class OwnTreatmentTest {
    /// One value of each kind that is not what holds where nothing is said.
    private static final Map<String, Object> SAID = Map.ofEntries(Map.entry("level", "lufs-m:-14"), Map.entry("ceiling", -1.0), Map.entry("trim", -60.0),
            Map.entry("fade-out", 30.0), Map.entry("dc", true), Map.entry("overs", "clip"), Map.entry("find-loops", true), Map.entry("loop-way", "either"),
            Map.entry("chop", "grid:1/16"), Map.entry("bpm", 96.5), Map.entry("downbeat", 0.25), Map.entry("sensitivity", 2.0), Map.entry("rhythm", "both"),
            Map.entry("to-tempo", "120"));

    private static Treatment treatment(Map<String, Object> said) throws OptionConflict { return OptionValues.treatment(said); }

    /// A sound that has a level of its own gets the fades of all, also those that all get later.
    @Test void allElseIsAsForAll() throws Exception {
        OwnTreatment own = OwnTreatment.NONE.changed(Treatment.NONE, treatment(Map.of("level", "peak:-3", "bpm", 120.0)));
        Treatment later = treatment(Map.of("fade-out", 50.0, "level", "lufs-i:-20"));
        assertThat(own.over(later)).isEqualTo(treatment(Map.of("level", "peak:-3", "bpm", 120.0, "fade-out", 50.0, "ceiling", -1.0)));
        assertThat(own.values().keySet()).extracting(Option::id).containsExactly("level", "bpm");
    }

    @Test void whatIsAsForAllAgainIsSaidNoMore() throws Exception {
        Treatment all = treatment(Map.of("trim", -60.0));
        OwnTreatment own = OwnTreatment.NONE.changed(all, treatment(Map.of("trim", -50.0, "dc", true)));
        assertThat(own.changed(all, treatment(Map.of("trim", -60.0, "dc", true))).values().keySet()).extracting(Option::id).containsExactly("dc");
        assertThat(own.changed(all, all)).isEqualTo(OwnTreatment.NONE);
    }

    /// Also that nothing is wanted, where something is wanted of all.
    @Test void itIsReadAsItWasWritten() throws Exception {
        Treatment all = treatment(SAID);
        for (OwnTreatment own : List.of(OwnTreatment.NONE.changed(Treatment.NONE, all), OwnTreatment.NONE.changed(all, Treatment.NONE))) {
            assertThat(own.values()).hasSameSizeAs(SAID);
            OwnTreatment read = OptionValues.own(OptionValues.of(own));
            assertThat(read).isEqualTo(own);
            assertThat(read.over(all)).isEqualTo(own.over(all));
        }
        assertThatThrownBy(() -> OptionValues.own(Map.of("rate", 44_100))).isInstanceOf(OptionConflict.class).hasMessageContaining("'rate'");
    }

    /// All are cut into slices, one clip into parts; the other way round as well.
    @Test void aClipsOwnPartsGoBeforeTheSlicesOfAll() throws Exception {
        Treatment slices = treatment(Map.of("chop", "onsets", "bpm", 96.0)), parts = treatment(Map.of("part", List.of("bar1-bar3", "cue:owl")));
        OwnTreatment inParts = OwnTreatment.NONE.changed(Treatment.NONE, parts), inSlices = OwnTreatment.NONE.changed(Treatment.NONE, slices);
        assertThat(inParts.over(slices)).isEqualTo(treatment(Map.of("part", List.of("bar1-bar3", "cue:owl"), "bpm", 96.0)));
        assertThat(inSlices.over(parts)).isEqualTo(slices);
        assertThat(OptionValues.own(OptionValues.of(inParts))).isEqualTo(inParts);
    }

    /// A sample of a bank has what the bank has, and its own on top.
    @Test void whatIsSaidCloserGoesFirst() throws Exception {
        OwnTreatment bank = OwnTreatment.NONE.changed(Treatment.NONE, treatment(Map.of("trim", -60.0, "fade-out", 10.0))),
                sample = OwnTreatment.NONE.changed(Treatment.NONE, treatment(Map.of("fade-out", 30.0)));
        assertThat(bank.with(sample).over(Treatment.NONE)).isEqualTo(treatment(Map.of("trim", -60.0, "fade-out", 30.0)));
        assertThat(ItemEdit.NONE.treated(Treatment.NONE, t -> t.withTrim(Optional.of(-40.0))).own().values()).hasSize(1);
    }
}
