package ablecrate.plan;

import java.util.Optional;
import java.util.OptionalDouble;

/// What the user wants done to levels, ends and loops of sounds.
/// @param together whether the sounds of a folder, or of a group the user made, get one gain, so that their steps stay
/// @param ceilingDbtp true peak that no sound may go beyond; absent for none
/// @param trimDbfs below which the ends of a sound are silence and go; absent for no trimming
/// @param loopCrossfadeMs 0 for none
public record Treatment(Optional<LevelTarget> level, boolean together, Optional<Double> ceilingDbtp, CeilingBy ceilingBy, Fade fadeIn, Fade fadeOut,
        Optional<Double> trimDbfs, boolean removesOffset, double loopCrossfadeMs) {
    public static final Treatment NONE = new Treatment(Optional.empty(), false, Optional.empty(), CeilingBy.LIMITER, Fade.NONE_IN, Fade.NONE_OUT,
            Optional.empty(), false, 0);
    /// What a ceiling is set to if nothing else is said: room for converters and for what a lossy format adds (common practice: −0.5 to −1 dBTP).
    public static final double USUAL_CEILING = -1;

    public Treatment withLevel(Optional<LevelTarget> l) {
        return new Treatment(l, together, ceilingDbtp, ceilingBy, fadeIn, fadeOut, trimDbfs, removesOffset, loopCrossfadeMs);
    }

    public Treatment withTogether(boolean t) {
        return new Treatment(level, t, ceilingDbtp, ceilingBy, fadeIn, fadeOut, trimDbfs, removesOffset, loopCrossfadeMs);
    }

    public Treatment withCeiling(Optional<Double> dbtp) {
        return new Treatment(level, together, dbtp, ceilingBy, fadeIn, fadeOut, trimDbfs, removesOffset, loopCrossfadeMs);
    }

    public Treatment withCeilingBy(CeilingBy by) {
        return new Treatment(level, together, ceilingDbtp, by, fadeIn, fadeOut, trimDbfs, removesOffset, loopCrossfadeMs);
    }

    public Treatment withFadeIn(Fade f) {
        return new Treatment(level, together, ceilingDbtp, ceilingBy, f, fadeOut, trimDbfs, removesOffset, loopCrossfadeMs);
    }

    public Treatment withFadeOut(Fade f) {
        return new Treatment(level, together, ceilingDbtp, ceilingBy, fadeIn, f, trimDbfs, removesOffset, loopCrossfadeMs);
    }

    public Treatment withTrim(Optional<Double> dbfs) {
        return new Treatment(level, together, ceilingDbtp, ceilingBy, fadeIn, fadeOut, dbfs, removesOffset, loopCrossfadeMs);
    }

    public Treatment withOffsetRemoved(boolean r) {
        return new Treatment(level, together, ceilingDbtp, ceilingBy, fadeIn, fadeOut, trimDbfs, r, loopCrossfadeMs);
    }

    public Treatment withLoopCrossfade(double ms) {
        return new Treatment(level, together, ceilingDbtp, ceilingBy, fadeIn, fadeOut, trimDbfs, removesOffset, ms);
    }

    boolean setsLevels() { return level.isPresent() || ceilingDbtp.isPresent(); }

    OptionalDouble silenceDbfs() { return trimDbfs.isPresent() ? OptionalDouble.of(trimDbfs.get()) : OptionalDouble.empty(); }
}
