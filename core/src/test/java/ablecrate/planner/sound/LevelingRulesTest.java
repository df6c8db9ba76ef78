package ablecrate.planner.sound;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.audio.FrameRange;
import ablecrate.change.Change;
import ablecrate.change.Verdict;
import ablecrate.codec.Capabilities;
import ablecrate.dsp.LevelMeasure;
import ablecrate.dsp.Levels;
import ablecrate.instrument.Mapping;
import ablecrate.option.CeilingBy;
import ablecrate.option.LevelTarget;
import ablecrate.option.Limits;
import ablecrate.option.Overs;
import ablecrate.option.Treatment;
import ablecrate.signal.LoopFit;
import ablecrate.signal.Hold;
import ablecrate.signal.Measurement;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import org.junit.jupiter.api.Test;

/// What is decided of levels once they are known, and in which words.
class LevelingRulesTest {
    private static final OptionalDouble NONE = OptionalDouble.empty();

    private static Levels levels(double peak, OptionalDouble momentary) {
        return new Levels(OptionalDouble.of(peak - 0.1), OptionalDouble.of(peak), NONE, momentary, NONE, NONE, OptionalDouble.of(peak - 10), 0, false);
    }

    private static Leveling.Sound sound(String group, Treatment treatment, Levels levels, Optional<Measurement.Limited> limited) {
        Optional<Hold> hold = treatment.ceilingDbtp().map(Hold.TruePeaks::new);
        return new Leveling.Sound(group, treatment, List.of(levels), List.of(levels), limited.stream().toList(), hold, 0, true);
    }

    private static Leveling.Sound sound(Treatment treatment, String group, double peak, double momentary) {
        return sound(group, treatment, levels(peak, OptionalDouble.of(momentary)), Optional.empty());
    }

    private static Treatment to(LevelMeasure measure, double value) { return Treatment.NONE.withLevel(Optional.of(new LevelTarget(measure, value))); }

    private static Change change(Leveling.Sound... sounds) { return new Leveling(List.of(sounds)).of(sounds[0]).change().orElseThrow(); }

    private static double gain(Leveling.Sound... sounds) { return new Leveling(List.of(sounds)).of(sounds[0]).gainDb(); }

    @Test void theGainIsTheDistanceToTheTarget() {
        assertThat(gain(sound(to(LevelMeasure.LUFS_M, -18), "a", -12, -25))).isCloseTo(7, within(1e-9));
        assertThat(gain(sound(to(LevelMeasure.TRUE_PEAK, -1), "a", -12, -25))).isCloseTo(11, within(1e-9));
        Change told = change(sound(to(LevelMeasure.LUFS_M, -18), "a", -12, -25));
        assertThat(told.before()).isEqualTo("-25.0 LUFS");
        assertThat(told.after()).isEqualTo("-18.0 LUFS");
        assertThat(told.numbers()).contains(new Change.Numbers(-25, -18, "LUFS"));
        assertThat(told.reason()).isEqualTo("gain +7.00 dB by maximum momentary loudness");
        assertThat(told.verdict()).isEqualTo(Verdict.CONVERTED);
    }

    /// What was measured behind a limiter is what the list says, not the target.
    @Test void theListSaysWhatALimiterLeaves() {
        Treatment treatment = to(LevelMeasure.LUFS_M, -10).withCeiling(Optional.of(-1.0));
        Levels behind = levels(-1, OptionalDouble.of(-12.3));
        Change told = change(sound("a", treatment, levels(-3, OptionalDouble.of(-18)), Optional.of(new Measurement.Limited(8, behind, 6))));
        assertThat(told.after()).isEqualTo("-12.3 LUFS");
        assertThat(told.verdict()).isEqualTo(Verdict.ADJUSTED);
        assertThat(told.reason()).isEqualTo("2.3 dB short of -10.0 LUFS: more than 6.0 dB of limiting would be needed; "
                + "limiter holds -1.0 dBTP: peaks lowered by up to 6.0 dB; gain +8.00 dB by maximum momentary loudness");
    }

