package ablecrate.fit;

/// What an instrument loses, measured on rendered notes, in dB.
/// @param meanDb over its keys, and over velocities as they are played
/// @param ninetiethDb what nine notes of ten stay below
/// @param levelDb mean difference of levels; `worstLevelDb` is the largest
public record Harm(double meanDb, double ninetiethDb, double worstDb, int worstKey, int worstVelocity, double levelDb, double worstLevelDb, int notes) {
    public static final Harm NONE = new Harm(0, 0, 0, 0, 0, 0, 0, 0);
}
