package ablecrate.format.sf2;

import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;

/// Generators, by the numbers of section 8.1.2. What the model has no parameter for has its name in the document, and goes along as it is.
enum Generator {
    START_OFFSET(0, 0), END_OFFSET(1, 0), LOOP_START_OFFSET(2, 0), LOOP_END_OFFSET(3, 0), START_COARSE(4, 0), VIB_LFO_TO_PITCH(6, 0), FILTER_FC(8,
            Sf2Units.OPEN_FILTER),
    FILTER_Q(9, 0), MOD_ENV_TO_FC(11, 0), END_COARSE(12, 0), PAN(17, 0), DELAY_VIB_LFO(23, -12_000), FREQ_VIB_LFO(24, 0), ATTACK_MOD_ENV(26,
            -12_000),
    HOLD_MOD_ENV(27, -12_000), DECAY_MOD_ENV(28, -12_000), SUSTAIN_MOD_ENV(29, 0), RELEASE_MOD_ENV(30, -12_000), DELAY_VOL_ENV(33,
            -12_000),
    ATTACK_VOL_ENV(34, -12_000), HOLD_VOL_ENV(35, -12_000), DECAY_VOL_ENV(36, -12_000), SUSTAIN_VOL_ENV(37, 0), RELEASE_VOL_ENV(38,
            -12_000),
    INSTRUMENT(41, 0), KEY_RANGE(43, 0), VEL_RANGE(44, 0), LOOP_START_COARSE(45, 0), ATTENUATION(48, 0), LOOP_END_COARSE(50, 0), COARSE_TUNE(51,
            0),
    FINE_TUNE(52, 0), SAMPLE_ID(53, 0), SAMPLE_MODES(54, 0), SCALE_TUNING(56, 100), EXCLUSIVE_CLASS(57, 0), ROOT_KEY(58, -1),

    MOD_LFO_TO_PITCH(5, "modLfoToPitch", 0), MOD_ENV_TO_PITCH(7, "modEnvToPitch", 0), MOD_LFO_TO_FC(10, "modLfoToFilterFc", 0), MOD_LFO_TO_VOLUME(13,
            "modLfoToVolume", 0),
    CHORUS(15, "chorusEffectsSend", 0), REVERB(16, "reverbEffectsSend", 0), DELAY_MOD_LFO(21, "delayModLFO", -12_000), FREQ_MOD_LFO(22, "freqModLFO",
            0),
    DELAY_MOD_ENV(25, "delayModEnv", -12_000), KEY_TO_MOD_ENV_HOLD(31, "keynumToModEnvHold", 0), KEY_TO_MOD_ENV_DECAY(32, "keynumToModEnvDecay",
            0),
    KEY_TO_VOL_ENV_HOLD(39, "keynumToVolEnvHold", 0), KEY_TO_VOL_ENV_DECAY(40, "keynumToVolEnvDecay", 0), FIXED_KEY(46, "keynum", -1), FIXED_VELOCITY(47,
            "velocity", -1);

    private static final Map<Integer, Generator> BY_NUMBER = Arrays.stream(values()).collect(Collectors.toMap(Generator::number, g -> g));

    private static final Map<String, Generator> BY_NAME = Arrays.stream(values()).filter(Generator::isExtra)
            .collect(Collectors.toMap(g -> g.documentName, g -> g));

    private final int number, usual;
    private final String documentName;

    Generator(int number, int usual) { this(number, "", usual); }

    Generator(int number, String documentName, int usual) {
        this.number = number;
        this.documentName = documentName;
        this.usual = usual;
    }

    /// Whether the model has no parameter for it.
    boolean isExtra() { return !documentName.isEmpty(); }

    /// As the document calls it; of extras alone.
    String documentName() { return documentName; }

    /// What holds where nothing is said (section 8.1.3).
    int usual() { return usual; }

    static Optional<Generator> extra(String documentName) { return Optional.ofNullable(BY_NAME.get(documentName)); }

    int number() { return number; }

    static Optional<Generator> numbered(int number) { return Optional.ofNullable(BY_NUMBER.get(number)); }

    /// Whether a preset's value is added to the instrument's; the others stand in instruments alone (section 8.5).
    boolean isAdditive() {
        return switch (this) {
            case START_OFFSET, END_OFFSET, LOOP_START_OFFSET, LOOP_END_OFFSET, START_COARSE, END_COARSE, LOOP_START_COARSE, LOOP_END_COARSE, INSTRUMENT,
                    KEY_RANGE, VEL_RANGE, SAMPLE_ID, SAMPLE_MODES, EXCLUSIVE_CLASS, ROOT_KEY, FIXED_KEY, FIXED_VELOCITY ->
                false;
            default -> true;
        };
    }

    /// Whether an instrument may say it once for all of its zones, and each zone say otherwise.
    boolean isShared() { return isAdditive() || this == SAMPLE_MODES || this == EXCLUSIVE_CLASS; }

    /// Whether it does anything: speed and delay of an oscillator or envelope that moves nothing do not.
    /// @param amounts of the zone
    boolean isHeard(Map<Generator, Integer> amounts) {
        List<Generator> depths = switch (this) {
            case DELAY_MOD_LFO, FREQ_MOD_LFO -> List.of(MOD_LFO_TO_PITCH, MOD_LFO_TO_FC, MOD_LFO_TO_VOLUME);
            case DELAY_MOD_ENV, KEY_TO_MOD_ENV_HOLD, KEY_TO_MOD_ENV_DECAY -> List.of(MOD_ENV_TO_PITCH, MOD_ENV_TO_FC);
            default -> List.of(this);
        };
        return depths.stream().anyMatch(d -> amounts.getOrDefault(d, d.usual) != d.usual);
    }
}