    @Test void byGainTheWholeSoundStaysBelowAndSaysHowFarItIsFromTheTarget() {
        Treatment treatment = to(LevelMeasure.LUFS_M, -18).withCeiling(Optional.of(-1.0)).withCeilingBy(CeilingBy.GAIN);
        assertThat(gain(sound(treatment, "a", -3, -25))).isCloseTo(2, within(1e-9));
        assertThat(change(sound(treatment, "a", -3, -25)).reason()).startsWith("5.0 dB short of -18.0 LUFS: held by the ceiling of -1.0 dBTP; gain +2.00 dB");
        assertThat(change(sound(treatment, "a", -3, -25)).after()).isEqualTo("-23.0 LUFS");
    }

    /// One gain for a group: the loudest reaches the target, and none goes over the ceiling; the steps stay.
    @Test void aGroupHasOneGain() {
        Treatment treatment = to(LevelMeasure.LUFS_M, -18).withTogether(true).withCeiling(Optional.of(-1.0));
        Leveling.Sound loud = sound(treatment, "harp", -10, -20), soft = sound(treatment, "harp", -22, -32), other = sound(treatment, "drum", -2, -30);
        Leveling leveling = new Leveling(List.of(loud, soft, other));
        assertThat(leveling.of(loud).gainDb()).isCloseTo(2, within(1e-9));
        assertThat(leveling.of(soft).gainDb()).isEqualTo(leveling.of(loud).gainDb());
        assertThat(leveling.of(soft).hold()).isEmpty();
        assertThat(leveling.of(other).gainDb()).as("held by its ceiling").isCloseTo(1, within(1e-9));
        assertThat(leveling.of(soft).change().orElseThrow().reason()).contains("one gain for 'harp'");
    }

    /// Settings of its own make a sound a group of its own.
    @Test void aSoundWithOtherSettingsHasAnotherGain() {
        Leveling.Sound all = sound(to(LevelMeasure.LUFS_M, -18).withTogether(true), "harp", -10, -20),
                own = sound(to(LevelMeasure.LUFS_M, -23).withTogether(true), "harp", -10, -20);
        assertThat(gain(all, own)).isCloseTo(2, within(1e-9));
        assertThat(gain(own, all)).isCloseTo(-3, within(1e-9));
    }

    /// A figure is never told as none.
    @Test void whatALimiterTakesIsTold() {
        Treatment treatment = to(LevelMeasure.LUFS_M, -20).withCeiling(Optional.of(-1.0));
        for (double deepest : new double[]{3, 0.008})
            assertThat(change(sound("a", treatment, levels(-3, OptionalDouble.of(-25)),
                    Optional.of(new Measurement.Limited(5, levels(-1, OptionalDouble.of(-20)), deepest)))).reason())
                    .startsWith("limiter holds -1.0 dBTP: peaks lowered by " + (deepest == 3 ? "up to 3.0 dB" : "less than 0.1 dB"));
        assertThat(change(sound(treatment, "a", -6.008, -25)).reason()).doesNotContain("limiter");
    }

    @Test void whatIsCutOffIsTold() {
        Treatment treatment = to(LevelMeasure.LUFS_M, -10).withLimits(Limits.NONE.withOvers(Overs.CLIP));
        Change told = change(sound(treatment, "a", -3, -25));
        assertThat(told.verdict()).isEqualTo(Verdict.REDUCED);
        assertThat(told.reason()).contains("11.90 dB beyond full scale are cut off");
        Levels levels = levels(-3, OptionalDouble.of(-25));
        assertThat(change(new Leveling.Sound("a", treatment, List.of(levels), List.of(levels), List.of(), Optional.empty(), 0, false)).verdict())
                .as("float holds it").isEqualTo(Verdict.CONVERTED);
    }

