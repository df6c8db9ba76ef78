package ablecrate.plan;

import ablecrate.option.LevelTarget;
import ablecrate.option.Overs;
import ablecrate.dsp.Levels;
import java.util.Optional;
import java.util.OptionalDouble;

/// What is known, and said, of an output's levels.
/// @param before what comes to the level stage, where levels are set or shown
/// @param after what was found that it will be, fades and limiter included; without rounding and compression
/// @param asked the level that the output shall have; empty where none is set, or one cannot be measured
/// @param ceilingDbtp that its true peaks shall keep to
/// @param overs what is done where samples lie beyond full scale
public record LevelPlan(Optional<Levels> before, Optional<Levels> after, Optional<LevelTarget> asked, OptionalDouble ceilingDbtp, Overs overs) {
    public static final LevelPlan NONE = new LevelPlan(Optional.empty(), Optional.empty(), Optional.empty(), OptionalDouble.empty(), Overs.LIMIT);

    /// Whether anything is said of levels, so that they have to be measured on the result.
    public boolean isClaimed() { return before.isPresent() || asked.isPresent() || ceilingDbtp.isPresent(); }
}
