package ablecrate.format.sf2;

import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;

/// Generators, by the numbers of section 8.1.2, as far as the model has what they set.
enum Generator {
    START_OFFSET(0), END_OFFSET(1), LOOP_START_OFFSET(2), LOOP_END_OFFSET(3), START_COARSE(4), VIB_LFO_TO_PITCH(6), FILTER_FC(8), FILTER_Q(9), MOD_ENV_TO_FC(
            11),
    END_COARSE(12), PAN(17), DELAY_VIB_LFO(23), FREQ_VIB_LFO(24), ATTACK_MOD_ENV(26), HOLD_MOD_ENV(27), DECAY_MOD_ENV(28), SUSTAIN_MOD_ENV(
            29),
    RELEASE_MOD_ENV(30), DELAY_VOL_ENV(33), ATTACK_VOL_ENV(34), HOLD_VOL_ENV(35), DECAY_VOL_ENV(36), SUSTAIN_VOL_ENV(
            37),
    RELEASE_VOL_ENV(38), INSTRUMENT(41), KEY_RANGE(43), VEL_RANGE(44), LOOP_START_COARSE(45), ATTENUATION(48), LOOP_END_COARSE(
            50),
    COARSE_TUNE(51), FINE_TUNE(52), SAMPLE_ID(53), SAMPLE_MODES(54), SCALE_TUNING(56), EXCLUSIVE_CLASS(57), ROOT_KEY(58);

    private static final Map<Integer, Generator> BY_NUMBER = Arrays.stream(values()).collect(Collectors.toMap(Generator::number, g -> g));

    private final int number;

    Generator(int number) { this.number = number; }

    int number() { return number; }

    static Optional<Generator> numbered(int number) { return Optional.ofNullable(BY_NUMBER.get(number)); }

    /// Whether a preset's value is added to the instrument's; the others stand in instruments alone (section 8.5).
    boolean isAdditive() {
        return switch (this) {
            case START_OFFSET, END_OFFSET, LOOP_START_OFFSET, LOOP_END_OFFSET, START_COARSE, END_COARSE, LOOP_START_COARSE, LOOP_END_COARSE, INSTRUMENT,
                    KEY_RANGE, VEL_RANGE, SAMPLE_ID, SAMPLE_MODES, EXCLUSIVE_CLASS, ROOT_KEY ->
                false;
            default -> true;
        };
    }

    /// Speed and delay of an oscillator or envelope that moves nothing are nothing lost.
    static boolean isHeard(int number, Map<Integer, Integer> own, Map<Integer, Integer> added) {
        List<Integer> depths = switch (number) {
            case 21, 22 -> List.of(5, 10, 13);
            case 25, 31, 32 -> List.of(7, FILTER_ENVELOPE);
            default -> List.of(number);
        };
        return depths.stream().anyMatch(d -> own.getOrDefault(d, 0) + added.getOrDefault(d, 0) != 0);
    }

    private static final int FILTER_ENVELOPE = 11;

    /// Names of generators that the model has nothing for, for people.
    static String nameOf(int number) {
        return switch (number) {
            case 5 -> "modLfoToPitch";
            case 7 -> "modEnvToPitch";
            case 10 -> "modLfoToFilterFc";
            case 13 -> "modLfoToVolume";
            case 15 -> "chorusEffectsSend";
            case 16 -> "reverbEffectsSend";
            case 21 -> "delayModLFO";
            case 22 -> "freqModLFO";
            case 25 -> "delayModEnv";
            case 31 -> "keynumToModEnvHold";
            case 32 -> "keynumToModEnvDecay";
            case 39 -> "keynumToVolEnvHold";
            case 40 -> "keynumToVolEnvDecay";
            case 46 -> "keynum";
            case 47 -> "velocity";
            default -> "generator " + number;
        };
    }
}