    /// Where overs are lowered, a folder's sounds keep their steps.
    @Test void oversLowerTheWholeFolder() {
        Treatment treatment = Treatment.NONE.withLimits(Limits.NONE.withOvers(Overs.LOWER_TOGETHER));
        Leveling.Sound over = sound(treatment, "harp", 0.6, -20), soft = sound(treatment, "harp", -12, -32);
        assertThat(gain(over, soft)).as("sample peak 0.5").isCloseTo(-0.5, within(1e-9));
        assertThat(gain(soft, over)).isCloseTo(-0.5, within(1e-9));
    }

    @Test void aSoundWithoutThatMeasureIsLeftAloneAndNamed() {
        Leveling.Sound brief = sound("a", to(LevelMeasure.LUFS_S, -20), levels(-6, NONE), Optional.empty());
        assertThat(gain(brief)).isZero();
        assertThat(change(brief).reason()).contains("too short for maximum short-term loudness");
    }

    @Test void silenceStaysSilence() {
        Levels silent = new Levels(NONE, NONE, NONE, NONE, NONE, NONE, NONE, 0, false);
        Leveling.Sound sound = sound("a", to(LevelMeasure.PEAK, -1), silent, Optional.empty());
        assertThat(gain(sound)).isZero();
        assertThat(change(sound).reason()).isEqualTo("nothing to set a level by");
    }

    @Test void whatIsThereAlreadyIsNoChange() {
        Leveling.Sound sound = sound(to(LevelMeasure.LUFS_M, -18), "a", -12, -18.001);
        Leveling.Setting setting = new Leveling(List.of(sound)).of(sound);
        assertThat(setting.gainDb()).isZero();
        assertThat(setting.change()).isEmpty();
    }

    /// A loop of L frames at another rate: arithmetic, checked for every pair of usual rates.
    @Test void everyLoopFitIsWholeAndInTune() {
        int[] rates = {22050, 32000, 44100, 48000, 88200, 96000};
        for (int from : rates)
            for (int to : rates)
                for (int length = 20; length < 700 && from != to; length += 13) {
                    var loop = new FrameRange(1234, 1234 + length);
                    LoopFit turning = LoopFit.of(loop, true, from, to, Capabilities.FineTune.EXACT, 0);
                    assertThat(turning.outputStep() * (loop.length() - 1)).as("from turn to turn").isEqualTo(turning.inputStep() * (turning.to().length() - 1));
                    LoopFit exact = LoopFit.of(loop, false, from, to, Capabilities.FineTune.EXACT, 0);
                    assertThat((double) exact.to().length() * exact.inputStep()).isEqualTo((double) length * exact.outputStep());
                    double played = 1200 * Math.log((double) length * to / from / exact.to().length()) / Math.log(2) + exact.tuningCents();
                    assertThat(played).isCloseTo(0, within(1e-9));
                    LoopFit whole = LoopFit.of(loop, false, from, to, Capabilities.FineTune.WHOLE_CENTS, 0.3);
                    assertThat(Math.abs(whole.leftCents())).isLessThanOrEqualTo(0.8);
                    double told = 0.3 + whole.tuningCents();
                    if (length * (long) to % from != 0) assertThat(told).as("whole cents").isCloseTo(Math.rint(told), within(1e-9));
                    LoopFit none = LoopFit.of(loop, false, from, to, Capabilities.FineTune.NONE, 0);
                    assertThat(none.outputStep() * (long) from).as("the rate itself").isEqualTo(none.inputStep() * (long) to);
                }
    }

    /// More than half a semitone of tuning goes to the root key; what a player does in sum stays.
    @Test void largeTuningsMoveTheRoot() {
        Mapping mapping = Mapping.NONE.withRootKey(Optional.of(60)).withFineTune(40).tunedBy(130);
        assertThat(mapping.rootKey()).contains(58);
        assertThat(mapping.fineTuneCents()).isCloseTo(-30, within(1e-9));
        assertThat(Mapping.NONE.withRootKey(Optional.of(0)).tunedBy(170).rootKey()).contains(0);
    }
}
