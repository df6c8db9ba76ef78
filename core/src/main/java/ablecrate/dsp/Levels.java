package ablecrate.dsp;

import java.util.OptionalDouble;

/// How loud a sound is, by every measure. Absent where a measure is not defined for it: too short, or silent.
/// @param samplePeakDbfs greatest sample of any channel
/// @param truePeakDbtp greatest value between samples of any channel
/// @param loudnessIntegratedLufs gated; from 400 ms on
/// @param loudnessMomentaryMaxLufs greatest of 400 ms
/// @param loudnessShortTermMaxLufs greatest of 3 s; from 3 s on
/// @param loudnessRangeLu from 3 s on
/// @param rmsDbfs root of the mean square over all channels; a full-scale sine has −3.01
/// @param dcOffset the mean of the channel where it is farthest from 0, full scale is 1
/// @param isMomentaryPadded the sound is shorter than 400 ms: its momentary loudness is that of the sound and silence after it
public record Levels(OptionalDouble samplePeakDbfs, OptionalDouble truePeakDbtp, OptionalDouble loudnessIntegratedLufs, OptionalDouble loudnessMomentaryMaxLufs,
        OptionalDouble loudnessShortTermMaxLufs, OptionalDouble loudnessRangeLu, OptionalDouble rmsDbfs, double dcOffset, boolean isMomentaryPadded) {

    public OptionalDouble by(LevelMeasure measure) {
        return switch (measure) {
            case PEAK -> samplePeakDbfs;
            case TRUE_PEAK -> truePeakDbtp;
            case LUFS_I -> loudnessIntegratedLufs;
            case LUFS_M -> loudnessMomentaryMaxLufs;
            case LUFS_S -> loudnessShortTermMaxLufs;
        };
    }

    /// The same sound after a gain.
    public Levels plus(double gainDb) {
        return new Levels(plus(samplePeakDbfs, gainDb), plus(truePeakDbtp, gainDb), plus(loudnessIntegratedLufs, gainDb),
                plus(loudnessMomentaryMaxLufs, gainDb),
                plus(loudnessShortTermMaxLufs, gainDb), loudnessRangeLu, plus(rmsDbfs, gainDb), dcOffset * Decibels.toFactor(gainDb), isMomentaryPadded);
    }

    /// To thousandths, as figures are shown and kept in files.
    public Levels rounded() {
        return new Levels(rounded(samplePeakDbfs), rounded(truePeakDbtp), rounded(loudnessIntegratedLufs), rounded(loudnessMomentaryMaxLufs),
                rounded(loudnessShortTermMaxLufs), rounded(loudnessRangeLu), rounded(rmsDbfs), Math.rint(dcOffset * 1e6) / 1e6, isMomentaryPadded);
    }

    private static OptionalDouble rounded(OptionalDouble level) {
        return level.isPresent() ? OptionalDouble.of(Math.rint(level.getAsDouble() * 1000) / 1000) : level;
    }

    private static OptionalDouble plus(OptionalDouble level, double gainDb) {
        return level.isPresent() ? OptionalDouble.of(level.getAsDouble() + gainDb) : level;
    }
}
