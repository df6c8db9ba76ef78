package ablecrate.option;

import java.util.Optional;

/// Where a sound starts and ends, beside what is faded.
/// @param trimDbfs below which its ends are silence and go; absent for no trimming
/// @param onAttack whether it starts on its first attack
/// @param preRollMs what stays in front of that
/// @param clickless whether ends that step from or to silence are faded
public record Edges(Optional<Double> trimDbfs, boolean onAttack, double preRollMs, boolean clickless) {
    /// A pre-roll of 1 ms keeps the foot of attacks (common practice).
    public static final Edges NONE = new Edges(Optional.empty(), false, 1, false);
    private static final double LONGEST_PRE_ROLL_MS = 1000;

    public Edges {
        trimDbfs.ifPresent(t -> Bounds.require(t >= -200 && t <= 0, "silence is what lies below a level from -200 to 0 dBFS, not", t));
        Bounds.require(preRollMs >= 0 && preRollMs <= LONGEST_PRE_ROLL_MS, "what stays before an attack lasts from 0 to 1000 ms, not", preRollMs);
    }

    public Edges withTrim(Optional<Double> dbfs) { return new Edges(dbfs, onAttack, preRollMs, clickless); }

    public Edges withOnAttack(boolean a) { return new Edges(trimDbfs, a, preRollMs, clickless); }

    public Edges withPreRoll(double ms) { return new Edges(trimDbfs, onAttack, ms, clickless); }

    public Edges withClickless(boolean c) { return new Edges(trimDbfs, onAttack, preRollMs, c); }
}
