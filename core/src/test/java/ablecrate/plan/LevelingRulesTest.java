package ablecrate.plan;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ablecrate.audio.FrameRange;
import ablecrate.codec.Capabilities;
import ablecrate.dsp.LevelMeasure;
import ablecrate.dsp.Levels;
import ablecrate.instrument.Mapping;
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

    private static Leveling.Sound sound(String group, double peak, double momentary) {
        return new Leveling.Sound(group, Optional.of(List.of(levels(peak, OptionalDouble.of(momentary)))));
    }

    private static Treatment to(LevelMeasure measure, double value) { return Treatment.NONE.withLevel(Optional.of(new LevelTarget(measure, value))); }

    private static Change change(Treatment treatment, Leveling.Sound... sounds) {
        return new Leveling(treatment, List.of(sounds)).of(sounds[0], true).change().orElseThrow();
    }

    private static double gain(Treatment treatment, Leveling.Sound... sounds) { return new Leveling(treatment, List.of(sounds)).of(sounds[0], true).gainDb(); }

    @Test void theGainIsTheDistanceToTheTarget() {
        assertThat(gain(to(LevelMeasure.LUFS_M, -18), sound("a", -12, -25))).isCloseTo(7, within(1e-9));
        assertThat(gain(to(LevelMeasure.TRUE_PEAK, -1), sound("a", -12, -25))).isCloseTo(11, within(1e-9));
        Change told = change(to(LevelMeasure.LUFS_M, -18), sound("a", -12, -25));
        assertThat(told.before()).isEqualTo("-25.0 LUFS");
        assertThat(told.after()).isEqualTo("-18.0 LUFS");
        assertThat(told.reason()).isEqualTo("gain +7.00 dB by maximum momentary loudness");
        assertThat(told.verdict()).isEqualTo(Verdict.CONVERTED);
    }

    @Test void aLimiterIsUsedOnlyWhereThereArePeaksToHold() {
        Treatment treatment = to(LevelMeasure.LUFS_M, -18).withCeiling(Optional.of(-1.0));
        Leveling.Sound quiet = sound("a", -12, -25), spiky = sound("b", -3, -25);
        Leveling leveling = new Leveling(treatment, List.of(quiet, spiky));
        assertThat(leveling.of(quiet, true).limits()).isFalse();
        assertThat(leveling.of(spiky, true).limits()).isTrue();
        assertThat(leveling.of(spiky, true).change().orElseThrow()).satisfies(c -> {
            assertThat(c.verdict()).isEqualTo(Verdict.ADJUSTED);
            assertThat(c.reason()).endsWith("limiter holds -1.0 dBTP: peaks lowered by up to 5.0 dB");
        });
    }

    @Test void byGainTheWholeSoundStaysBelowAndSaysHowFarItIsFromTheTarget() {
        Treatment treatment = to(LevelMeasure.LUFS_M, -18).withCeiling(Optional.of(-1.0)).withCeilingBy(CeilingBy.GAIN);
        assertThat(gain(treatment, sound("a", -3, -25))).isCloseTo(2, within(1e-9));
        assertThat(change(treatment, sound("a", -3, -25)).reason()).endsWith("held by the ceiling of -1.0 dBTP, 5.0 dB short of the target");
    }

    /// One gain for a group: the loudest reaches the target, and none goes over the ceiling; the steps stay.
    @Test void aGroupHasOneGain() {
        Treatment treatment = to(LevelMeasure.LUFS_M, -18).withTogether(true).withCeiling(Optional.of(-1.0));
        Leveling.Sound loud = sound("harp", -10, -20), soft = sound("harp", -22, -32), other = sound("drum", -2, -30);
        Leveling leveling = new Leveling(treatment, List.of(loud, soft, other));
        assertThat(leveling.of(loud, true).gainDb()).isCloseTo(2, within(1e-9));
        assertThat(leveling.of(soft, true).gainDb()).isEqualTo(leveling.of(loud, true).gainDb());
        assertThat(leveling.of(soft, true).limits()).isFalse();
        assertThat(leveling.of(other, true).gainDb()).as("held by its ceiling").isCloseTo(1, within(1e-9));
        assertThat(leveling.of(soft, true).change().orElseThrow().reason()).contains("one gain for 'harp'");
    }

    /// A figure is never told as none.
    @Test void whatALimiterTakesIsTold() {
        Treatment treatment = to(LevelMeasure.LUFS_M, -20).withCeiling(Optional.of(-1.0));
        assertThat(change(treatment, sound("a", -3, -25)).reason()).endsWith("limiter holds -1.0 dBTP: peaks lowered by up to 3.0 dB");
        assertThat(change(treatment, sound("a", -5.992, -25)).reason()).endsWith("limiter holds -1.0 dBTP: peaks lowered by less than 0.1 dB");
        assertThat(change(treatment, sound("a", -6.008, -25)).reason()).doesNotContain("limiter");
    }

    @Test void withoutACeilingClippingIsTold() {
        Change told = change(to(LevelMeasure.LUFS_M, -10), sound("a", -3, -25));
        assertThat(told.verdict()).isEqualTo(Verdict.REDUCED);
        assertThat(told.reason()).contains("true peak +12.0 dBTP would clip, set a ceiling");
        Leveling.Sound sound = sound("a", -3, -25);
        assertThat(new Leveling(to(LevelMeasure.LUFS_M, -10), List.of(sound)).of(sound, false).change().orElseThrow().verdict()).as("float holds it")
                .isEqualTo(Verdict.CONVERTED);
    }

    @Test void aSoundWithoutThatMeasureIsLeftAloneAndNamed() {
        Leveling.Sound brief = new Leveling.Sound("a", Optional.of(List.of(levels(-6, NONE))));
        Leveling leveling = new Leveling(to(LevelMeasure.LUFS_S, -20), List.of(brief));
        assertThat(leveling.of(brief, true).gainDb()).isZero();
        assertThat(leveling.of(brief, true).change().orElseThrow().reason()).contains("too short for maximum short-term loudness");
    }

    @Test void silenceStaysSilence() {
        Levels silent = new Levels(NONE, NONE, NONE, NONE, NONE, NONE, NONE, 0, false);
        Leveling.Sound sound = new Leveling.Sound("a", Optional.of(List.of(silent)));
        Leveling.Setting setting = new Leveling(to(LevelMeasure.PEAK, -1), List.of(sound)).of(sound, true);
        assertThat(setting.gainDb()).isZero();
        assertThat(setting.change().orElseThrow().reason()).isEqualTo("nothing to set a level by");
    }

    @Test void whatIsThereAlreadyIsNoChange() {
        Leveling.Sound sound = sound("a", -12, -18.001);
        assertThat(new Leveling(to(LevelMeasure.LUFS_M, -18), List.of(sound)).of(sound, true)).isEqualTo(Leveling.Setting.NONE);
    }

    /// A loop of L frames at another rate: arithmetic, checked for every pair of usual rates.
    @Test void everyLoopFitIsWholeAndInTune() {
        int[] rates = {22050, 32000, 44100, 48000, 88200, 96000};
        for (int from : rates)
            for (int to : rates)
                for (int length = 20; length < 700 && from != to; length += 13) {
                    var loop = new FrameRange(1234, 1234 + length);
                    LoopFit exact = LoopFit.of(loop, from, to, Capabilities.FineTune.EXACT, 0);
                    assertThat((double) exact.to().length() * exact.inputStep()).isEqualTo((double) length * exact.outputStep());
                    double played = 1200 * Math.log((double) length * to / from / exact.to().length()) / Math.log(2) + exact.tuningCents();
                    assertThat(played).isCloseTo(0, within(1e-9));
                    LoopFit whole = LoopFit.of(loop, from, to, Capabilities.FineTune.WHOLE_CENTS, 0.3);
                    assertThat(Math.abs(whole.leftCents())).isLessThanOrEqualTo(0.8);
                    double told = 0.3 + whole.tuningCents();
                    if (length * (long) to % from != 0) assertThat(told).as("whole cents").isCloseTo(Math.rint(told), within(1e-9));
                    LoopFit none = LoopFit.of(loop, from, to, Capabilities.FineTune.NONE, 0);
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
